import {
  barBeat,
  GROOVE_MS,
  hitsWords,
  isLock,
  NO_LOCK_WORDS,
  noPhaseWords,
  noteName,
  plain,
  roseGainDb,
  signed,
  TICKS_PER_BEAT,
  type Lock,
  type Rose,
  type SoundDocument,
  type Turn,
} from '@abyssal/core';
import type { ShownProposal } from '../../sounding/told';
import type { Met } from './met';

/** Turns under this are not worth a click. */
export const LEAST_TURN_DEG = 0.5;

/** Degrees and shares are whole numbers. */
export const wholeDegrees = (value: number) => plain(value, 0);

/** A place of a line as bar, beat and sixteenth. */
export function placeWords(tick: number): string {
  const at = Math.round(tick);
  const sixteenth = TICKS_PER_BEAT / 4;
  return `${barBeat(at)}${at % TICKS_PER_BEAT === 0 ? '' : `.${Math.floor((at % TICKS_PER_BEAT) / sixteenth) + 1}`}`;
}

/** What stands in the place of the overlay where there is nothing to lay over each other. */
export function emptyWords({ line, kick }: SoundDocument, looked: boolean): string {
  if (!looked) return 'Rendering the loop.';
  if (line.notes.length === 0) return 'The line is empty: draw a note at the Line station.';
  if (!kick.on || kick.hits.length === 0) return 'There is no kick: set its beats at the Ground station.';
  return 'No kick overlaps a note for a whole cycle.';
}

/** Why there is no rose; null where there is one. */
export function noRoseWords(
  { ground }: SoundDocument,
  looked: boolean,
  present: Met | null,
  rose: Rose | null,
): string | null {
  if (!looked) return 'measuring';
  if (!present) return 'no kick lands on a note';
  const { lock } = present.meeting;
  if (!isLock(lock)) return NO_LOCK_WORDS[lock.reason];
  if (lock.noPhase) return noPhaseWords(lock.noPhase, ground.a4Hz);
  return rose ? null : 'rendering the turns';
}

/** Which note and which of its hits is looked at. */
export function presentWords({ note: { note, meetings }, place }: Met): string {
  return `note ${noteName(note.pitch)}${note.tie ? ', tied' : ''}${meetings.length > 1 ? `, hit ${place + 1} of ${meetings.length}` : ''}`;
}

/** How the phase of a note that is held over several hits differs between them; null of any other. */
export function heldWords({ note: { note, meetings, spreadDeg } }: Met): string | null {
  if (meetings.length < 2 || spreadDeg === null) return null;
  return `${noteName(note.pitch)} is held over ${meetings.length} hits: its phase differs by up to ${wholeDegrees(spreadDeg)}°.`;
}

/** What a turn gives, or that there is none better. */
export function turnWords(measured: Lock | null, rose: Rose | null, best: Turn | null): string {
  if (measured?.bearingDeg == null || !best || !rose) return 'Turn';
  return Math.abs(best.turnDeg) < LEAST_TURN_DEG
    ? 'Already best'
    : `Turn by ${signed(best.turnDeg, 0)}°: ${signed(roseGainDb(rose, best.turnDeg))} dB`;
}

/** The same for all hits of the line. */
export function lineTurnWords(common: Turn | null): string {
  return `Best for the line${common ? ` ${signed(common.turnDeg, 0)}°: ${signed(common.worstSumGainDb)} dB` : ''}`;
}

const sentence = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;

/** What a proposal gives, as its numeral. */
export function gainNumeral({ after, gainDb }: ShownProposal): string {
  if (after.worstSumGainDb !== null) return signed(gainDb);
  return after.oneWave > 0 ? 'one wave' : 'apart';
}

/** What another change of the whole line would give, and whether it is felt. */
export function actionWords(label: string, { after, takes }: Pick<ShownProposal, 'after' | 'takes'>): string {
  const gives = after.worstSumGainDb === null ? hitsWords(after) : `${signed(after.worstSumGainDb)} dB`;
  return `${label}: ${gives}${takes.grooveMs > GROOVE_MS ? ', felt' : ''}`;
}

/** What a proposal costs. */
export const costWords = ({ costText }: ShownProposal) =>
  costText ? sentence(costText) : 'It costs nothing.';

/** What a proposal does, says and costs, in one line. */
export const proposalWords = ({ title, says, costText }: ShownProposal) =>
  `${title}: ${says}${costText ? `; ${costText}` : ''}`;
