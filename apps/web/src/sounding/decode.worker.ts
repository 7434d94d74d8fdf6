import { atRate, explainError, readWav } from '@abyssal/core';

export interface DecodeRequest { readonly job: number; readonly bytes: ArrayBuffer; readonly sampleRateHz: number }
export type DecodeAnswer =
  | { readonly job: number; readonly error?: undefined; readonly channels: Float32Array[]; readonly sampleRateHz: number }
  | { readonly job: number; readonly error: string };

/** Decodes WAVs away from the page, which a large file would hold up. */
self.onmessage = ({ data: { job, bytes, sampleRateHz } }: MessageEvent<DecodeRequest>) => {
  try {
    const channels = atRate(readWav(new Uint8Array(bytes)), sampleRateHz);
    self.postMessage({ job, channels, sampleRateHz } satisfies DecodeAnswer, { transfer: channels.map((channel) => channel.buffer as ArrayBuffer) });
  } catch (error) {
    self.postMessage({ job, error: explainError(error) ?? 'the WAV could not be decoded' } satisfies DecodeAnswer);
  }
};
