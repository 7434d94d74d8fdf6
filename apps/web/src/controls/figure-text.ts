import { FIGURES, plain, signed, type FigureSpec, type JudgedFigure } from '@abyssal/core';

/** A figure's number as it is read: “+2.1”, “6 / 7”, or a dash where it cannot be told. */
export function figureText({ id, figure, outOf }: JudgedFigure): string {
  const { signed: withSign, digits }: FigureSpec = FIGURES[id];
  if (figure.value === null) return '–';
  const number = withSign ? signed(figure.value, digits) : plain(figure.value, digits);
  return outOf === undefined ? number : `${number} / ${outOf}`;
}
