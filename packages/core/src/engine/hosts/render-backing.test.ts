import { mudLine } from '../../demo/index.js';
import { plainGrowl } from '../../testing/plain-growl.js';
import { loopFrames } from '../../units/index.js';
import { renderBackingSteps } from './render-backing.js';
import { renderLoop } from './render-loop.js';

const RATE = 12000;
function backing(
  ...[sound, under]: [Parameters<typeof renderBackingSteps>[0], Parameters<typeof renderBackingSteps>[1]]
) {
  const steps = renderBackingSteps(sound, under, { sampleRateHz: RATE });
  let share = 0;
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    expect(step.value).toBeGreaterThanOrEqual(share);
    share = step.value;
  }
}

describe('a sound as a backing part', () => {
  it('is its bass at the other tempo, as often as the other loop is longer, each round at its bar', () => {
    const sound = mudLine();
    const { left } = backing(sound, { tempoBpm: 133.7, bars: 4 });
    const { bass } = renderLoop(
      { ...sound, ground: { ...sound.ground, tempoBpm: 133.7 } },
      { sampleRateHz: RATE, stems: 'none' },
    );
    expect(left.length).toBe(loopFrames(4, 133.7, RATE));
    const second = loopFrames(2, 133.7, RATE);
    for (const from of [0, second])
      expect(Array.from(left.subarray(from, from + 4000))).toEqual(Array.from(bass.left.subarray(0, 4000)));
    expect(bass.left.some((x) => Math.abs(x) > 0.1)).toBe(true);
  });

  it('has no gap where one round ends and the next begins, whatever the tempo rounds to', () => {
    const sound = plainGrowl();
    for (const tempoBpm of [97.3, 139.9]) {
      const { left, right } = backing(
        {
          ...sound,
          ground: { ...sound.ground, bars: 1 },
          kick: { ...sound.kick, hits: [] },
          line: { notes: [{ ...sound.line.notes[0], tick: 0, ticks: 1920 }] },
        },
        { tempoBpm, bars: 8 },
      );
      expect(left.length).toBe(loopFrames(8, tempoBpm, RATE));
      const steepest = (from: number, to: number) => {
        let most = 0;
        for (let i = from; i < to; i++) most = Math.max(most, Math.abs(left[i] - left[i - 1]));
        return most;
      };
      const inside = steepest(1000, loopFrames(1, tempoBpm, RATE) - 100);
      for (let round = 1; round < 8; round++)
        expect(
          steepest(loopFrames(round, tempoBpm, RATE) - 20, loopFrames(round, tempoBpm, RATE) + 20),
        ).toBeLessThanOrEqual(1.2 * inside);
      expect(right.length).toBe(left.length);
    }
  });

  it('is whole where its own loop is the longer one, ducked as it is there, and without its kick', () => {
    const sound = mudLine();
    Object.assign(sound.duck, { on: true, amountDb: 24 });
    const { left } = backing(sound, { tempoBpm: 128, bars: 1 });
    const own = renderLoop(sound, { sampleRateHz: RATE, stems: 'none' });
    expect(Array.from(left)).toEqual(Array.from(own.bass.left));
    expect(own.kick.left.some((x) => Math.abs(x) > 0.1)).toBe(true);
  });
});
