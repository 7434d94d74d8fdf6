import { writeFile } from 'node:fs/promises';
import {
  fitOf,
  isLock,
  isWorth,
  NO_LOCK_WORDS,
  noPhaseWords,
  noteName,
  settles,
  shownGainDb,
  soundingOf,
  writeSoundFile,
  type LineLock,
  type NoteLock,
  type Proposal,
} from '@abyssal/core';
import { loadSoundWithKick } from './files.js';

const RATE = 48000;
const rounded = (value: number | null, digits = 2) => (value === null ? null : Number(value.toFixed(digits)));
const line = ({
  worstSumGainDb,
  worstPitch,
  meetings,
  notes,
  keptApart,
  oneWave,
  withoutPhase,
  beating,
  adds,
  verdict,
}: LineLock) => ({
  worstSumGainDb: rounded(worstSumGainDb),
  worstNote: worstPitch === null ? null : noteName(worstPitch),
  meetings,
  notesMeetingKick: notes,
  keptApart,
  oneWave,
  withoutCommonPhase: withoutPhase,
  differentPitches: beating,
  everyHitAdds: adds,
  verdict,
});
const proposal = ({ id, steps, title, costText, takes, gainDb, says, after }: Proposal) => ({
  id,
  steps,
  title,
  says,
  cost: costText || 'nothing',
  gainDb: rounded(gainDb),
  takes: {
    lowsDb: rounded(takes.lowsDb),
    grooveMs: rounded(takes.grooveMs),
    kickCents: rounded(takes.kickCents, 1),
    kickLengthMs: rounded(takes.kickLengthMs, 0),
    toneDb: rounded(takes.toneDb),
    keySemitones: takes.keySemitones,
  },
  after: line(after),
});
/** How each note stands to each hit that it meets. */
const meetings = (notes: readonly NoteLock[], a4Hz: number) =>
  notes.flatMap(({ note, meetings: own, spreadDeg }) =>
    own.length === 0
      ? []
      : [
          {
            note: noteName(note.pitch),
            tick: note.tick,
            spreadDeg: rounded(spreadDeg, 1),
            hits: own.map(({ hit, lock }) => ({
              hit,
              sumGainDb: rounded(shownGainDb(lock)),
              bearingDeg: isLock(lock) ? rounded(lock.bearingDeg, 1) : null,
              reason: isLock(lock)
                ? lock.noPhase && noPhaseWords(lock.noPhase, a4Hz)
                : NO_LOCK_WORDS[lock.reason],
            })),
          },
        ],
  );

/**
 * Finds what makes bass and kick of a sound agree, and writes the sound with the best of it applied. `--kick`
 * takes a WAV as the kick first.
 */
export async function fit(path: string, flags: { apply: string; kick?: string }) {
  const { sound, assets, bundled } = await loadSoundWithKick(path, flags.kick);
  const before = soundingOf(sound, { sampleRateHz: RATE, assets });
  const bassToKickDb = before.report.find(({ id }) => id === 'bassToKick')?.figure.value ?? null;
  const { notes, low } = before.pass;
  const found = fitOf(sound, { sampleRateHz: RATE, assets, bassToKickDb, known: { locks: notes, ...low } });
  // What gains next to nothing is applied only where it makes the figure hold: of the level, where that holds
  // by then.
  const best = found.proposals.find(
    (offered) => isWorth(found.before, offered) || (offered.steps[0] === 'level' && settles(offered.after)),
  );
  const changed = best?.document ?? sound;
  await writeFile(flags.apply, writeSoundFile({ sound: changed, assets: bundled }));
  if (found.before.meetings === 0)
    process.stderr.write('no kick lands on a note of the line, so there is nothing to fit\n');
  else if (!best)
    process.stderr.write(
      `${found.against ?? 'nothing that is offered makes it better'}: the sound is written as it was\n`.replace(
        '.:',
        ':',
      ),
    );
  return {
    before: line(found.before),
    why: found.why,
    notes: meetings(notes, sound.ground.a4Hz),
    against: found.against,
    proposals: found.proposals.map(proposal),
    applied: best ? best.id : null,
    after: line(best?.after ?? found.before),
    file: flags.apply,
  };
}
