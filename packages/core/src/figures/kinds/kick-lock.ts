import type { SoundDocument, Targets } from '../../document/index.js';
import { known, unknown } from '../../measure/index.js';
import { noteName } from '../../music/index.js';
import { marginText, plain, signed } from '../../units/index.js';
import { lineLock, worstLock, type LineLock } from '../passes/line-lock.js';
import { noLockWords } from '../passes/no-lock-words.js';
import { isLock, shownGainDb, type NoteLock } from '../passes/note-lock.js';
import { worse, type Verdict } from '../passes/verdict.js';
import type { PassFigures } from '../passes/pass.js';
import { missOf, type FigureSpec } from './spec.js';

/**
 * What the lock is measured over: the worst note, over how many hits it is held, and what has no common
 * phase.
 */
function detail(
  document: SoundDocument,
  worst: NoteLock | null,
  { beating, withoutPhase }: LineLock,
): string {
  if (!worst || !isLock(worst.lock)) return `sum gain below ${Math.round(document.lock.belowHz)} Hz`;
  const held = worst.meetings.length > 1 ? `, worst of ${worst.meetings.length} hits` : '';
  const one = withoutPhase === 1 ? 'one hit' : `${withoutPhase} hits`;
  const how =
    beating === withoutPhase
      ? `beat${withoutPhase === 1 ? 's' : ''} at different pitches`
      : 'without a common phase';
  const apart = withoutPhase === 0 ? '' : `; ${one} ${how}`;
  const { sumGainDb, fromBestDb } = document.targets;
  return `sum gain on ${noteName(worst.note.pitch)}${held}; best possible ${signed(worst.lock.bestSumGainDb)}; target ${signed(sumGainDb)} or more, within ${plain(fromBestDb)} of the best${apart}`;
}

/**
 * How the worst lock of a line stands to its target and to the best that a turn would give; where something
 * else keeps it from holding, only its own miss.
 */
function margin(
  worst: NoteLock | null,
  { miss, verdict }: LineLock,
  { sumGainDb, fromBestDb }: Targets,
): string | null {
  if (verdict !== 'holds' || !worst || !isLock(worst.lock)) return miss;
  return marginText(shownGainDb(worst.lock), {
    least: Math.max(sumGainDb, worst.lock.bestSumGainDb - fromBestDb),
  });
}

/** What kick and bass gain by adding up, at the worst note. */
export const kickLock: FigureSpec<PassFigures> = {
  label: 'Kick lock',
  unit: 'dB',
  signed: true,
  targets: ['sumGainDb', 'sumGainWatchDb', 'fromBestDb'],
  means: 'Whether kick and bass add up or cancel where they sound together, at the worst of their hits.',
  measure: ({ notes }, document) => {
    const { worstSumGainDb } = lineLock(document, notes);
    return worstSumGainDb !== null ? known(worstSumGainDb) : unknown(noLockWords(document, notes));
  },
  badness: (value) => -value,
  stand: ({ pass, passes }, document) => {
    const worst = worstLock(pass.notes);
    const line = lineLock(document, pass.notes);
    return {
      detail: detail(document, worst, line),
      margin: margin(worst, line, document.targets),
      miss: missOf(line.worstSumGainDb, {
        least: [document.targets.sumGainDb, document.targets.sumGainWatchDb],
      }),
      // Keeping the two apart on purpose, and making them one wave, are answers too.
      verdict: passes.reduce<Verdict>(
        (verdict, { notes }) => worse(verdict, lineLock(document, notes).verdict),
        'unknown',
      ),
    };
  },
};
