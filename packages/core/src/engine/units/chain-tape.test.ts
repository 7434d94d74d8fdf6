import { cleanUnit, numbersOfUnits, type GritUnit } from '../../document/index.js';
import { BLOCK, STEP } from '../../dsp/index.js';
import { aloneWith } from '../../testing/chain.js';
import { UnitChain } from './unit-chain.js';

/** Runs a ramp through a chain and gives the tape with what came out. */
function taped(units: readonly GritUnit[], stereo: boolean, frames: number, most = frames) {
  const chain = new UnitChain(units, { ...aloneWith(), stereo }, 0);
  const tape = chain.record(most);
  const numbers = Float64Array.from(numbersOfUnits(units), ({ value }) => value);
  const [left, right] = [new Float64Array(BLOCK), new Float64Array(BLOCK)];
  const out: number[] = [];
  for (let at = 0; at < frames; at += BLOCK) {
    for (let i = 0; i < BLOCK; i++) {
      left[i] = (at + i) / frames;
      right[i] = stereo ? -left[i] : 0;
    }
    for (let from = 0; from < BLOCK; from += STEP) chain.process(left, right, from, from + STEP, numbers);
    out.push(...left);
  }
  return { tape, out };
}
const level = (id: string, levelDb: number, more: object = {}) =>
  cleanUnit('tilt', { id, tiltDb: 0, levelDb, ...more });
const gain = (db: number) => 10 ** (db / 20);

describe('a chain that is written down', () => {
  it('has what goes in, then what each unit that is on gives, frame for frame', () => {
    const { tape, out } = taped(
      [level('a', -6), level('off', 20, { on: false }), level('b', 12)],
      false,
      512,
    );
    expect(tape.ids).toEqual(['a', 'b']);
    expect(tape.stages).toHaveLength(3);
    const [before, first, second] = tape.stages.map(([left]) => left);
    for (let i = 0; i < 512; i += 37) {
      expect(before[i]).toBeCloseTo(i / 512, 6);
      expect(first[i]).toBeCloseTo((gain(-6) * i) / 512, 6);
      expect(second[i]).toBeCloseTo(out[i], 6);
    }
  });

  it('has both sides, one and the same until a unit parts them', () => {
    const apart = taped(
      [level('a', 0), cleanUnit('pan', { id: 'p', panPct: 60, aboveHz: 20 })],
      false,
      256,
    ).tape;
    const [before, level0, panned] = apart.stages.map(([left, right]) => [left[200], right[200]]);
    expect(before[1]).toBe(before[0]);
    expect(level0[1]).toBe(level0[0]);
    expect(Math.abs(panned[0] - panned[1])).toBeGreaterThan(0.1);
    const both = taped([level('a', 0)], true, 256).tape;
    expect(both.stages[0][1][200]).toBe(-both.stages[0][0][200]);
  });

  it('ends where it is full, and has what goes into a chain without units', () => {
    const { tape } = taped([], false, 512, 100);
    expect(tape.ids).toEqual([]);
    expect(tape.stages).toHaveLength(1);
    expect(tape.stages[0][0]).toHaveLength(100);
    expect(tape.stages[0][0][99]).toBeCloseTo(99 / 512, 6);
  });
});
