import { FormatError } from './format-error.js';

/** What a WAV's header says, once it has been found to be true of the file. */
export interface WavLayout {
  readonly channels: 1 | 2;
  readonly sampleRateHz: number;
  readonly bits: number;
  readonly float: boolean;
  readonly frames: number;
  /** Bytes of a frame, and where in the file the first one begins. */
  readonly frameBytes: number;
  readonly at: number;
}

const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;
const UNKNOWN_LENGTH = 0xffffffff;
/** Chunks that are looked through: a file with more is no recording. */
export const MOST_CHUNKS = 1000;

/** A file larger than this is refused, in bytes. */
export const MOST_WAV_BYTES = 50 * 1024 * 1024;

const name = (view: DataView, at: number) =>
  String.fromCharCode(view.getUint8(at), view.getUint8(at + 1), view.getUint8(at + 2), view.getUint8(at + 3));

/**
 * Reads the chunks of a WAV (Microsoft and IBM, Multimedia programming interface, 1991;
 * WAVE_FORMAT_EXTENSIBLE, 2001) and checks what they say against the
 * file itself before anything is decoded. Throws a `FormatError` with one sentence.
 */
export function readWavLayout(bytes: Uint8Array): WavLayout {
  const refuse = (why: string): never => {
    throw new FormatError(why);
  };
  if (bytes.length > MOST_WAV_BYTES)
    refuse(`the WAV is larger than ${MOST_WAV_BYTES / 1024 / 1024} MB; trim it first`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 12 || name(view, 0) !== 'RIFF' || name(view, 8) !== 'WAVE')
    refuse('this is not a WAV file: it does not begin as one');
  let format: { code: number; channels: number; rate: number; block: number; bits: number } | null = null;
  let at = 12;
  for (let chunk = 0; chunk < MOST_CHUNKS && at + 8 <= bytes.length; chunk++) {
    const id = name(view, at);
    const size = view.getUint32(at + 4, true);
    const body = at + 8;
    const rest = bytes.length - body;
    if (id === 'fmt ') {
      if (size < 16 || rest < 16) refuse('the WAV is broken: its format chunk is too short');
      let code = view.getUint16(body, true);
      if (code === EXTENSIBLE) {
        if (size < 40 || rest < 40) refuse('the WAV is broken: its extensible header is cut off');
        code = view.getUint16(body + 24, true);
      }
      format = {
        code,
        channels: view.getUint16(body + 2, true),
        rate: view.getUint32(body + 4, true),
        block: view.getUint16(body + 12, true),
        bits: view.getUint16(body + 14, true),
      };
    } else if (id === 'data') {
      if (!format) return refuse('the WAV is broken: its audio comes before its format');
      return layout(format, size === UNKNOWN_LENGTH ? rest : size, body, rest, refuse);
    }
    at = body + size + (size % 2);
  }
  return refuse(
    format ? 'the WAV holds no audio, or is cut off before it' : 'the WAV is broken: it has no format chunk',
  );
}

function layout(
  format: { code: number; channels: number; rate: number; block: number; bits: number },
  size: number,
  at: number,
  rest: number,
  refuse: (why: string) => never,
): WavLayout {
  const { code, channels, rate, block, bits } = format;
  if (code !== PCM && code !== FLOAT)
    refuse(`the WAV is compressed or of an unknown kind (format ${code}); save it as PCM or 32-bit float`);
  if (channels !== 1 && channels !== 2) refuse(`the WAV has ${channels} channels; give one or two`);
  if (rate < 8000 || rate > 192000) refuse(`the WAV’s sample rate is ${rate} Hz; give 8000 to 192000 Hz`);
  const widths = code === FLOAT ? [32, 64] : [8, 16, 24, 32];
  if (!widths.includes(bits))
    refuse(
      `the WAV has ${bits} bits a sample; ${code === FLOAT ? '32 or 64-bit float' : '8, 16, 24 or 32 bits'} can be read`,
    );
  if (block !== (channels * bits) / 8)
    refuse('the WAV’s header contradicts itself: its block size does not fit its channels and bits');
  if (size > rest)
    refuse(`the WAV is cut off: its header promises ${size} bytes of audio and the file holds ${rest}`);
  const frames = Math.floor(size / block);
  if (frames === 0) refuse('the WAV holds no samples');
  return { channels, sampleRateHz: rate, bits, float: code === FLOAT, frames, frameBytes: block, at };
}
