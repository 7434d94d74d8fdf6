import type { SoundDocument } from '../../document/index.js';
import { renderLoopSteps, runsFree, type Assets, type LayerCache } from '../../engine/index.js';
import {
  IN_VIEW,
  judge,
  lookOf,
  measurePassSteps,
  REPORT,
  soundingSteps,
  type FigureId,
  type JudgedFigure,
  type WholePass,
} from '../../figures/index.js';
import { shareOf } from '../../units/index.js';

/** A sound with all that is measured of it. */
export interface SoundState {
  readonly document: SoundDocument;
  /** Every figure, those in view first. */
  readonly figures: readonly JudgedFigure[];
  readonly pass: WholePass;
}

export interface MeasureOptions {
  readonly sampleRateHz: number;
  readonly assets?: Assets;
  readonly cache?: LayerCache;
}

export const figureOf = ({ figures }: SoundState, id: FigureId): JudgedFigure =>
  figures.find((figure) => figure.id === id)!;

/** A sound with its whole sounding, in steps that yield the share done. */
export function* wholeStateSteps(
  document: SoundDocument,
  options: MeasureOptions,
): Generator<number, SoundState> {
  const { figures, report, pass, tone } = yield* soundingSteps(document, options);
  return { document, figures: [...figures, ...report], pass: { ...pass, tone } };
}

/** The same from one pass, which begins where no note sounds: for a search, in steps that yield the share done. */
export function* quickStateSteps(
  document: SoundDocument,
  options: MeasureOptions,
): Generator<number, SoundState> {
  const render = yield* shareOf(
    renderLoopSteps(document, { ...options, stems: 'none', traced: true, brief: !runsFree(document) }),
    0,
    0.6,
  );
  const measured = yield* shareOf(measurePassSteps(document, render), 0.6, 0.4);
  const pass: WholePass = { ...measured, ...lookOf(document, render, options.assets, true) };
  return {
    document,
    figures: [...judge(IN_VIEW, document, [pass]), ...judge<WholePass>(REPORT, document, [pass])],
    pass,
  };
}
