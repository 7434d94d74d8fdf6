import type { SoundDocument } from '../document/index.js';
import type { Figure } from '../measure/index.js';
import type { Verdict } from './passes/verdict.js';
import type { FigureId } from './kinds/index.js';
import type { FigureSpec, FigureStanding } from './kinds/spec.js';

/** A figure as it stands to its targets. */
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
 * Figures of a sound against its targets, `IN_VIEW`, `REPORT` or some of them, from one pass, or from several where phases or
 * movers run free: the worst is shown.
 */
export function judge<P>(
  kinds: Partial<Readonly<Record<FigureId, FigureSpec<P>>>>,
  document: SoundDocument,
  passes: readonly P[],
): JudgedFigure[] {
  return (Object.entries(kinds) as [FigureId, FigureSpec<P>][]).map(([id, spec]) => {
    const { figure, index, spread } = worstOf(
      passes.map((pass) => spec.measure(pass, document)),
      (value) => spec.badness(value, document.targets),
    );
    return { id, figure, spread, ...spec.stand({ figure, pass: passes[index], passes }, document) };
  });
}

/** Verdicts, the worst first; what cannot be told comes last. */
const WORST_FIRST: readonly Verdict[] = ['falls short', 'watch', 'holds', 'unknown'];

/** Figures sorted by what is worst: by verdict, then by how far each misses its target for what is only watched. */
export function worstFirst(figures: readonly JudgedFigure[]): JudgedFigure[] {
  const place = ({ verdict }: JudgedFigure) => WORST_FIRST.indexOf(verdict);
  const miss = ({ miss }: JudgedFigure) => miss ?? -Infinity;
  return [...figures].sort((a, b) => place(a) - place(b) || (miss(a) === miss(b) ? 0 : miss(b) - miss(a)));
}
