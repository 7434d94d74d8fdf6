import type { Targets } from '../../document/index.js';
import { known, unknown } from '../../measure/index.js';
import { marginText, plain, signed } from '../../units/index.js';
import { noLockWords } from '../passes/no-lock-words.js';
import { atLeast, atMost, worse } from '../passes/verdict.js';
import type { FigureSpec } from './spec.js';

/** How far a level lies from the middle of what is wanted, dB. */
const offMiddle = (value: number, { bassToKickMinDb, bassToKickMaxDb }: Targets) =>
  Math.abs(value - (bassToKickMinDb + bassToKickMaxDb) / 2);

/** Level of the bass against the kick, below Lock's frequency, at the note where it lies furthest off. */
export const bassToKick: FigureSpec = {
  label: 'Bass to kick',
  unit: 'dB',
  signed: true,
  targets: [],
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
  ) => ({
    detail: `level below ${Math.round(lock.belowHz)} Hz; target ${plain(least, 0)} to ${signed(most, 0)}`,
    verdict: worse(atLeast(value, least, bassToKickWatchMinDb), atMost(value, most, bassToKickWatchMaxDb)),
    margin: marginText(value, { least, most }),
  }),
};
