import type { SoundDocument } from '../document/index.js';
import {
  renderLoopSteps,
  runsFree,
  type Assets,
  type ChainCache,
  type LayerCache,
  type LoopRender,
  type RenderOptions,
} from '../engine/index.js';
import { measureLoudness, type Figure } from '../measure/index.js';
import { systemsOf } from '../translation/index.js';
import { shareOf, toEnd } from '../units/index.js';
import type { BesideLook } from './beside-look.js';
import { judge, type JudgedFigure } from './figures.js';
import { kickFigures, type KickFigures, type KickMemory } from './kick-figures.js';
import { IN_VIEW, REPORT } from './kinds/index.js';
import type { HeardPass } from './kinds/spec.js';
import { withCleanPathAlone, withWordsOfAlone } from './left-alone.js';
import { bearingsOf } from './passes/note-lock.js';
import { measurePassSteps, type PassFigures } from './passes/pass.js';
import { systemsByNotes } from './passes/systems-by-notes.js';
import { clicksTold, layersTold, pitchTold, toldOf, type Told } from './told.js';
import { toneOf, type ToneFigures } from './tone/tone-of.js';
import type { ToneCache } from './tone-alone.js';

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
  /** The kick that was measured last. */
  readonly kicks?: KickMemory;
  /**
   * Given by a host that has the stems of the first loop rendered beside: it is then rendered without them, and hands over
   * what `followLoopSteps` needs.
   */
  readonly onPart?: RenderOptions['onPart'];
  /** Given the loop of each pass before anything is measured of it. */
  readonly onRender?: (render: LoopRender) => void;
}

/** Passes of a sound in which phases or movers run free. */
export const FREE_PASSES = 4;

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

/**
 * Renders and measures a sound, in steps that yield the share done. Where phases or movers run free, four seeded passes are
 * rendered, and the worst is judged. What is found in the stems and in the tone a host may look for beside it: see `onPart`,
 * `onRender` and `withStems`.
 */
export function* measuredSteps(
  document: SoundDocument,
  { onPart, ...options }: SoundingOptions,
): Generator<number, Sounding> {
  const { assets, tones, sampleRateHz } = options;
  const systems = systemsOf(document);
  const count = runsFree(document) ? FREE_PASSES : 1;
  const untouched = withCleanPathAlone(document);
  const part = (untouched ? 0.6 : 0.95) / count;
  let first: LoopRender | null = null;
  const everyPass: HeardPass[] = [];
  for (let number = 0; number < count; number++) {
    const wanted = {
      ...options,
      pass: number,
      stems: number === 0 && !onPart ? 'shares' : 'none',
      onPart: number === 0 ? onPart : undefined,
      traced: true,
    } as const;
    const steps = passSteps(document, wanted, options.onRender);
    const made = yield* shareOf(steps, part * number, part);
    first ??= made.render;
    everyPass.push({ ...made.pass, heard: systemsByNotes(document, made.render, systems) });
  }
  // What it makes of its chains would stand in the place of the sound's own.
  const borrowed = options.chains && new Map(options.chains);
  const alone = untouched
    ? (yield* shareOf(passSteps(untouched, { ...options, chains: borrowed, stems: 'none' }), 0.6, 0.35)).pass
    : null;
  const render = first!;
  const [pass] = everyPass;
  const judged = judge(IN_VIEW, document, everyPass);
  return {
    render,
    pass,
    everyPass,
    passes: everyPass.length,
    bearings: bearingsOver(everyPass),
    figures: alone ? withWordsOfAlone(judged, untouched!, alone) : judged,
    kick: kickFigures(document, sampleRateHz, assets, options.kicks),
    backing: backingLoudness(render),
    told: [
      ...toldOf(document, render, { assets, tones }),
      ...clicksTold(document, pass.edgeClicks),
      ...pitchTold(document, pass.notes),
    ],
  };
}

const bearingsOver = (everyPass: readonly HeardPass[]): Sounding['bearings'] =>
  everyPass[0].notes.map(({ meetings }, n) =>
    meetings.map(({ hit, hitFrame }) =>
      everyPass.flatMap(({ notes }) =>
        bearingsOf(notes[n].meetings.filter((same) => same.hit === hit && same.hitFrame === hitFrame)),
      ),
    ),
  );

const backingLoudness = ({ backing, sampleRateHz }: LoopRender): Figure | null =>
  backing &&
  measureLoudness({ channels: [backing.left, backing.right], sampleRateHz, loop: true }).integrated;

/** A sound that was measured, with what was found in its stems. */
export const withStems = (
  { told, ...sounding }: Sounding,
  { cancelling }: Pick<BesideLook, 'cancelling'>,
): Sounding => ({ ...sounding, told: [...cancelling, ...told] });

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
  const sounding = withStems(measured, { cancelling: layersTold(document, measured.render) });
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
