import type { SoundDocument } from '../document/index.js';
import type { Figure } from '../measure/index.js';
import { FIGURE_IDS, FIGURES, type FigureId } from './kinds/index.js';
import type { FigureSpec, FigureStanding } from './kinds/spec.js';
import type { PassFigures } from './passes/pass.js';

/** One of the figures always in view, as it stands to its targets. */
export interface JudgedFigure extends FigureStanding {
  readonly id: FigureId;
  readonly figure: Figure;
  /** Greatest less least over the passes, where something runs free. */
  readonly spread: number | null;
}

/** The value among passes that is worst, the place of its pass, and how far the passes stand apart. */
function worstOf(
  figures: readonly Figure[],
  badness: (value: number) => number,
): { figure: Figure; index: number; spread: number | null } {
  let index = -1;
  figures.forEach(({ value }, i) => {
    if (value !== null && (index < 0 || badness(value) > badness(figures[index].value!))) index = i;
  });
  if (index < 0) return { figure: figures[0], index: 0, spread: null };
  const values = figures.map(({ value }) => value).filter((value) => value !== null);
  const spread = figures.length > 1 ? Math.max(...values) - Math.min(...values) : null;
  return { figure: figures[index], index, spread };
}

/**
 * The figures of a sound against its targets, from one pass, or from several where phases or movers run free:
 * the worst is shown.
 */
export function judge(document: SoundDocument, passes: readonly PassFigures[]): JudgedFigure[] {
  return FIGURE_IDS.map((id) => {
    const spec: FigureSpec = FIGURES[id];
    const { figure, index, spread } = worstOf(
      passes.map((pass) => spec.measure(pass, document)),
      (value) => spec.badness(value, document.targets),
    );
    return { id, figure, spread, ...spec.stand({ figure, pass: passes[index], passes }, document) };
  });
}
