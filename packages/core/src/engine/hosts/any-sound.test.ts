import fc from 'fast-check';
import { findProblems, type Layer } from '../../document/index.js';
import { anyAssets, anySound } from '../../testing/any-sound.js';
import { createEngine } from './engine.js';
import { renderLoop } from './render-loop.js';

const RATE = 24000;

/** A layer that ends within a moment, as long as nothing sticks. */
const brief = (layer: Layer): Layer => ({
  ...layer,
  loudness: { ...layer.loudness, releaseMs: Math.min(layer.loudness.releaseMs, 100) },
  tones: layer.tones.map((tone) =>
    tone.source.kind === 'harmonics'
      ? { ...tone, source: { ...tone.source, ringMs: Math.min(tone.source.ringMs, 300) } }
      : tone,
  ),
  plays: { ...layer.plays, rateBeats: Math.min(layer.plays.rateBeats, 0.5) },
});

describe('any valid sound', () => {
  it('renders to numbers, and to none above its ceiling', () => {
    fc.assert(
      fc.property(anySound, (sound) => {
        expect(findProblems(sound)).toEqual([]);
        const { all } = renderLoop(sound, { sampleRateHz: RATE, assets: anyAssets, stems: 'none' });
        // A link may not reach the ceiling itself, so that the bound stands.
        const ceiling = 10 ** (sound.output.ceilingDb / 20);
        for (const side of [all.left, all.right]) {
          let most = 0;
          for (let i = 0; i < side.length; i++) {
            if (!Number.isFinite(side[i])) throw new Error(`sample ${i} is ${side[i]}`);
            most = Math.max(most, Math.abs(side[i]));
          }
          expect(most).toBeLessThanOrEqual(ceiling * (1 + 1e-6));
        }
      }),
      { numRuns: 60, seed: 20261125 },
    );
  });

  it('falls silent once its notes have ended', () => {
    fc.assert(
      fc.property(anySound, fc.integer({ min: 12, max: 96 }), (sound, pitch) => {
        const quick = {
          ...sound,
          kick: { ...sound.kick, on: false },
          line: { notes: [] },
          layers: sound.layers.map(brief),
        };
        const engine = createEngine(quick, { sampleRateHz: RATE, assets: anyAssets });
        const left = new Float32Array(128);
        const right = new Float32Array(128);
        engine.noteOn(pitch, 100);
        for (let i = 0; i < 60; i++) engine.render(left, right, 128);
        engine.noteOff(pitch);
        // Filters of low cutoff and high resonance ring on for a while after the voice.
        for (let i = 0; i < 3 * (RATE / 128); i++) engine.render(left, right, 128);
        for (let i = 0; i < 128; i++) expect(Math.abs(left[i]) + Math.abs(right[i])).toBeLessThan(1e-3);
      }),
      { numRuns: 40, seed: 7 },
    );
  });

  it('takes any change while it plays', () => {
    fc.assert(
      fc.property(anySound, anySound, (one, other) => {
        const engine = createEngine(one, { sampleRateHz: RATE, assets: anyAssets });
        const left = new Float32Array(128);
        const right = new Float32Array(128);
        engine.play();
        const highest = 10 ** (Math.max(one.output.ceilingDb, other.output.ceilingDb) / 20);
        for (let i = 0; i < 300; i++) {
          if (i % 40 === 20) engine.update(i % 80 === 20 ? other : one);
          engine.settle();
          engine.render(left, right, 128);
          for (let k = 0; k < 128; k++)
            if (!(Math.abs(left[k]) <= highest * 1.0001)) throw new Error(`block ${i} holds ${left[k]}`);
        }
      }),
      { numRuns: 30, seed: 3 },
    );
  });
});
