import { writeFile } from 'node:fs/promises';
import { FormatError, readChainFile, runGrit, writeWav } from '@abyssal/core';
import { loadText, loadWav } from './files.js';

export interface GritFlags {
  out: string;
  tempo: string;
  seed: string;
}

/**
 * Runs a kept chain, or all of grit, over a WAV and writes what comes out as a WAV of the same length and rate, 32
 * bits. The delay of its units is taken off.
 */
export async function grit(chainPath: string, wavPath: string, flags: GritFlags) {
  const tempoBpm = Number(flags.tempo);
  if (!(tempoBpm >= 40 && tempoBpm <= 240))
    throw new FormatError(`--tempo ${flags.tempo}: give beats a minute from 40 to 240`);
  const seed = Number(flags.seed);
  if (!Number.isInteger(seed) || seed < 0 || seed > 4294967295)
    throw new FormatError(`--seed ${flags.seed}: give a whole number from 0 to 4294967295`);
  const chain = readChainFile(await loadText(chainPath));
  const { channels, sampleRateHz } = await loadWav(wavPath);
  if (channels.length > 2)
    throw new FormatError(`${wavPath}: it has ${channels.length} channels; give one or two`);
  const started = performance.now();
  const out = runGrit(chain, channels, { sampleRateHz, tempoBpm, seed });
  const tookS = (performance.now() - started) / 1000;
  await writeFile(flags.out, writeWav(out, sampleRateHz, '32f'));
  const durationS = channels[0].length / sampleRateHz;
  return {
    file: flags.out,
    channels: out.length,
    sampleRateHz,
    durationS,
    tookS,
    timesRealTime: durationS / tookS,
  };
}
