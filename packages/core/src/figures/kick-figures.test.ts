import { trenchGrowl } from '../demo/index.js';
import { cleanWavKick } from '../document/index.js';
import type { Recording } from '../engine/index.js';
import { kickFigures, type KickMemory } from './kick-figures.js';

const RATE = 48000;
const sound = trenchGrowl();

describe("the kick's own figures, where the last hit is remembered", () => {
  const memory: KickMemory = { last: null };
  const found = kickFigures(sound, RATE, undefined, memory);

  it('are found once for the same hit, whatever else of the sound changes', () => {
    expect(found).toEqual(kickFigures(sound, RATE));
    const other = { ...sound, ground: { ...sound.ground, tempoBpm: 150 }, layers: sound.layers.slice(1) };
    expect(kickFigures(other, RATE, undefined, memory)).toBe(found);
  });

  it('are found anew for another hit, another tuning and another rate', () => {
    const { kick, ground } = sound;
    const lower = {
      ...sound,
      kick: { ...kick, made: { ...kick.made, tailHz: 0.9 * kick.made.tailHz } },
    };
    for (const [other, rate] of [
      [lower, RATE],
      [{ ...sound, ground: { ...ground, a4Hz: 432 } }, RATE],
      [sound, 44100],
    ] as const) {
      const kept: KickMemory = { last: memory.last };
      expect(kickFigures(other, rate, undefined, kept)).toEqual(kickFigures(other, rate));
      expect(kept.last).not.toBe(memory.last);
    }
    expect(kickFigures(lower, RATE).tail!.hz).toBeLessThan(found.tail!.hz - 2);
  });

  it('follow a recording that comes in', () => {
    const wav = cleanWavKick('a'.repeat(64), 'hit.wav');
    const own = { ...sound, kick: { ...sound.kick, source: 'wav' as const, wav } };
    const hit: Recording = {
      sampleRateHz: RATE,
      channels: [
        Float32Array.from(
          { length: 0.4 * RATE },
          (_, i) => Math.exp((-12 * i) / RATE) * Math.sin((2 * Math.PI * 55 * i) / RATE),
        ),
      ],
    };
    const kept: KickMemory = { last: null };
    expect(kickFigures(own, RATE, new Map(), kept)).toEqual({ tail: null, lengthS: null });
    const { tail } = kickFigures(own, RATE, new Map([[wav.asset, hit]]), kept);
    expect(Math.abs(tail!.hz - 55)).toBeLessThan(0.5);
  });
});
