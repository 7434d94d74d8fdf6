import type { Layer, SoundDocument } from '../../document/index.js';
import { plain, signed } from '../../units/index.js';
import { tidy, withLayer } from '../base/edits.js';
import type { MendKind, Way } from '../base/way.js';

const MOST_DB = 12;
/** A sub that is next to nothing is raised by more. */
const MOST_SUB_DB = 30;

const turned = (
  sound: SoundDocument,
  { id, name, role, levelDb }: Layer,
  sign: 1 | -1,
  mostDb = role === 'sub' && sign > 0 ? MOST_SUB_DB : MOST_DB,
): Way => ({
  id: `${sign > 0 ? 'raise' : 'lower'}-${id}`,
  title: (amount) => `${sign > 0 ? 'Raise' : 'Lower'} ${name} by ${plain(mostDb * amount)} dB`,
  apply: (amount) =>
    withLayer(sound, id, (layer) => ({
      ...layer,
      levelDb: tidy(Math.min(12, Math.max(-60, levelDb + sign * mostDb * amount))),
    })),
});

/** Sets the sub against the low mids, and the lows against what is wanted of them. */
export const balance: MendKind = {
  figures: ['subToBody', 'subAlone'],
  ways: ({ document, pass: { tone } }, { id, figure: { value } }) => {
    const subs = document.layers.filter(({ on, role }) => on && role === 'sub');
    const bodies = document.layers.filter(({ on, role }) => on && role === 'body');
    const { subToBodyMaxDb } = document.targets;
    const tooMuch = id === 'subToBody' && (value ?? tone.subToBodyDb.value ?? 0) > subToBodyMaxDb;
    return [
      ...subs.map((layer) => turned(document, layer, tooMuch ? -1 : 1)),
      ...(id === 'subToBody' ? bodies.map((layer) => turned(document, layer, tooMuch ? 1 : -1)) : []),
    ];
  },
  against: () =>
    'No layer’s level sets the two against each other far enough: change what Sub or Body are made of.',
};

/** Brings loudness, true peak and the bass against the kick to their targets. */
export const levels: MendKind = {
  figures: ['loudness', 'bassToKick'],
  ways: ({ document }) => {
    const { levelDb, ceilingDb } = document.output;
    const { truePeakDbtp } = document.targets;
    const moved = (sign: 1 | -1): Way => ({
      id: sign > 0 ? 'louder' : 'softer',
      title: (amount) => `Bass level ${signed(sign * MOST_DB * amount)} dB`,
      apply: (amount) => ({
        ...document,
        output: {
          ...document.output,
          levelDb: tidy(Math.min(12, Math.max(-24, levelDb + sign * MOST_DB * amount))),
        },
      }),
    });
    const kick = (sign: 1 | -1): Way => ({
      id: sign > 0 ? 'both-louder' : 'both-softer',
      title: (amount) => `Kick and bass ${signed(sign * MOST_DB * amount)} dB`,
      apply: (amount) => {
        const by = sign * MOST_DB * amount;
        return {
          ...document,
          kick: { ...document.kick, levelDb: tidy(Math.min(12, Math.max(-60, document.kick.levelDb + by))) },
          output: { ...document.output, levelDb: tidy(Math.min(12, Math.max(-24, levelDb + by))) },
        };
      },
    });
    const ceiling: Way = {
      id: 'ceiling',
      title: () => `Ceiling at ${plain(truePeakDbtp - 0.2)} dBTP`,
      apply: (amount) =>
        amount === 0
          ? document
          : {
              ...document,
              output: { ...document.output, ceilingDb: tidy(Math.max(-12, truePeakDbtp - 0.2)) },
            },
    };
    return [...(ceilingDb > truePeakDbtp ? [ceiling] : []), moved(1), moved(-1), kick(1), kick(-1)];
  },
  against: () =>
    'The levels of kick and bass do not reach it alone: press them together with a limiter in Grit, or change the target.',
};
