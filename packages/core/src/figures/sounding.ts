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
import { findingsOf, type LoopFindings } from './beside-look.js';
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
import { clicksTold, pitchTold, toldOf, type Told } from './told.js';

/** The kick's own figures. */
export interface KickFigures {
  readonly tail: KickTail | null;
  readonly lengthS: number | null;
}

/** What is measured of a sound: its first pass whole, and the figures in view over every pass. */
export interface Sounding {
  readonly render: LoopRender;
  readonly pass: HeardPass;
  readonly everyPass: readonly HeardPass[];
  readonly passes: number;
  /** Bearings of each meeting of each note over the passes, degrees; nothing for a meeting without one. */
  readonly bearings: readonly (readonly (readonly number[])[])[];
  readonly figures: readonly JudgedFigure[];
  readonly kick: KickFigures;
  /** How loud the backing parts are together; null where there is none. */
  readonly backing: Figure | null;
  /** What takes the lows away. */
  readonly told: readonly Told[];
}

export interface SoundingOptions {
  readonly sampleRateHz: number;
  readonly assets?: Assets;
  readonly cache?: LayerCache;
  readonly chains?: ChainCache;
  readonly tones?: ToneCache;
  /**
   * Given by a host that looks at the first loop beside: it is then rendered without its stems, and hands over what
   * `besideLookSteps` needs to follow it.
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

/** A sound as it was rendered and measured, but for what `findingsOf` finds in its first loop, and for its tone. */
export interface Measured extends Pick<Sounding, 'kick' | 'backing' | 'told'> {
  /** The loop of the first pass: the one that is drawn. */
  readonly render: LoopRender;
  readonly first: PassFigures;
  readonly others: readonly HeardPass[];
  /** The sound with its clean path left alone, where something works on it. */
  readonly alone: { readonly document: SoundDocument; readonly pass: PassFigures } | null;
}

/**
 * Renders and measures a sound, in steps that yield the share done. Where phases or movers run free, four seeded passes are
 * rendered. What is found in the first loop and in the tone a host may look for beside it: see `onPart`, `onRender` and
 * `soundingFrom`.
 */
export function* measuredSteps(
  document: SoundDocument,
  { onPart, ...options }: SoundingOptions,
): Generator<number, Measured> {
  const systems = systemsOf(document);
  const count = runsFree(document) ? FREE_PASSES : 1;
  const untouched = withCleanPathAlone(document);
  const part = (untouched ? 0.6 : 0.95) / count;
  let first: { readonly render: LoopRender; readonly pass: PassFigures } | null = null;
  const others: HeardPass[] = [];
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
    if (!first) first = made;
    else others.push({ ...made.pass, heard: systemsByNotes(document, made.render, systems) });
  }
  // What it makes of its chains would stand in the place of the sound's own.
  const borrowed = options.chains && new Map(options.chains);
  const alone = untouched
    ? (yield* shareOf(passSteps(untouched, { ...options, chains: borrowed, stems: 'none' }), 0.6, 0.35)).pass
    : null;
  const { render, pass } = first!;
  return {
    render,
    first: pass,
    others,
    alone: alone && { document: untouched!, pass: alone },
    kick: kickFigures(document, options.sampleRateHz, options.assets),
    backing: backingLoudness(render),
    told: [
      ...toldOf(document, render, { assets: options.assets, tones: options.tones }),
      ...clicksTold(document, pass.edgeClicks),
      ...pitchTold(document, pass.notes),
    ],
  };
}

const backingLoudness = ({ backing, sampleRateHz }: LoopRender): Figure | null =>
  backing &&
  measureLoudness({ channels: [backing.left, backing.right], sampleRateHz, loop: true }).integrated;

/** What is known of a sound that was rendered and measured: of several passes the worst is judged. */
export function soundingFrom(
  document: SoundDocument,
  { first, others, alone, ...measured }: Measured,
  { heard, cancelling }: LoopFindings,
): Sounding {
  const pass = { ...first, heard };
  const everyPass: readonly HeardPass[] = [pass, ...others];
  const judged = judge(IN_VIEW, document, everyPass);
  const bearings = pass.notes.map(({ meetings }, n) =>
    meetings.map(({ hit, hitFrame }) =>
      everyPass.flatMap(({ notes }) =>
        bearingsOf(notes[n].meetings.filter((same) => same.hit === hit && same.hitFrame === hitFrame)),
      ),
    ),
  );
  return {
    ...measured,
    pass,
    everyPass,
    passes: everyPass.length,
    bearings,
    figures: alone ? withWordsOfAlone(judged, alone.document, alone.pass) : judged,
    told: [...cancelling, ...measured.told],
  };
}

/** The other figures of the report, with what was found of the tone of each pass. */
export const reportFrom = (
  document: SoundDocument,
  { everyPass }: Sounding,
  tones: readonly ToneFigures[],
): JudgedFigure[] =>
  judge(
    REPORT,
    document,
    everyPass.map((pass, p) => ({ ...pass, tone: tones[p] })),
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
  const sounding = soundingFrom(document, measured, findingsOf(document, measured.render));
  return {
    ...sounding,
    report: reportFrom(document, sounding, tones),
    tone: tones[0],
  };
}

/** Renders and measures a sound at once; see `soundingSteps`. */
export function soundingOf(document: SoundDocument, options: SoundingOptions): WholeSounding {
  return toEnd(soundingSteps(document, options));
}
