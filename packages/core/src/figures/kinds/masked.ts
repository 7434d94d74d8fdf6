import { known, unknown } from '../../measure/index.js';
import { hertzText, plain } from '../../units/index.js';
import { standWithin, type FigureSpec, type WholePass } from './spec.js';

/** The backing part that hides most of the bass. */
const worst = ({ tone: { masking } }: WholePass) =>
  masking.reduce<WholePass['tone']['masking'][number] | null>(
    (most, part) => (part.share !== null && (most === null || part.share > (most.share ?? 0)) ? part : most),
    null,
  );

const MOST_NAMED = 2;

/** How much of the bass a backing part hides. */
export const masked: FigureSpec = {
  label: 'Masked',
  unit: '%',
  signed: false,
  digits: 0,
  targets: ['maskedPct', 'maskedWatchPct'],
  means:
    'How much of the bass’s energy lies more than 6 dB under a backing part in its own third of an octave.',
  measure: (pass, document) => {
    if (document.backing.every(({ on }) => !on)) return unknown('there is no backing part');
    const part = worst(pass);
    return part?.share != null ? known(100 * part.share) : unknown('there is only silence');
  },
  badness: (value) => value,
  stand: ({ figure: { value }, pass }, { targets: { maskedPct, maskedWatchPct } }) => {
    const part = worst(pass);
    const where =
      part?.hidden.slice(0, MOST_NAMED).map(([from, to]) => `${hertzText(from)} to ${hertzText(to)}`) ?? [];
    return standWithin(
      value,
      { most: [maskedPct, maskedWatchPct] },
      `${part ? `by ${part.name}${where.length > 0 ? ` at ${where.join(', ')}` : ''}; ` : ''}target ${plain(maskedPct, 0)} at most`,
      '%',
      0,
    );
  },
};
