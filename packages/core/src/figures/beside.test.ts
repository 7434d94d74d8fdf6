import { cleanSound, cleanTone } from '../document/index.js';
import { sluiceTalker } from '../demo/index.js';
import {
  followLoopSteps,
  MixReader,
  type LayerCache,
  type LoopRender,
  type MixPart,
} from '../engine/index.js';
import { toEnd } from '../units/index.js';
import { firstLayers, keepJob, layerJobs, layerJobSteps } from './layer-jobs.js';
import { measuredSteps, reportFrom, soundingOf, withStems, type SoundingOptions } from './sounding.js';
import { besideLookOf } from './beside-look.js';
import type { ToneCache } from './tone-alone.js';
import { toneOf, type ToneFigures } from './tone/tone-of.js';

const RATE = 24000;

/** A sound with two layers and two tones of one that cancel each other's lows, so that there is something to tell. */
function cancelling() {
  const sound = sluiceTalker();
  const [sub] = sound.layers;
  const tone = { ...sub.tones[0], on: true };
  sub.tones = [tone, { ...structuredClone(tone), startPhaseDeg: tone.startPhaseDeg + 150 }, cleanTone()];
  sound.layers.push({
    ...structuredClone(sub),
    id: 'against',
    name: 'Against',
    tones: [{ ...tone, startPhaseDeg: tone.startPhaseDeg + 255 }, cleanTone(), cleanTone()],
  });
  return sound;
}

describe('a sound that is measured in parts, as by several workers', () => {
  const sound = cancelling();
  const cache: LayerCache = new Map();
  const tones: ToneCache = new Map();
  const options: SoundingOptions = { sampleRateHz: RATE, cache, tones };
  const jobs = layerJobs(sound, options);
  // The last one first: whoever is free takes the next.
  for (const job of [...jobs].reverse()) keepJob(options, toEnd(layerJobSteps(sound, job, options)));
  // What goes to another worker is copied on its way.
  const sent = structuredClone(firstLayers(sound, options));
  const elsewhere = { sampleRateHz: RATE, cache: new Map(sent.map(({ name, entry }) => [name, entry])) };
  const follows = new MixReader();
  const onPart = (part: MixPart) => {
    follows.give(structuredClone(part));
  };
  const renders: LoopRender[] = [];
  const found: ToneFigures[] = [];
  const onRender = (render: LoopRender) => {
    renders.push(render);
    found.push(toneOf(sound, render));
  };
  const measured = toEnd(measuredSteps(sound, { ...options, onPart, onRender }));
  const stems = toEnd(followLoopSteps(sound, { ...elsewhere, follows }));
  const beside = besideLookOf(sound, { ...structuredClone(renders[0]), layers: stems.layers });
  const sounding = withStems(measured, beside);
  const whole = soundingOf(sound, { sampleRateHz: RATE });

  it('has the figures, the words and the report that it has in one go', () => {
    expect(sounding.figures).toEqual(whole.figures);
    expect(sounding.told).toEqual(whole.told);
    expect(whole.told.map(({ place }) => place)).toEqual(expect.arrayContaining(['sub against', 'sub 0 1']));
    expect(reportFrom(sound, sounding, found)).toEqual(whole.report);
  });

  it('has the levels by depth of its stems, though none were rendered with the figures', () => {
    expect(renders[0].layers).toEqual([]);
    expect(beside).toEqual(besideLookOf(sound, whole.render));
    expect(beside.depth.layers.map(({ id }) => id)).toEqual(sound.layers.map(({ id }) => id));
  });

  it('renders no layer and no tone twice', () => {
    expect(jobs.filter(({ tone }) => tone !== null)).toHaveLength(2);
    expect(jobs.filter(({ tone }) => tone === null)).toHaveLength(sound.layers.length);
    expect(layerJobs(sound, options)).toEqual([]);
    expect(layerJobs(sound, elsewhere).map(({ tone }) => tone)).toEqual([0, 1]);
    // The worker beside was given what it needs: it made no layer of its own.
    expect([...elsewhere.cache.values()]).toEqual(sent.map(({ entry }) => entry));
    sent.forEach(({ name, entry }) => {
      expect(elsewhere.cache.get(name)).toBe(entry);
    });
  });

  it('gives another worker only layers that are up to date', () => {
    const changed = { ...sound, layers: [{ ...sound.layers[0], levelDb: -20 }, ...sound.layers.slice(1)] };
    expect(firstLayers(changed, options).map(({ name }) => name)).not.toContain('sub 0');
    expect(firstLayers(changed, options)).toHaveLength(sound.layers.length - 1);
    expect(firstLayers(cleanSound(), { sampleRateHz: RATE })).toEqual([]);
  });
});
