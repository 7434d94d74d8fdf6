import { cleanUnit, MOST_UNITS, type SoundDocument } from '../../document/index.js';
import { hertzText, plain } from '../../units/index.js';
import { tidy, withUnitAfter } from '../base/edits.js';
import type { MendKind, Way } from '../base/way.js';

const MOST_CUT_DB = 14;

/** A cut by a bell after the sum. */
const cut = (sound: SoundDocument, hz: number, q: number): Way => ({
  id: `cut-${Math.round(hz)}`,
  title: (amount) => `Lower ${hertzText(hz)} by ${plain(MOST_CUT_DB * amount)} dB`,
  apply: (amount) =>
    amount === 0
      ? sound
      : withUnitAfter(sound, 'equaliser', {
          sections: cleanUnit('equaliser').sections.map((section, n) =>
            n === 0
              ? {
                  ...section,
                  on: true,
                  form: 'bell',
                  hz: tidy(hz, 0),
                  gainDb: tidy(-MOST_CUT_DB * amount),
                  q: tidy(q, 2),
                }
              : section,
          ),
        }),
});

const isFull = ({ grit: { after } }: SoundDocument) => after.length >= MOST_UNITS;
const FULL = 'The chain after the sum is full: take a unit out of it first.';

/** Takes what sticks out: by glare control, or by a bell where it does. */
export const glareTamed: MendKind = {
  figures: ['glare'],
  ways: ({ document, pass: { tone } }) =>
    isFull(document)
      ? []
      : [
          {
            id: 'glare-control',
            title: (amount) => `Glare control at ${plain(100 * amount, 0)} %`,
            apply: (amount) =>
              amount === 0
                ? document
                : withUnitAfter(document, 'glare control', { amountPct: tidy(100 * amount), mostDb: 24 }),
          },
          ...tone.glare.peaks.slice(0, 1).map(({ hz }) => cut(document, hz, 3)),
        ],
  against: ({ document }) =>
    isFull(document)
      ? FULL
      : 'What sticks out is the sound’s own tone between 1 and 8 kHz: lower a resonance or a vowel there, or allow more.',
};

/** Clears the low mids. */
export const mudCleared: MendKind = {
  figures: ['mud'],
  ways: ({ document }) => (isFull(document) ? [] : [cut(document, 285, 0.9)]),
  against: ({ document }) =>
    isFull(document)
      ? FULL
      : 'The sound is made of little else than 200 to 400 Hz: open a filter, or play it lower.',
};

/** Makes room where a backing part lies: a pocket, or ducking under the part. */
export const room: MendKind = {
  figures: ['masked'],
  ways: ({ document, pass: { tone } }) => {
    const worst = [...tone.masking].sort((a, b) => (b.share ?? 0) - (a.share ?? 0)).at(0);
    if (!worst) return [];
    const pockets = isFull(document)
      ? []
      : worst.hidden.map(([from, to]) =>
          cut(document, Math.sqrt(from * to), Math.max(0.5, Math.sqrt(from * to) / (to - from))),
        );
    const ducked: Way = {
      id: 'duck',
      title: (amount) => `Duck the bass under ${worst.name} by ${plain(12 * amount)} dB`,
      apply: (amount) =>
        amount === 0
          ? document
          : {
              ...document,
              duck: {
                ...document.duck,
                on: true,
                by: 'level',
                from: worst.id,
                acts: 'level',
                amountDb: tidy(12 * amount),
              },
            },
    };
    return document.duck.on ? pockets : [...pockets, ducked];
  },
  against: () =>
    'The bass and the part share the same depth: play one of them elsewhere, or turn the part down.',
};
