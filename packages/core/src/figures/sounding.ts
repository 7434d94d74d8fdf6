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
  depthSpectrum,
  kickLengthS,
  kickTail,
  maskedShare,
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

/** Mean levels by depth in dB, at `DEPTH_BANDS_HZ`. */
export interface DepthSpectra {
  readonly kick: Float64Array;
  readonly bass: Float64Array;
  /** The backing parts together; null where there is none. */ readonly backing: Float64Array | null;
  readonly layers: readonly { readonly id: string; readonly levels: Float64Array }[];
}

/** The kick's own figures. */
export interface KickFigures {
  readonly tail: KickTail | null;
  readonly lengthS: number | null;
}

/** What is measured of the backing parts together. */
export interface BackingFigures {
  readonly loudness: Figure;
  /** Share of the bass's energy that they mask, 0 to 1; null where the bass is silent. */ readonly masked:
    number | null;
}

/** All that is measured of a sound: its first pass whole, and the figures over every pass. */
export interface Sounding {
  readonly render: LoopRender;
  readonly pass: PassFigures;
  readonly passes: number;
  /** Bearings of each meeting of each note over the passes, degrees; nothing for a meeting without one. */
  readonly bearings: readonly (readonly (readonly number[])[])[];
  readonly figures: readonly JudgedFigure[];
  readonly depth: DepthSpectra;
  readonly kick: KickFigures;
  /** What the backing parts are together; null where there is none. */
  readonly backing: BackingFigures | null;
  /** What takes the lows away. */
  readonly told: readonly Told[];
}

export interface SoundingOptions {
  readonly sampleRateHz: number;
  readonly assets?: Assets;
  readonly cache?: LayerCache;
}

/** Passes of a sound in which phases or movers run free. */
export const FREE_PASSES = 4;

const mono = ({ left, right }: Stereo) => middle([left, right]);

/** Levels by depth of a rendered loop. */
export function depthOf(render: LoopRender): DepthSpectra {
  const levels = (audio: Stereo) => depthSpectrum(mono(audio), render.sampleRateHz, true);
  return {
    kick: levels(render.kick),
    bass: levels(render.bass),
    backing: render.backing && levels(render.backing),
    layers: render.layers.map((layer) => ({ id: layer.id, levels: levels(layer) })),
  };
}

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
): Generator<number, { render: LoopRender; pass: PassFigures }> {
  const render = yield* shareOf(renderLoopSteps(document, options), 0, 0.5);
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
    const steps = passSteps(document, {
      ...options,
      pass,
      stems: pass === 0 ? 'shares' : 'none',
      traced: pass === 0,
    });
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
  const depth = depthOf(render);
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
    render.backing && depth.backing
      ? {
          loudness: measureLoudness({
            channels: [render.backing.left, render.backing.right],
            sampleRateHz: render.sampleRateHz,
            loop: true,
          }).integrated,
          masked: maskedShare(depth.bass, depth.backing),
        }
      : null;
  return {
    backing,
    render,
    pass: passes[0],
    passes: count,
    bearings,
    figures,
    depth,
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
