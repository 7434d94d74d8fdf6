import type { SoundDocument } from '../../document/index.js';
import { SILENCE, stretchOf, type LowBand } from '../../lock/index.js';
import { known, unknown, type Figure } from '../../measure/index.js';
import { gainToDb } from '../../units/index.js';
import { noteStretches } from './meetings.js';
import { NO_LOCK_WORDS } from './no-lock-words.js';
import { lockNotes, type NoteLock } from './note-lock.js';

/** How a note of the line stands to the kick, in phase and in level. */
export interface NoteLevels extends NoteLock {
  /** RMS of its loudest whole period below Lock's frequency, before ducking, dBFS. */
  readonly subLevelDb: Figure;
  /** That level over the kick's where both sound, dB. */
  readonly bassToKickDb: Figure;
}

/** RMS of the loudest whole period of a low band within [from, to); 0 where it is shorter than that. */
function loudestPeriod(band: LowBand, from: number, to: number, period: number): number {
  const { re } = stretchOf(band, from, to);
  const size = Math.max(1, Math.round(period));
  if (to - from < size) return 0;
  let sum = 0;
  let most = 0;
  for (let i = 0; i < re.length; i++) {
    sum += re[i] * re[i];
    if (i >= size) sum -= re[i - size] * re[i - size];
    if (i >= size - 1 && sum > most) most = sum;
  }
  return Math.sqrt(most / size);
}

/**
 * Measures lock and levels of every note of a line in the low bands of its rendered loop; `before` is the
 * bass before ducking.
 */
export function noteLevels(
  document: SoundDocument,
  kick: LowBand,
  bass: LowBand,
  before: LowBand,
): NoteLevels[] {
  const stretches = noteStretches(document, bass.re.length, bass.rateHz);
  return lockNotes(document, kick, bass).map((standing, n) => {
    const { from, to, periodS } = stretches[n];
    const period = periodS * bass.rateHz;
    const level = loudestPeriod(before, from, to, period);
    const kickLevel = Math.max(
      0,
      ...standing.meetings.map((meeting) => loudestPeriod(kick, meeting.from, meeting.to, period)),
    );
    const subLevelDb =
      level > SILENCE
        ? known(gainToDb(level))
        : unknown(
            'nothing sounds below the compare frequency in this note, or the note is shorter than one cycle',
          );
    return {
      ...standing,
      subLevelDb,
      bassToKickDb:
        subLevelDb.value === null
          ? subLevelDb
          : kickLevel > 0
            ? known(subLevelDb.value - gainToDb(kickLevel))
            : unknown(NO_LOCK_WORDS['not met']),
    };
  });
}
