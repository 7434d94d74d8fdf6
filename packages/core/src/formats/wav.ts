import * as wavefile from 'wavefile';
import { Random, resample } from '../dsp/index.js';
import { FormatError } from './format-error.js';
import { readWavLayout } from './wav-layout.js';

// The package names its class differently to bundlers and to Node's own loader, where all of it is the
// default export.
const { WaveFile } = (wavefile as unknown as { default?: typeof wavefile }).default ?? wavefile;

/** Decoded audio: one or two channels of samples around ±1. */
export interface DecodedWav {
  readonly channels: readonly Float32Array[];
  readonly sampleRateHz: number;
  readonly bits: number;
  readonly float: boolean;
}

/** Formats that are written: 16-bit with dither, 24-bit, 32-bit float. */
export type WavBits = '16' | '24' | '32f';

/**
 * Decodes a WAV: 8 to 32-bit integer or 32 and 64-bit float, mono or stereo, plain or extensible header, 8 to
 * 192 kHz. Throws a
 * `FormatError` with one sentence for anything else, and for samples that are no numbers.
 */
export function readWav(bytes: Uint8Array): DecodedWav {
  const { channels: count, sampleRateHz, bits, float, frames } = readWavLayout(bytes);
  let samples: Float64Array;
  try {
    const wav = new WaveFile();
    wav.fromBuffer(bytes);
    samples = Float64Array.from(wav.getSamples(true) as unknown as ArrayLike<number>);
  } catch {
    throw new FormatError('the WAV could not be decoded; save it again as 16 or 24-bit PCM');
  }
  const scale = float ? 1 : 1 / 2 ** (bits - 1);
  const middle = !float && bits === 8 ? 128 : 0;
  const channels = Array.from({ length: count }, () => new Float32Array(frames));
  for (let i = 0; i < frames; i++) {
    for (let c = 0; c < count; c++) {
      const value = (samples[i * count + c] - middle) * scale;
      if (!(value > -1e6 && value < 1e6))
        throw new FormatError('the WAV holds values that are not audio (not a number, or infinite)');
      channels[c][i] = value;
    }
  }
  return { channels, sampleRateHz, bits, float };
}

/** The channels of a decoded WAV at another rate in hertz. */
export function atRate(wav: DecodedWav, sampleRateHz: number): Float32Array[] {
  return wav.channels.map((channel) => resample(channel, wav.sampleRateHz, sampleRateHz));
}

/**
 * Rounds to whole steps; with triangular dither of two steps' width (Lipshitz, Wannamaker and Vanderkooy,
 * 1992) where asked.
 */
function quantise(channel: Float32Array, bits: 16 | 24, dither: Random | null): Int32Array {
  const full = 2 ** (bits - 1);
  const out = new Int32Array(channel.length);
  for (let i = 0; i < channel.length; i++) {
    const noise = dither ? dither.next() - dither.next() : 0;
    out[i] = Math.max(-full, Math.min(full - 1, Math.round(channel[i] * full + noise)));
  }
  return out;
}

/** Encodes one or two channels as a WAV. Dither is seeded: the same audio gives the same file. */
export function writeWav(channels: readonly Float32Array[], sampleRateHz: number, bits: WavBits): Uint8Array {
  const wav = new WaveFile();
  const data =
    bits === '32f'
      ? channels.map((channel) => Float32Array.from(channel))
      : channels.map((channel, c) =>
          quantise(channel, bits === '16' ? 16 : 24, bits === '16' ? new Random(1, c) : null),
        );
  wav.fromScratch(channels.length, sampleRateHz, bits, data.length === 1 ? data[0] : data);
  return wav.toBuffer();
}
