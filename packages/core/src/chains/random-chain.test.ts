import { findGritProblems, type GritUnit } from '../document/index.js';
import { unitOf } from '../testing/chain.js';
import { RATE, saw } from '../testing/signals.js';
import { measureLoudness } from '../measure/index.js';
import { matchedChain, randomChain } from './random-chain.js';
import { matchedLevelDb, measureUnits, throughUnit } from './measure-units.js';

const OPTIONS = { sampleRateHz: RATE };
const growl = saw(55, 0.5, { belowHz: 6000 }).map((x) => 0.5 * x);
const loudness = (channels: readonly Float32Array[]) =>
  // One channel sounds on both sides.
  measureLoudness({
    channels: channels.length === 1 ? [channels[0], channels[0]] : channels,
    sampleRateHz: RATE,
  }).integrated.value!;
const through = (units: readonly GritUnit[]) =>
  units.reduce<readonly Float32Array[]>((audio, unit) => throughUnit(unit, audio, OPTIONS), [growl]);

describe('a chain by chance', () => {
  it('is the same for the same seed, another for another, and valid', () => {
    const chains = Array.from({ length: 200 }, (_, seed) => randomChain(seed, [], 4));
    expect(randomChain(17, [], 4)).toEqual(chains[17]);
    expect(new Set(chains.map((chain) => JSON.stringify(chain))).size).toBeGreaterThan(190);
    for (const units of chains) {
      expect(units.length).toBeGreaterThan(0);
      expect(units.length).toBeLessThanOrEqual(4);
      expect(
        findGritProblems({ format: 'abyssal.chain', formatVersion: 1, name: '', units, figures: null }),
      ).toEqual([]);
    }
    // Every kind that chance takes comes up.
    expect(new Set(chains.flatMap((chain) => chain.map(({ kind }) => kind))).size).toBeGreaterThan(18);
  });

  it('leaves locked units where they stand', () => {
    const kept = { ...unitOf('tube', { id: 'mine', driveDb: 3 }), locked: true };
    const present = [unitOf('fold'), kept, unitOf('tilt')];
    for (let seed = 0; seed < 40; seed++) {
      const chain = randomChain(seed, present, 8);
      expect(chain[Math.min(1, chain.length - 1)]).toBe(kept);
      expect(chain.filter(({ id }) => id === 'mine')).toHaveLength(1);
    }
  });

  // The check, over 500 seeds: what comes out is finite, sounds, and is within 3 dB of what went in.
  it.each([0, 1, 2, 3, 4])(
    'of any seed (%i of 5 parts of 500): no NaN, no silence, within 3 dB of the loudness',
    (part) => {
      const wanted = loudness([growl]);
      for (let seed = part; seed < 500; seed += 5) {
        const matched = matchedChain(randomChain(seed, [], 4), [growl], OPTIONS);
        const out = through(matched);
        expect(out.every((side) => side.every(Number.isFinite))).toBe(true);
        expect([seed, Math.abs(loudness(out) - wanted) < 3]).toEqual([seed, true]);
      }
    },
  );
});

describe('level and crest of units', () => {
  it('are those of what goes in and what comes out, unit by unit', () => {
    const units = [unitOf('hard clip', { driveDb: 24 }), unitOf('tilt', { tiltDb: 0, levelDb: -6 })];
    const [clip, tilt] = measureUnits(units, [growl], OPTIONS);
    expect(clip.before.loudnessLufs).toBeCloseTo(loudness([growl]), 6);
    expect(clip.after.crestDb!).toBeLessThan(clip.before.crestDb! - 2.5);
    expect(tilt.before).toEqual(clip.after);
    expect(tilt.after.loudnessLufs! - tilt.before.loudnessLufs!).toBeCloseTo(-6, 2);
    expect(tilt.after.crestDb!).toBeCloseTo(tilt.before.crestDb!, 3);
  });

  it('a matched unit is as loud behind it as in front of it, to a tenth of a dB', () => {
    for (const unit of [
      unitOf('fold', { driveDb: 14 }),
      unitOf('compressor', { thresholdDb: -30, ratio: 10 }),
    ]) {
      const [measured] = measureUnits([unit], [growl], OPTIONS);
      const matched = { ...unit, levelDb: matchedLevelDb(unit, measured) };
      expect(Math.abs(loudness(throughUnit(matched, [growl], OPTIONS)) - loudness([growl]))).toBeLessThan(
        0.1,
      );
    }
    const silent = measureUnits([unitOf('tilt')], [new Float32Array(RATE)], OPTIONS)[0];
    expect(silent.after).toEqual({ loudnessLufs: null, crestDb: null });
    expect(matchedLevelDb(unitOf('tilt', { levelDb: 3 }), silent)).toBe(3);
  });
});
