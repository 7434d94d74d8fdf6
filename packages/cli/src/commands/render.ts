import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileNameOf, FormatError, renderLoop, writeWav, type Stereo, type WavBits } from '@abyssal/core';
import { loadSound } from './files.js';

export interface RenderFlags {
  out: string;
  stems?: boolean;
  dryStems?: boolean;
  rate: string;
  bits: string;
}

/**
 * Renders a sound's loop, and its stems where asked, to WAV files.
 * `tookS` is the whole wait from the start of the command to the last file, in s; `timesRealTime` is seconds
 * of loop written per second of it.
 */
export async function render(path: string, flags: RenderFlags) {
  const rate = Number(flags.rate);
  if (!Number.isInteger(rate) || rate < 8000 || rate > 192000)
    throw new FormatError(`--rate ${flags.rate}: give a whole number from 8000 to 192000`);
  if (!['16', '24', '32f'].includes(flags.bits))
    throw new FormatError(`--bits ${flags.bits}: give 16, 24 or 32f`);
  const { sound, assets } = await loadSound(path);
  const stems = flags.dryStems ? 'dry' : flags.stems ? 'shares' : 'none';
  const loop = renderLoop(sound, { sampleRateHz: rate, assets, stems });
  await mkdir(flags.out, { recursive: true });
  const base = fileNameOf(sound.name);
  const parts: [string, Stereo][] = [[base, loop.all]];
  if (stems !== 'none') {
    parts.push([`${base}-kick`, loop.kick], [`${base}-bass`, loop.bass]);
    for (const layer of loop.layers) parts.push([`${base}-${layer.id}`, layer]);
  }
  const files: string[] = [];
  for (const [name, audio] of parts) {
    const file = join(flags.out, `${name}.wav`);
    await writeFile(file, writeWav([audio.left, audio.right], rate, flags.bits as WavBits));
    files.push(file);
  }
  const durationS = loop.frames / rate;
  // Counted from the start of the process.
  const tookS = performance.now() / 1000;
  return { files, durationS, tookS, timesRealTime: durationS / tookS };
}
