import fc from 'fast-check';
import { demoSounds } from '../../demo/index.js';
import type { SoundDocument } from '../../document/index.js';
import { anyAssets, anySound } from '../../testing/any-sound.js';
import { worst } from '../../testing/bare.js';
import { plainGrowl } from '../../testing/plain-growl.js';
import { MixReader, type MixPart } from '../mix/mix-parts.js';
import type { LayerCache, LoopRender } from './loop-render.js';
import { renderLoop, renderLoopSteps } from './render-loop.js';

const RATE = 24000;
const options = { sampleRateHz: RATE, assets: anyAssets };

const signalsOf = ({ kick, bass, all, layers, backing, bassBefore }: LoopRender) => [
  ...[kick, bass, all, ...(backing ? [backing] : []), ...layers].flatMap(({ left, right }) => [left, right]),
  bassBefore,
];

const apart = (a: LoopRender, b: LoopRender) => {
  const [mine, theirs] = [signalsOf(a), signalsOf(b)];
  expect(mine).toHaveLength(theirs.length);
  return Math.max(...mine.map((signal, s) => worst(signal, theirs[s])));
};

/** What is handed over by a mix without stems, and the layers that both have. */
function handedOver(sound: SoundDocument): { parts: MixPart[]; cache: LayerCache } {
  const parts: MixPart[] = [];
  const cache: LayerCache = new Map();
  renderLoop(sound, { ...options, stems: 'none', cache, onPart: (part) => void parts.push(part) });
  return { parts, cache };
}

/** A mix with stems that follows another's parts, each given when it is due. */
function following(sound: SoundDocument): LoopRender {
  const { parts, cache } = handedOver(sound);
  // They are copied on their way to another worker.
  const coming = structuredClone(parts);
  const follows = new MixReader();
  const steps = renderLoopSteps(sound, { ...options, cache, follows });
  for (;;) {
    while (!follows.ready) follows.give(coming.shift()!);
    const step = steps.next();
    if (step.done) return step.value;
  }
}

describe('a mix with stems that follows one without', () => {
  it.each(demoSounds().map((sound) => [sound.name, sound] as const))(
    'is the same to the bit: %s',
    (_name, sound) => {
      expect(apart(following(sound), renderLoop(sound, options))).toBe(0);
    },
  );

  it('is so under a ceiling that acts, behind feedback and a hard duck', () => {
    const sound = plainGrowl();
    sound.output = { levelDb: 12, ceilingDb: -6 };
    sound.feedback = { ...sound.feedback, on: true };
    sound.duck = { ...sound.duck, on: true, hard: true, acts: 'low' };
    const { parts } = handedOver(sound);
    expect(parts.some(({ gains }) => gains?.some((gain) => gain < 0.9))).toBe(true);
    expect(apart(following(sound), renderLoop(sound, options))).toBe(0);
  });

  it('is so for any valid sound', () => {
    for (const sound of fc.sample(anySound, { numRuns: 6, seed: 2611 })) {
      const short = { ...sound, ground: { ...sound.ground, bars: 1, tempoBpm: 200 } };
      expect(apart(following(short), renderLoop(short, options))).toBe(0);
    }
  });

  it('does run neither grit nor ceiling: it takes what it is given', () => {
    const sound = plainGrowl();
    const { parts, cache } = handedOver(sound);
    const follows = new MixReader();
    for (const part of parts) {
      const silence = new Float64Array(part.frames);
      follows.give({ ...part, left: silence, right: silence, gains: null });
    }
    const steps = renderLoopSteps(sound, { ...options, cache, follows });
    let step = steps.next();
    while (!step.done) step = steps.next();
    expect(Math.max(...step.value.bass.left)).toBe(0);
    expect(Math.max(...step.value.kick.left)).toBeGreaterThan(0.1);
  });

  it('hands over no more than it needs: from when the stems begin to settle, in parts of a quarter of a second', () => {
    const { parts } = handedOver(plainGrowl());
    const frames = parts.reduce((sum, part) => sum + part.frames, 0);
    const { frames: loop } = renderLoop(plainGrowl(), { ...options, stems: 'none' });
    expect(Math.abs(frames - loop - 1.5 * RATE)).toBeLessThan(64);
    for (const part of parts) expect(part.frames).toBeLessThanOrEqual(RATE / 4 + 64);
  });

  it('says so where it is asked to go on before anything has come', () => {
    const steps = renderLoopSteps(plainGrowl(), { ...options, follows: new MixReader() });
    expect(() => {
      while (!steps.next().done);
    }).toThrow('the mix that is followed has not come so far');
  });
});
