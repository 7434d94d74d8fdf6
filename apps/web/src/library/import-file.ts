import { cleanSound, LONGEST_NAME, plainText, readMidi, type SoundDocument } from '@abyssal/core';
import { createSound } from '../api/sounds';
import { fromBase64 } from '../files/base64';
import { soundFileOf, takeWav } from '../state/recordings';

/** Reads a sound file, or makes a new sound of a MIDI file's line, and keeps it; returns what was kept. */
export async function importFile(file: File): Promise<{ id: string; document: SoundDocument }> {
  if (/\.midi?$/i.test(file.name)) {
    const line = readMidi(new Uint8Array(await file.arrayBuffer()));
    const clean = cleanSound(plainText(file.name.replace(/\.midi?$/i, ''), LONGEST_NAME));
    const tempoBpm = Math.min(240, Math.max(40, line.tempoBpm ?? clean.ground.tempoBpm));
    return createSound({
      ...clean,
      ground: { ...clean.ground, bars: line.bars, tempoBpm },
      kick: { ...clean.kick, hits: clean.kick.hits.filter(({ tick }) => tick < line.bars * 1920) },
      line: { notes: line.notes },
    });
  }
  if (file.size > 80 * 1024 * 1024) throw new Error('the sound file is larger than 80 MB');
  const { sound, assets } = await soundFileOf(await file.text());
  for (const [hash, data] of Object.entries(assets)) {
    const found = await takeWav(new Blob([fromBase64(data)]));
    if (found !== hash) throw new Error('the sound file is broken: a recording in it has changed');
  }
  return createSound(sound);
}
