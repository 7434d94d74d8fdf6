import type { SoundDocument } from '../document/index.js';
import {
  renderKick,
  renderLoopSteps,
  runsFree,
  type Assets,
  type ChainCache,
  type LayerCache,
  type LoopRender,
  type RenderOptions,
  type Stereo,
} from '../engine/index.js';
import {
  kickLengthS,
  kickTail,
  measureLoudness,
  middle,
  type Figure,
  type KickTail,
} from '../measure/index.js';
import { shareOf, toEnd } from '../units/index.js';
import { judge, type JudgedFigure } from './figures.js';
import { withCleanPathAlone, withWordsOfAlone } from './left-alone.js';
import { bearingsOf } from './passes/note-lock.js';
import { measurePassSteps, type PassFigures } from './passes/pass.js';
import { IN_VIEW, REPORT } from './kinds/index.js';
import type { HeardPass } from './kinds/spec.js';
import { systemsByNotes } from './passes/systems-by-notes.js';
import { toneOf, type ToneFigures } from './tone/tone-of.js';
import type { ToneCache } from './tone-alone.js';
import { systemsOf } from '../translation/index.js';
import { clicksTold, layersTold, pitchTold, toldOf, type Told } from './told.js';

/** The kick's own figures. */
export interface KickFigures {
  readonly tail: KickTail | null;
  readonly lengthS: number | null;
}

/** What is measured of a sound: its first pass whole, and the figures in view over every pass. */
export interface Sounding {
  readonly render: LoopRender;
  readonly pass: HeardPass;
  readonly passes: number;
  /** Bearings of each meeting of each note over the passes, degrees; nothing for a meeting without one. */
  readonly bearings: readonly (readonly (readonly number[])[])[];
  readonly figures: readonly JudgedFigure[];
  readonly kick: KickFigures;
  /** How loud the backing parts are together; null where there is none. */
  readonly backing: Figure | null;
  /** What takes the lows away; of layers that cancel each other only the stems tell. */
  readonly told: readonly Told[];
}

export interface SoundingOptions {
  readonly sampleRateHz: number;
  readonly assets?: Assets;
  readonly cache?: LayerCache;
  readonly chains?: ChainCache;
  readonly tones?: ToneCache;
  /**
   * Given by a host that looks at the stems beside: the first pass is then rendered without them, and hands over what
   * `stemsLookSteps` needs to follow it.
   */
  readonly onPart?: RenderOptions['onPart'];
  /** Given the loop of each pass before anything is measured of it. */
  readonly onRender?: (render: LoopRender) => void;
}

/** Passes of a sound in which phases or movers run free. */
export const FREE_PASSES = 4;

const mono = ({ left, right }: Stereo) => middle([left, right]);

/** The kick's own figures, from one hit of it alone. */
export function kickFigures(document: SoundDocument, sampleRateHz: number, assets?: Assets): KickFigures {
  const hit = mono(renderKick(document, sampleRateHz, assets));
  return hit.length > 0
    ? { tail: kickTail(hit, sampleRateHz, document.ground.a4Hz), lengthS: kickLengthS(hit, sampleRateHz) }
    : { tail: null, lengthS: null };
}

/** Renders and measures one pass of a sound, in steps that yield the share done. */
function* passSteps(
  document: SoundDocument,
  options: RenderOptions,
  onRender?: SoundingOptions['onRender'],
): Generator<number, { render: LoopRender; pass: PassFigures }> {
  const render = yield* shareOf(renderLoopSteps(document, options), 0, 0.5);
  onRender?.(render);
  return { render, pass: yield* shareOf(measurePassSteps(document, render), 0.5, 0.5) };
}

/** A sound as it was rendered and measured, but for what is found in its stems and its tone. */
export interface Measured {
  /** The loop of the first pass: the one that is drawn. */
  readonly render: LoopRender;
  readonly passes: readonly HeardPass[];
  /** The sound with its clean path left alone, where something works on it. */
  readonly alone: { readonly document: SoundDocument; readonly pass: PassFigures } | null;
}

/**
 * Renders and measures a sound, in steps that yield the share done. Where phases or movers run free, four seeded passes are
 * rendered. What is found in stems and tone a host may look for beside it: see `onPart`, `onRender` and `soundingFrom`.
 */
