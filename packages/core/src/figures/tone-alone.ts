import { cleanBand, type Layer, type SoundDocument } from '../document/index.js';
import { cachePlaces, renderLayerSteps, type Assets, type RenderOptions } from '../engine/index.js';
import { lowBand, type LowBand } from '../lock/index.js';
import { toEnd } from '../units/index.js';

/** The lows of tones alone, kept from one measurement to the next, by layer and tone. */
export type ToneCache = Map<string, { readonly key: string; readonly low: LowBand }>;

/** The lows of a tone alone as they are kept. */
export interface CachedTone {
  readonly name: string;
  readonly entry: { readonly key: string; readonly low: LowBand };
}

/** What tones are rendered with; one that the cache holds is not rendered again. */
export interface ToneOptions {
  readonly sampleRateHz: number;
  readonly assets?: Assets;
  readonly tones?: ToneCache;
}

/** Lows are looked at below this (from the design). */
export const BELOW_HZ = 120;

/** One bar of four beats at 240 BPM. */
const BARS = 1;
const TEMPO_BPM = 240;
const LOOP_S = 1;
const NOTE_TICKS = 1900;

/** A sound of a layer with one tone alone, as the line's first note plays it. */
function soundOf(document: SoundDocument, layer: Layer, tone: number): SoundDocument {
  const [note] = document.line.notes;
  return {
    ...document,
    layers: [
      {
        ...layer,
        tones: layer.tones.map((each, t) => ({ ...each, on: each.on && t === tone })),
        plays: { ...layer.plays, as: 'written' },
      },
    ],
    links: document.links.filter(({ target }) => target.startsWith(`layers.${layer.id}.`)),
    ground: { ...document.ground, bars: BARS, tempoBpm: TEMPO_BPM },
    grit: {
      ...document.grit,
      cleanPath: { ...document.grit.cleanPath, on: false },
      bands: [cleanBand()],
      after: [],
    },
    kick: { ...document.kick, on: false },
    feedback: { ...document.feedback, on: false },
    line: { notes: [{ ...note, tick: 0, ticks: NOTE_TICKS }] },
  };
}

const nameOf = (layer: Layer, tone: number) => `${layer.id} tone ${tone}`;

const asRendered = ({ sampleRateHz, assets }: ToneOptions): RenderOptions => ({
  sampleRateHz,
  assets,
  brief: true,
});

/**
 * The tones of a layer that may cancel each other, by their places: nothing where fewer than two sound, or where one acts
 * on another by anything but adding, for then they are what they are.
 */
export function tonesAlone({ line }: SoundDocument, { on, tones, acts }: Layer): number[] {
  if (!on || line.notes.length === 0 || acts.two.way !== 'add' || acts.three.way !== 'add') return [];
  const heard = [0, 1, 2].filter((t) => tones[t].on && tones[t].levelDb > -60);
  return heard.length < 2 ? [] : heard;
}

/** Renders a layer with one tone alone and takes its lows, in steps that yield the share done, as `toneLows` finds them. */
export function* toneAloneSteps(
  document: SoundDocument,
  layer: Layer,
  tone: number,
  options: ToneOptions,
): Generator<number, CachedTone> {
  const { sampleRateHz } = options;
  const { entry } = yield* renderLayerSteps(soundOf(document, layer, tone), 0, asRendered(options));
  const { left } = entry.audio;
  const loop = left.subarray(left.length - Math.round(LOOP_S * sampleRateHz));
  return {
    name: nameOf(layer, tone),
    entry: { key: entry.key, low: lowBand(loop, sampleRateHz, BELOW_HZ, true) },
  };
}

/** Whether a tone's lows are not in the cache. */
export function toneIsToRender(
  document: SoundDocument,
  layer: Layer,
  tone: number,
  options: ToneOptions,
): boolean {
  const [{ key }] = cachePlaces(soundOf(document, layer, tone), asRendered(options));
  return options.tones?.get(nameOf(layer, tone))?.key !== key;
}

/** The lows of a loop of a layer with one tone alone, its left side. */
export function toneLows(document: SoundDocument, layer: Layer, tone: number, options: ToneOptions): LowBand {
  const { tones } = options;
  const kept = toneIsToRender(document, layer, tone, options) ? undefined : tones?.get(nameOf(layer, tone));
  if (kept) return kept.low;
  const { name, entry } = toEnd(toneAloneSteps(document, layer, tone, options));
  tones?.set(name, entry);
  return entry.low;
}
