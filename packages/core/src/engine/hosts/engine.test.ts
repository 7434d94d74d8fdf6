import { cleanLink, cleanMover, type SoundDocument } from '../../document/index.js';
import { slackWater } from '../../demo/index.js';
import { plainGrowl } from '../../testing/plain-growl.js';
import { loopOf, play, RATE, worst } from '../../testing/bare.js';
import { CLIP_DRIVE, withoutUnits } from '../../testing/grit.js';
import { db } from '../../testing/signals.js';
import { createEngine } from './engine.js';
import type { LayerCache } from './loop-render.js';
import { renderLoop } from './render-loop.js';
import { lowsRunFree, runsFree } from './runs-free.js';

describe('one sound everywhere', () => {
  it('gives the same samples for the same document and pass', () => {
    expect(worst(loopOf(plainGrowl()).all.left, loopOf(plainGrowl()).all.left)).toBe(0);
  });

  it.each([
    ['Trench Growl', plainGrowl],
    ['Slack Water', slackWater],
  ])('%s plays as its loop render has it in every round, nulling under −120 dB', (_name, make) => {
    const loop = loopOf(make());
    // Rounds that are no whole number of steps long.
    expect(loop.frames % 16).not.toBe(0);
    const engine = createEngine(make(), { sampleRateHz: RATE });
    const frames = Math.ceil((4 * loop.frames + 1000) / 128) * 128;
    const { left, right } = play(make(), frames);
    for (const round of [1, 2, 3]) {
      const from = round * loop.frames + engine.latencyFrames;
      expect(db(worst(left.subarray(from, from + loop.frames), loop.all.left))).toBeLessThan(-120);
      expect(db(worst(right.subarray(from, from + loop.frames), loop.all.right))).toBeLessThan(-120);
    }
  });

  it('renders layers that did not change from its cache, and those that did anew', () => {
    const cache: LayerCache = new Map();
    const sound = plainGrowl();
    const first = renderLoop(sound, { sampleRateHz: RATE, cache });
    const sub = cache.get('sub 0')!.audio;
    const body = cache.get('body 0')!.audio;
    const changed = structuredClone(sound);
    changed.layers[1].filters[0].resonancePct = 58;
    const second = renderLoop(changed, { sampleRateHz: RATE, cache });
    expect(cache.get('sub 0')!.audio).toBe(sub);
    expect(cache.get('body 0')!.audio).not.toBe(body);
    expect(worst(second.all.left, loopOf(changed).all.left)).toBe(0);
    expect(worst(second.all.left, first.all.left)).toBeGreaterThan(0.001);
  });

  it('has passes that differ only where something runs free', () => {
    const free = plainGrowl();
    free.layers[1].tones[0].startPhase = 'free';
    expect([runsFree(plainGrowl()), runsFree(free)]).toEqual([false, true]);
    const pass = (sound: SoundDocument, n: number) =>
      renderLoop(sound, { sampleRateHz: RATE, pass: n }).bass.left;
    expect(worst(pass(plainGrowl(), 0), pass(plainGrowl(), 1))).toBe(0);
    expect(worst(pass(free, 0), pass(free, 1))).toBeGreaterThan(0.01);
  });

  it('keeps its lows while chance moves the tops, by itself or through another mover', () => {
    const chance = (...links: [mover: string, target: string][]) => {
      const sound = plainGrowl();
      sound.movers.push(cleanMover('noise'));
      links.forEach(([mover, target], i) =>
        sound.links.push(cleanLink({ id: `chance-${i}`, mover, target, reachPct: 20 })),
      );
      return [runsFree(sound), lowsRunFree(sound)];
    };
    expect(chance()).toEqual([false, false]);
    expect(chance(['noise-1', 'layers.body.filters.0.cutoffHz'])).toEqual([true, false]);
    expect(chance(['noise-1', 'layers.sub.levelDb'])).toEqual([true, true]);
    expect(chance(['noise-1', CLIP_DRIVE])).toEqual([true, true]);
    expect(chance(['noise-1', 'movers.wobble-1.amountPct'])).toEqual([true, false]);
    expect(chance(['noise-1', 'movers.wobble-1.amountPct'], ['wobble-1', 'layers.sub.levelDb'])).toEqual([
      true,
      true,
    ]);
  });
});

describe('stems', () => {
  it('add up: kick and bass to all, layers to the bass where nothing clips', () => {
    const sound = plainGrowl();
    withoutUnits(sound);
    const { kick, bass, all, layers } = loopOf(sound);
    expect(
      db(
        worst(
          all.left,
          kick.left.map((x, i) => x + bass.left[i]),
        ),
      ),
    ).toBeLessThan(-120);
    expect(
      db(
        worst(
          bass.left,
          layers[0].left.map((x, i) => x + layers[1].left[i]),
        ),
      ),
    ).toBeLessThan(-110);
  });
});
