import { writeFile } from 'node:fs/promises';
import { mendAllSteps, toEnd, writeSoundFile, type JudgedFigure, type SoundState } from '@abyssal/core';
import { loadSoundWithKick } from './files.js';

const RATE = 48000;

const told = ({ id, figure, verdict, detail }: JudgedFigure) => ({
  id,
  value: figure.value === null ? null : Number(figure.value.toFixed(3)),
  verdict,
  detail: figure.reason ?? detail,
});
const figuresOf = ({ figures }: SoundState) => figures.map(told);

/** Mends what falls short as far as that goes without harm, and writes the sound. */
export async function mend(path: string, flags: { apply: string; kick?: string }) {
  const { sound, assets, bundled } = await loadSoundWithKick(path, flags.kick);
  const { before, after, applied, left } = toEnd(mendAllSteps(sound, { sampleRateHz: RATE, assets }));
  await writeFile(flags.apply, writeSoundFile({ sound: after.document, assets: bundled }));
  if (applied.length === 0)
    process.stderr.write('nothing mends it without harm: the sound is written as it was\n');
  return {
    applied: applied.map(({ id, title, figure, distanceDb, gains }) => ({
      id,
      title,
      figure,
      distanceDb: Number(distanceDb.toFixed(2)),
      before: told(gains.before),
      after: told(gains.after),
    })),
    left,
    before: figuresOf(before),
    after: figuresOf(after),
  };
}
