import type { SoundDocument } from '../document/index.js';
import {
  renderKick,
  renderLoopSteps,
  runsFree,
  type Assets,
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
import { clicksTold, pitchTold, toldOf, type Told } from './told.js';

/** The kick's own figures. */
export interface KickFigures {
  readonly tail: KickTail | null;
  readonly lengthS: number | null;
}

/** All that is measured of a sound: its first pass whole, and the figures over every pass. */
export interface Sounding {
  readonly render: LoopRender;
  readonly pass: PassFigures;
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
  /** Given the loop of the first pass before anything is measured of it. */
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

/**
 * Renders and measures a sound, in steps that yield the share done. Where phases or movers run free, four
 * seeded passes are
 * rendered and the worst is judged; the first is the one that is drawn.
 */
export function* soundingSteps(
  document: SoundDocument,
  options: SoundingOptions,
): Generator<number, Sounding> {
  const count = runsFree(document) ? FREE_PASSES : 1;
  const untouched = withCleanPathAlone(document);
  const part = (untouched ? 0.6 : 0.9) / count;
  const passes: PassFigures[] = [];
  let first: LoopRender | null = null;
  for (let pass = 0; pass < count; pass++) {
    const wanted = { ...options, pass, stems: pass === 0 ? 'shares' : 'none', traced: pass === 0 } as const;
    const steps = passSteps(document, wanted, pass === 0 ? options.onRender : undefined);
    const made = yield* shareOf(steps, part * pass, part);
    first ??= made.render;
    passes.push(made.pass);
  }
  const render = first!;
  let figures = judge(document, passes);
  if (untouched) {
    const alone = yield* shareOf(passSteps(untouched, { ...options, stems: 'none' }), 0.6, 0.3);
    figures = withWordsOfAlone(figures, judge(untouched, [alone.pass]));
  }
  yield 0.95;
  const kick = kickFigures(document, options.sampleRateHz, options.assets);
  yield 0.97;
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
    passes: count,
    bearings,
    figures,
    kick,
    told: [
      ...toldOf(document, render, { assets: options.assets, cache: options.cache }),
      ...clicksTold(document, passes[0].edgeClicks),
      ...pitchTold(document, passes[0].notes),
    ],
  };
}

/** Renders and measures a sound at once; see `soundingSteps`. */
export function soundingOf(document: SoundDocument, options: SoundingOptions): Sounding {
  return toEnd(soundingSteps(document, options));
}
