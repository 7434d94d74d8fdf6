import fc from 'fast-check';
import { demoSounds } from '../../demo/index.js';
import { cleanLink, cleanMover, type SoundDocument } from '../../document/index.js';
import { toEnd } from '../../units/index.js';
import { anyAssets, anySound } from '../../testing/any-sound.js';
import { worst } from '../../testing/bare.js';
import { plainGrowl } from '../../testing/plain-growl.js';
import { MixReader, type MixPart } from '../mix/mix-parts.js';
import { followLoopSteps } from './follow-loop.js';
import type { LayerCache, LoopStems } from './loop-render.js';
import { renderLoop } from './render-loop.js';

const RATE = 24000;
const options = { sampleRateHz: RATE, assets: anyAssets };

const signalsOf = ({ layers }: LoopStems) => layers.flatMap(({ left, right }) => [left, right]);

const apart = (a: LoopStems, b: LoopStems) => {
  const [mine, theirs] = [signalsOf(a), signalsOf(b)];
  expect(mine).toHaveLength(theirs.length);
  expect(mine.length).toBeGreaterThan(0);
  return Math.max(...mine.map((signal, s) => worst(signal, theirs[s])));
};

/** What is handed over by a mix without stems, and the layers that both have. */
function handedOver(sound: SoundDocument): { parts: MixPart[]; cache: LayerCache } {
  const parts: MixPart[] = [];
  const cache: LayerCache = new Map();
  renderLoop(sound, { ...options, stems: 'none', cache, onPart: (part) => void parts.push(part) });
  return { parts, cache };
}

/** The stems that follow a mix's parts, each given when it is due. */
function following(sound: SoundDocument): LoopStems {
  const { parts, cache } = handedOver(sound);
  // They are copied on their way to another worker.
  const coming = structuredClone(parts);
  const follows = new MixReader();
  const steps = followLoopSteps(sound, { ...options, cache, follows });
  for (;;) {
    while (!follows.ready) follows.give(coming.shift()!);
    const step = steps.next();
    if (step.done) return step.value;
  }
}

describe('stems that follow a mix without them', () => {
  it.each(demoSounds().map((sound) => [sound.name, sound] as const))(
    'are its own to the bit: %s',
    (_name, sound) => {
      expect(apart(following(sound), renderLoop(sound, options))).toBe(0);
    },
  );

  it('are so under a ceiling that acts, behind feedback and a hard duck', () => {
    const sound = plainGrowl();
    sound.output = { levelDb: 12, ceilingDb: -6 };
    sound.feedback = { ...sound.feedback, on: true };
    sound.duck = { ...sound.duck, on: true, hard: true, acts: 'low' };
    const { parts } = handedOver(sound);
    expect(parts.some(({ gains }) => gains?.some((gain) => gain < 0.9))).toBe(true);
    expect(apart(following(sound), renderLoop(sound, options))).toBe(0);
  });

  it('are so where a band follows the bass itself', () => {
    const sound = plainGrowl();
    sound.movers = [cleanMover('follower', { of: 'self', floorDb: -60 })];
    const target = `bands.${sound.grit.bands[0].id}.levelDb`;
    sound.links = [cleanLink({ id: 'down', mover: sound.movers[0].id, target, reachPct: -40 })];
    expect(apart(following(sound), renderLoop({ ...sound, links: [] }, options))).toBeGreaterThan(0.05);
    expect(apart(following(sound), renderLoop(sound, options))).toBe(0);
  });

  it('are so for any valid sound', () => {
    for (const sound of fc.sample(anySound, { numRuns: 6, seed: 2611 })) {
      const short = { ...sound, ground: { ...sound.ground, bars: 1, tempoBpm: 200 } };
      expect(apart(following(short), renderLoop(short, options))).toBe(0);
    }
  });

  it('have neither grit nor ceiling of their own: they share what is given', () => {
    const sound = plainGrowl();
    const { parts, cache } = handedOver(sound);
    const follows = new MixReader();
    for (const part of parts) {
      const silence = new Float64Array(part.frames);
      follows.give({ ...part, left: silence, right: silence, gains: null });
    }
    const { layers } = toEnd(followLoopSteps(sound, { ...options, cache, follows }));
    const sum = new Float64Array(layers[0].left.length);
    for (const { left } of layers) left.forEach((sample, i) => (sum[i] += sample));
    expect(worst(sum, new Float64Array(sum.length))).toBeLessThan(1e-6);
    expect(worst(layers[0].left, sum)).toBeGreaterThan(0.01);
  });

  it('are handed no more than they need: from when they begin to settle, in parts of a quarter of a second', () => {
    const { parts } = handedOver(plainGrowl());
    const frames = parts.reduce((sum, part) => sum + part.frames, 0);
    const { frames: loop } = renderLoop(plainGrowl(), { ...options, stems: 'none' });
    expect(Math.abs(frames - loop - 1.5 * RATE)).toBeLessThan(64);
    for (const part of parts) expect(part.frames).toBeLessThanOrEqual(RATE / 4 + 64);
  });

  it('say so where they are to go on before anything has come', () => {
    const steps = followLoopSteps(plainGrowl(), { ...options, follows: new MixReader() });
    expect(() => {
      while (!steps.next().done);
    }).toThrow('the mix that is followed has not come so far');
  });
});
