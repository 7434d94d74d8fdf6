import {
  barBeat,
  beats,
  formatDivision,
  isLock,
  missText,
  NO_LOCK_WORDS,
  noteName,
  shownGainDb,
  TICKS_PER_BEAT,
  type LineNote,
  type NoteLock,
  type Targets,
} from '@abyssal/core';

/** By how much a sum gain misses its target where its number does not show it. */
export function missedWords(gain: number, { sumGainDb }: Targets): string {
  const miss = missText(gain, { least: sumGainDb });
  return miss ? `, ${miss}` : '';
}

/** How a note stands to the kick, in words: by the worst hit that meets it. */
function lockWords({ meetings, lock }: NoteLock, targets: Targets): string {
  if (meetings.length === 0) return '';
  const over = meetings.length > 1 ? ` at the worst of ${meetings.length} hits` : '';
  const gain = shownGainDb(lock);
  if (gain !== null)
    return `, sum gain with the kick ${gain.toFixed(1)} dB${missedWords(gain, targets)}${over}`;
  if (!isLock(lock)) return `, ${NO_LOCK_WORDS[lock.reason]}`;
  return `, ${beats(lock) ? 'beats against the kick' : 'no common phase with the kick'}${over}`;
}

function placeWords(tick: number): string {
  const rest = tick % TICKS_PER_BEAT;
  return `${barBeat(tick)}${rest === 0 ? '' : ` and ${(rest / TICKS_PER_BEAT).toFixed(2)} beats`}`;
}

/** A note as it is read out: pitch, place, length, velocity, and how it stands to the kick where that is known. */
export function noteWords(
  note: LineNote,
  outside: boolean,
  lock: NoteLock | undefined,
  targets: Targets,
): string {
  const parts = [
    `${noteName(note.pitch)} at ${placeWords(note.tick)}`,
    `${(note.ticks / TICKS_PER_BEAT).toFixed(2)} beats`,
    `velocity ${note.velocity}`,
    ...(outside ? ['outside the scale'] : []),
    ...(note.accent ? ['accent'] : []),
    ...(note.tie ? ['tied'] : []),
    ...(note.wobbleBeats === null
      ? []
      : [
          note.wobbleBeats === 0
            ? 'wobble held'
            : `wobble ${formatDivision(note.wobbleBeats) ?? `${note.wobbleBeats} beats`}`,
        ]),
  ];
  return parts.join(', ') + (lock ? lockWords(lock, targets) : '');
}
