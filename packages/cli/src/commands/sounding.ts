import { soundingFile, soundingOf } from '@abyssal/core';
import { loadSoundWithKick } from './files.js';

const RATE = 48000;

/** Everything that is measured of a sound, against its targets. */
export async function sounding(path: string, flags: { kick?: string }) {
  const { sound, assets } = await loadSoundWithKick(path, flags.kick);
  const found = soundingOf(sound, { sampleRateHz: RATE, assets });
  return soundingFile(sound, {
    ...found,
    notes: found.pass.notes,
    mono: found.pass.mono,
    clicks: found.pass.clicks,
    heard: found.pass.heard,
  });
}
