import * as wavefile from 'wavefile';
import { Random, resample } from '../dsp/index.js';
import { FormatError } from './format-error.js';
import { readWavLayout, type WavLayout } from './wav-layout.js';

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

/** Bytes that are decoded at once: what decoding takes beside the result. */
const BLOCK_BYTES = 1 << 20;

/**
 * A file of nothing but a stretch of audio: what else a WAV may hold (cues, lists, samplers) says of itself how
 * long it is, and a reader that believes it may never end.
 */
function onlyAudio(
  bytes: Uint8Array,
  { channels, sampleRateHz, bits, float, frameBytes }: WavLayout,
): Uint8Array {
  const file = new Uint8Array(44 + bytes.length);
  const view = new DataView(file.buffer);
  const name = (at: number, text: string) => {
    for (let i = 0; i < text.length; i++) file[at + i] = text.charCodeAt(i);
  };
  name(0, 'RIFF');
  view.setUint32(4, 36 + bytes.length, true);
  name(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, float ? 3 : 1, true);
  view.setUint16(22, channels, true);
  view.setUint32(24, sampleRateHz, true);
  view.setUint32(28, sampleRateHz * frameBytes, true);
  view.setUint16(32, frameBytes, true);
  view.setUint16(34, bits, true);
  name(36, 'data');
  view.setUint32(40, bytes.length, true);
  file.set(bytes, 44);
  return file;
}

/**
 * Decodes the audio of a WAV block by block: `take` is given the samples of each, those of a frame side by side,
 * scaled to ±1, and the place of its first frame.
 */
function decodeBlocks(
  bytes: Uint8Array,
  layout: WavLayout,
  take: (samples: Float64Array, from: number) => void,
): void {
  const { channels, bits, float, frames, frameBytes, at } = layout;
  const scale = float ? 1 : 1 / 2 ** (bits - 1);
  const middle = !float && bits === 8 ? 128 : 0;
  const atOnce = Math.floor(BLOCK_BYTES / frameBytes);
  const block = new Float64Array(Math.min(frames, atOnce) * channels);
  for (let from = 0; from < frames; from += atOnce) {
    const to = Math.min(frames, from + atOnce);
    const stretch = bytes.subarray(at + from * frameBytes, at + to * frameBytes);
    const samples = samplesOf(onlyAudio(stretch, layout));
    const count = (to - from) * channels;
    for (let i = 0; i < count; i++) {
      const value = (samples[i] - middle) * scale;
      if (!(value > -1e6 && value < 1e6))
        throw new FormatError('the WAV holds values that are not audio (not a number, or infinite)');
      block[i] = value;
    }
    take(block.subarray(0, count), from);
  }
}

/**
 * Decodes a WAV: 8 to 32-bit integer or 32 and 64-bit float, mono or stereo, plain or extensible header, 8 to
 * 192 kHz. Of the file only format and audio are read, as far as the file reaches. Throws a
 * `FormatError` with one sentence for anything else, and for samples that are no numbers.
 */
export function readWav(bytes: Uint8Array): DecodedWav {
  const layout = readWavLayout(bytes);
  const { channels: count, sampleRateHz, bits, float, frames } = layout;
  const channels = Array.from({ length: count }, () => new Float32Array(frames));
  decodeBlocks(bytes, layout, (samples, from) => {
    for (let c = 0; c < count; c++)
      for (let i = c, frame = from; i < samples.length; i += count) channels[c][frame++] = samples[i];
  });
  return { channels, sampleRateHz, bits, float };
}

/**
 * Decodes a WAV to its end without keeping its audio, and returns what it is. Throws a `FormatError` as `readWav`
 * does.
 */
export function checkWav(bytes: Uint8Array): Pick<WavLayout, 'channels' | 'sampleRateHz' | 'frames'> {
  const layout = readWavLayout(bytes);
  decodeBlocks(bytes, layout, () => undefined);
  const { channels, sampleRateHz, frames } = layout;
  return { channels, sampleRateHz, frames };
}

/** Samples of a WAV, those of a frame side by side. */
function samplesOf(file: Uint8Array): ArrayLike<number> {
  try {
    const wav = new WaveFile();
    wav.fromBuffer(file);
    return wav.getSamples(true);
  } catch {
    throw new FormatError('the WAV could not be decoded; save it again as 16 or 24-bit PCM');
  }
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
