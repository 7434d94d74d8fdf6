import { known } from '../../measure/index.js';
import type { PassFigures } from '../passes/pass.js';
import { standWithin, type FigureSpec } from './spec.js';

/** How many clicks there are that no hit asked for. */
export const clicks: FigureSpec<PassFigures> = {
  label: 'Clicks',
  unit: '',
  signed: false,
  digits: 0,
  targets: ['clicks', 'clicksWatch'],
  means:
    'Edges above 2 kHz that no note asked for: an envelope that stops too soon, or a jump in what moves.',
  measure: (pass) => known(pass.clicks.length),
  badness: (value) => value,
  stand: ({ figure: { value } }, { targets: { clicks: most, clicksWatch } }) => ({
    ...standWithin(
      value,
      { most: [most, clicksWatch] },
      `away from the notes’ starts; target ${most} at most`,
    ),
    margin: null,
  }),
};
