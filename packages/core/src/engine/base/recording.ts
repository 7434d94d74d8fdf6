import { resample } from '../../dsp/index.js';

/** A recording as it was decoded: one or two channels of equal length. */
export interface Recording {
  readonly channels: readonly Float32Array[];
  readonly sampleRateHz: number;
}

/** Two sides of equal length. */
export interface Stereo {
  readonly left: Float32Array;
  readonly right: Float32Array;
}

/** Recordings by the hash under which the document names them. */
export type Assets = ReadonlyMap<string, Recording>;

const resampled = new WeakMap<Recording, Map<number, Recording>>();

/** A recording at another rate; made once. */
export function atEngineRate(recording: Recording, sampleRateHz: number): Recording {
  if (recording.sampleRateHz === sampleRateHz) return recording;
  let rates = resampled.get(recording);
  if (!rates) resampled.set(recording, (rates = new Map<number, Recording>()));
  let found = rates.get(sampleRateHz);
  if (!found) {
    found = {
      sampleRateHz,
      channels: recording.channels.map((channel) => resample(channel, recording.sampleRateHz, sampleRateHz)),
    };
    rates.set(sampleRateHz, found);
  }
  return found;
}
