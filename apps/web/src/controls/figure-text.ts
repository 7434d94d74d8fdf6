import { FIGURES, plain, signed, type Changed, type FigureSpec, type JudgedFigure } from '@abyssal/core';

/** A figure's number as it is read: “+2.1”, “6 / 7”, or a dash where it cannot be told. */
export function figureText({ id, figure, outOf }: JudgedFigure): string {
  const { signed: withSign, digits }: FigureSpec = FIGURES[id];
  if (figure.value === null) return '–';
  const number = withSign ? signed(figure.value, digits) : plain(figure.value, digits);
  return outOf === undefined ? number : `${number} / ${outOf}`;
}

/** “Heard on systems 4 / 7 to 7 / 7”. */
export function changedWords({ id, before, after }: Changed): string {
  const { label, unit } = FIGURES[id];
  const [was, is] = [figureText(before), figureText(after)];
  const of = unit ? ` ${unit}` : '';
  return was === is ? `${label} only just, ${is}${of}` : `${label} ${was} to ${is}${of}`;
}
