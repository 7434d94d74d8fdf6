import type { Targets } from '../../document/index.js';
import { known, unknown } from '../../measure/index.js';
import { plain, signed } from '../../units/index.js';
import { noLockWords } from '../passes/no-lock-words.js';
import type { PassFigures } from '../passes/pass.js';
import { standWithin, type FigureSpec } from './spec.js';

/** How far a level lies from the middle of what is wanted, dB. */
const offMiddle = (value: number, { bassToKickMinDb, bassToKickMaxDb }: Targets) =>
  Math.abs(value - (bassToKickMinDb + bassToKickMaxDb) / 2);

/** Level of the bass against the kick, below Lock's frequency, at the note where it lies furthest off. */
export const bassToKick: FigureSpec<PassFigures> = {
  label: 'Bass to kick',
  unit: 'dB',
  signed: true,
  targets: ['bassToKickMinDb', 'bassToKickMaxDb', 'bassToKickWatchMinDb', 'bassToKickWatchMaxDb'],
  means: 'Which of the two carries the lows where both sound.',
  measure: ({ notes }, document) => {
    const values = notes.map((note) => note.bassToKickDb.value).filter((value) => value !== null);
    if (values.length === 0) return unknown(noLockWords(document));
    return known(
      values.reduce((worst, value) =>
        offMiddle(value, document.targets) > offMiddle(worst, document.targets) ? value : worst,
      ),
    );
  },
  badness: offMiddle,
  stand: (
    { figure: { value } },
    {
      lock,
      targets: { bassToKickMinDb: least, bassToKickMaxDb: most, bassToKickWatchMinDb, bassToKickWatchMaxDb },
    },
  ) =>
    standWithin(
      value,
      { least: [least, bassToKickWatchMinDb], most: [most, bassToKickWatchMaxDb] },
      `level below ${Math.round(lock.belowHz)} Hz; target ${plain(least, 0)} to ${signed(most, 0)}`,
    ),
};
