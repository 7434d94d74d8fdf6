import type { SoundDocument } from '../document/index.js';
import { beats, beatsWords, isLock, pitchWords, type LineLock, type NoteLock } from '../figures/index.js';
import type { KickTail } from '../measure/index.js';
import { noteName } from '../music/index.js';
import { signed } from '../units/index.js';

/** A spread of bearings over the hits of one note that no single turn can lock, in degrees. */
const WIDE_DEG = 90;

/** What every hit of a line has, in words. */
export function hitsWords({
  worstSumGainDb,
  meetings,
  keptApart,
  oneWave,
  withoutPhase,
  beating,
  adds,
  miss,
}: LineLock): string {
  if (meetings === 0) return 'no hit lands on a note';
  if (oneWave === meetings) return 'kick and bass are one wave';
  if (keptApart === meetings) return 'kick and bass are kept apart at every hit';
  const safe = [
    ...(keptApart > 0 ? [`${keptApart} kept apart`] : []),
    ...(oneWave > 0 ? [`${oneWave} one wave with the bass`] : []),
  ];
  if (worstSumGainDb === null)
    return [
      beating === withoutPhase
        ? `${beating === meetings ? 'every hit beats' : `${beating} of ${meetings} hits beat`} against the bass`
        : `${withoutPhase} of ${meetings} hits have no common phase with the bass`,
      ...safe,
    ].join(', ');
  const rest = [
    ...safe,
    ...(beating > 0 ? [`${beating} beat`] : []),
    ...(withoutPhase > beating ? [`${withoutPhase - beating} without a common phase`] : []),
  ];
  const added = Math.floor(10 * worstSumGainDb) / 10;
  const all = keptApart + oneWave === 0;
  return [
    adds
      ? all
        ? `every hit adds ${added.toFixed(1)} dB${meetings > 1 ? ' or more' : ''}`
        : `the hits that land on notes add ${added.toFixed(1)} dB or more`
      : `the worst hit is at ${signed(worstSumGainDb)} dB${miss ? ` (${miss})` : ''}`,
    ...rest,
  ].join(', ');
}

/** How a line stands to its kick and why, as a producer would say it: one or two sentences. */
export function whyWords(
  { ground: { a4Hz }, targets }: SoundDocument,
  locks: readonly NoteLock[],
  line: LineLock,
  tail: KickTail | null,
): string {
  const meetings = locks.flatMap((note) => note.meetings.map((meeting) => ({ note, meeting })));
  if (meetings.length === 0) return 'No kick lands on a note of the line.';
  if (line.oneWave === line.meetings) return 'Kick and bass are one wave: there is nothing to cancel.';
  if (line.keptApart === line.meetings) return 'Kick and bass are kept apart at every hit.';
  const share = (count: number) =>
    count === meetings.length ? '' : ` at ${count} of ${meetings.length} hits`;
  const beating = meetings.filter(({ meeting }) => beats(meeting.lock));
  const [first] = beating;
  if (first && isLock(first.meeting.lock)) {
    const { kickHz, beatsHz } = first.meeting.lock.noPhase!;
    const { pitch } = first.note.note;
    const held = first.note.meetings.length > 1 ? 'holds' : 'plays';
    return `Your kick ends on ${pitchWords(kickHz, a4Hz)}; the line ${held} ${noteName(pitch)}. They beat ${beatsWords(beatsHz)}${share(beating.length)} and never lock.`;
  }
  const of = (cause: string) =>
    meetings.filter(({ meeting: { lock } }) => isLock(lock) && lock.noPhase?.cause === cause).length;
  if (tail === null) return 'The kick’s tail is too short to have a pitch.';
  if (of('still falling') > 0)
    return tail.steady
      ? `The kick’s pitch is still falling${share(of('still falling'))}, so there is no phase to lock to.`
      : 'The kick never settles on a pitch, so no turn can lock it.';
  if (of('gliding') > 0) return `The bass glides${share(of('gliding'))}, so there is no phase to lock.`;
  if (of('no pitch') > 0) return `Kick or bass has no pitch${share(of('no pitch'))}.`;
  const widest = locks.reduce((most, note) => ((note.spreadDeg ?? 0) > (most.spreadDeg ?? 0) ? note : most));
  const cancels =
    line.worstSumGainDb !== null && line.worstPitch !== null && line.worstSumGainDb < targets.sumGainDb;
  if (cancels && (widest.spreadDeg ?? 0) > WIDE_DEG)
    return `${noteName(widest.note.pitch)} is held over ${widest.meetings.length} hits, and its phase differs by up to ${Math.round(widest.spreadDeg!)}° between them: one is doubled while another is cancelled.`;
  return cancels
    ? `At the worst hit, on ${noteName(line.worstPitch)}, kick and bass cancel each other by ${Math.abs(line.worstSumGainDb).toFixed(1)} dB.`
    : `Kick and bass agree: ${hitsWords(line)}.`;
}

/** What stands against an answer where none was found, and what to change by hand. */
export function againstWords(tail: KickTail | null, free: boolean): string {
  if (free)
    return 'No change found makes every hit add: the phase of the bass runs free. Lock the start phase of its lowest layer at Layers, and look again.';
  if (tail === null || !tail.steady)
    return 'No change found makes every hit add: the kick never settles on a pitch. Give it a shorter drop at Ground, or leave a gap in the line under it.';
  return 'No change found makes every hit add without taking 6 dB or more of the lows: the kick covers too much of the line. Shorten it or take out hits at Ground, or leave gaps for it in the line.';
}
