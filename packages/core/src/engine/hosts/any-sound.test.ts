import fc from 'fast-check';
import { findProblems, type Layer } from '../../document/index.js';
import { anyAssets, anySound } from '../../testing/any-sound.js';
import { createEngine, type Engine } from './engine.js';
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
      { numRuns: 36, seed: 20261125, endOnFailure: true },
    );
  });

  /** Whether it falls silent within three seconds: filters of low cutoff and high resonance ring on after a voice. */
  function fallsSilent(engine: Engine): boolean {
    const left = new Float32Array(128);
    const right = new Float32Array(128);
    let still = 0;
    for (let i = 0; i < 3 * (RATE / 128) && still < 40; i++) {
      engine.render(left, right, 128);
      let peak = 0;
      for (let k = 0; k < 128; k++) peak = Math.max(peak, Math.abs(left[k]) + Math.abs(right[k]));
      still = peak < 1e-3 ? still + 1 : 0;
    }
    return still > 0;
  }
  const run = (engine: Engine, blocks: number) => {
    const left = new Float32Array(128);
    const right = new Float32Array(128);
    for (let i = 0; i < blocks; i++) engine.render(left, right, 128);
  };

  it('falls silent once its notes have ended, and when the loop is stopped', () => {
    fc.assert(
      fc.property(anySound, fc.integer({ min: 12, max: 96 }), (sound, pitch) => {
        const quick = { ...sound, kick: { ...sound.kick, on: false }, layers: sound.layers.map(brief) };
        const options = { sampleRateHz: RATE, assets: anyAssets };
        const played = createEngine({ ...quick, line: { notes: [] } }, options);
        played.noteOn(pitch, 100);
        run(played, 60);
        played.noteOff(pitch);
        expect(fallsSilent(played)).toBe(true);
        // Whatever moves goes on, and starts nothing.
        const looping = createEngine({ ...quick, backing: [] }, options);
        looping.play();
        run(looping, 60);
        looping.stop();
        expect(fallsSilent(looping)).toBe(true);
      }),
      { numRuns: 30, seed: 7, endOnFailure: true },
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
      { numRuns: 30, seed: 3, endOnFailure: true },
    );
  });
});
