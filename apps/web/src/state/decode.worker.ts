import { explainError, readWav } from '@abyssal/core';

export interface DecodeRequest {
  readonly job: number;
  readonly bytes: ArrayBuffer;
}
export type DecodeAnswer =
  | {
      readonly job: number;
      readonly error?: undefined;
      readonly channels: readonly Float32Array[];
      readonly sampleRateHz: number;
    }
  | { readonly job: number; readonly error: string };

/** Decodes WAVs away from the page, which a large file would hold up. */
self.onmessage = ({ data: { job, bytes } }: MessageEvent<DecodeRequest>) => {
  try {
    const { channels, sampleRateHz } = readWav(new Uint8Array(bytes));
    self.postMessage({ job, channels, sampleRateHz } satisfies DecodeAnswer, {
      transfer: channels.map((channel) => channel.buffer as ArrayBuffer),
    });
  } catch (error) {
    self.postMessage({
      job,
      error: explainError(error) ?? 'the WAV could not be decoded',
    } satisfies DecodeAnswer);
  }
};
