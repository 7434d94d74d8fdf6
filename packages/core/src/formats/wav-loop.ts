import { MOST_CHUNKS } from './wav-layout.js';

/**
 * What a WAV says of how it is to be played: the note at which it stands, and its first loop (frames, the end
 * not included).
 */
export interface WavLoop {
  readonly rootPitch: number | null;
  readonly loop: { readonly from: number; readonly to: number } | null;
}

const name = (view: DataView, at: number) =>
  String.fromCharCode(view.getUint8(at), view.getUint8(at + 1), view.getUint8(at + 2), view.getUint8(at + 3));

/**
 * Reads the sampler chunk of a WAV (`smpl`: Microsoft, Multimedia standards update, 1994): MIDI unity note,
 * and the first loop, whose end is the last frame
 * of it. What is not there, or makes no sense, is null.
 */
export function readWavLoop(bytes: Uint8Array): WavLoop {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = 12;
  for (let chunk = 0; chunk < MOST_CHUNKS && at + 8 <= bytes.length; chunk++) {
    const size = view.getUint32(at + 4, true);
    const body = at + 8;
    if (name(view, at) === 'smpl' && size >= 36 && body + 36 <= bytes.length) {
      const note = view.getUint32(body + 12, true);
      const loops = view.getUint32(body + 28, true);
      const rootPitch = note <= 127 ? note : null;
      if (loops === 0 || body + 60 > bytes.length) return { rootPitch, loop: null };
      const from = view.getUint32(body + 44, true);
      const to = view.getUint32(body + 48, true) + 1;
      return { rootPitch, loop: from < to && to <= 20_000_000 ? { from, to } : null };
    }
    at = body + size + (size % 2);
  }
  return { rootPitch: null, loop: null };
}
