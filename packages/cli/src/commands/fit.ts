import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { cleanWavKick, fitOf, noteName, soundingOf, writeSoundFile, type LineLock, type Proposal } from '@abyssal/core';
import { loadSound, loadWav } from '../files.js';

const RATE = 48000;
const rounded = (value: number | null, digits = 2) => (value === null ? null : Number(value.toFixed(digits)));
const line = ({ worstSumGainDb, worstPitch, meeting, keptApart, oneWave, withoutPhase }: LineLock) => ({ worstSumGainDb: rounded(worstSumGainDb), worstNote: worstPitch === null ? null : noteName(worstPitch), notesMeetingKick: meeting, keptApart, oneWave, withoutCommonPhase: withoutPhase });
const proposal = ({ id, title, costText, gainDb, after }: Proposal) => ({ id, title, cost: costText || 'nothing', gainDb: rounded(gainDb), after: line(after) });

/** Finds what makes bass and kick of a sound agree, and writes the sound with the best of it applied. `--kick` takes a WAV as the kick first. */
export async function fit(path: string, flags: { apply: string; kick?: string }) {
  const loaded = await loadSound(path);
  let { sound } = loaded;
  const assets = new Map(loaded.assets);
  const bundled = { ...loaded.bundled };
  if (flags.kick) {
    const recording = await loadWav(flags.kick);
    const bytes = await readFile(flags.kick);
    const hash = createHash('sha256').update(bytes).digest('hex');
    assets.set(hash, recording);
    bundled[hash] = bytes.toString('base64');
    sound = { ...sound, kick: { ...sound.kick, on: true, source: 'wav', wav: cleanWavKick(hash, basename(flags.kick)) } };
  }
  const before = soundingOf(sound, { sampleRateHz: RATE, assets });
  const bassToKickDb = before.figures.find(({ id }) => id === 'bassToKick')?.figure.value ?? null;
  const found = fitOf(sound, { sampleRateHz: RATE, assets, bassToKickDb });
  const best = found.proposals[0] as Proposal | undefined;
  const changed = best?.document ?? sound;
  await writeFile(flags.apply, writeSoundFile({ sound: changed, assets: bundled }));
  if (found.before.meeting === 0) process.stderr.write('no note of the line meets the kick: there is nothing to fit\n');
  else if (!best) process.stderr.write('nothing that is offered makes it better: the sound is written as it was\n');
  return { before: line(found.before), proposals: found.proposals.map(proposal), applied: best ? best.id : null, after: line(best?.after ?? found.before), file: flags.apply };
}