export function* measuredSteps(
  document: SoundDocument,
  { onPart, ...options }: SoundingOptions,
): Generator<number, Measured> {
  const systems = systemsOf(document);
  const count = runsFree(document) ? FREE_PASSES : 1;
  const untouched = withCleanPathAlone(document);
  const part = (untouched ? 0.6 : 0.95) / count;
  const passes: HeardPass[] = [];
  let first: LoopRender | null = null;
  for (let pass = 0; pass < count; pass++) {
    const wanted = {
      ...options,
      pass,
      stems: pass === 0 && !onPart ? 'shares' : 'none',
      onPart: pass === 0 ? onPart : undefined,
      traced: true,
    } as const;
    const steps = passSteps(document, wanted, options.onRender);
    const made = yield* shareOf(steps, part * pass, part);
    first ??= made.render;
    passes.push({ ...made.pass, heard: systemsByNotes(document, made.render, systems) });
  }
  // What it makes of its chains would stand in the place of the sound's own.
  const borrowed = options.chains && new Map(options.chains);
  const alone = untouched
    ? (yield* shareOf(passSteps(untouched, { ...options, chains: borrowed, stems: 'none' }), 0.6, 0.35)).pass
    : null;
  return { render: first!, passes, alone: alone && { document: untouched!, pass: alone } };
}

/**
 * What is known of a sound that was rendered and measured, but for what its stems tell: of several passes the worst is
 * judged.
 */
export function soundingFrom(
  document: SoundDocument,
  { render, passes, alone }: Measured,
  options: SoundingOptions,
): Sounding {
  const judged = judge(IN_VIEW, document, passes);
  const bearings = passes[0].notes.map(({ meetings }, n) =>
    meetings.map(({ hit, hitFrame }) =>
      passes.flatMap(({ notes }) =>
        bearingsOf(notes[n].meetings.filter((same) => same.hit === hit && same.hitFrame === hitFrame)),
      ),
    ),
  );
  const backing =
    render.backing &&
    measureLoudness({
      channels: [render.backing.left, render.backing.right],
      sampleRateHz: render.sampleRateHz,
      loop: true,
    }).integrated;
  return {
    backing,
    render,
    pass: passes[0],
    passes: passes.length,
    bearings,
    figures: alone ? withWordsOfAlone(judged, alone.document, alone.pass) : judged,
    kick: kickFigures(document, options.sampleRateHz, options.assets),
    told: [
      ...toldOf(document, render, { assets: options.assets, tones: options.tones }),
      ...clicksTold(document, passes[0].edgeClicks),
      ...pitchTold(document, passes[0].notes),
    ],
  };
}

/** The other figures of the report, with what was found of the tone of each pass. */
export const reportFrom = (
  document: SoundDocument,
  { passes }: Measured,
  tones: readonly ToneFigures[],
): JudgedFigure[] =>
  judge(
    REPORT,
    document,
    passes.map((pass, p) => ({ ...pass, tone: tones[p] })),
  );

/** A sound with the whole report. */
export interface WholeSounding extends Sounding {
  readonly report: readonly JudgedFigure[];
  readonly tone: ToneFigures;
}

/** Renders and measures a sound with all that is found in its spectra, in steps that yield the share done. */
export function* soundingSteps(
  document: SoundDocument,
  options: SoundingOptions,
): Generator<number, WholeSounding> {
  const tones: ToneFigures[] = [];
  const onRender = (render: LoopRender) => {
    options.onRender?.(render);
    tones.push(toneOf(document, render, options.assets));
  };
  const measured = yield* measuredSteps(document, { ...options, onRender });
  const sounding = soundingFrom(document, measured, options);
  return {
    ...sounding,
    told: [...layersTold(document, measured.render), ...sounding.told],
    report: reportFrom(document, measured, tones),
    tone: tones[0],
  };
}

/** Renders and measures a sound at once; see `soundingSteps`. */
export function soundingOf(document: SoundDocument, options: SoundingOptions): WholeSounding {
  return toEnd(soundingSteps(document, options));
}
