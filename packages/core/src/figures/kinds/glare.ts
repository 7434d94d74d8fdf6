import { hertzText, plain } from '../../units/index.js';
import { standWithin, type FigureSpec } from './spec.js';

const MOST_NAMED = 3;

/** What sticks out between 1 and 8 kHz. */
export const glare: FigureSpec = {
  label: 'Glare',
  unit: 'dB',
  signed: false,
  targets: ['glareDb', 'glareWatchDb'],
  means: 'What sticks out between 1 and 8 kHz: a resonance, a vowel or a comb that hurts when it is loud.',
  measure: ({ tone }) => tone.glare.db,
  badness: (value) => value,
  stand: ({ figure: { value }, pass: { tone } }, { targets: { glareDb, glareWatchDb } }) => {
    const at = tone.glare.peaks.slice(0, MOST_NAMED).map(({ hz }) => hertzText(hz));
    return standWithin(
      value,
      { most: [glareDb, glareWatchDb] },
      `${at.length > 0 ? `at ${at.join(', ')}` : '1 to 8 kHz'}; target ${plain(glareDb)} at most`,
    );
  },
};
