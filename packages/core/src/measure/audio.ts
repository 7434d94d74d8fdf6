/**
 * A piece of audio to measure: one or two channels of equal length, at a rate in hertz. A loop's end runs
 * into its start.
 */
export interface Audio {
  readonly channels: readonly Float32Array[];
  readonly sampleRateHz: number;
  readonly loop?: boolean;
}

/** A figure that cannot be computed, and the reason in words. */
export interface Unknown {
  readonly value: null;
  readonly reason: string;
}

/** A figure: a number, or null with a reason. */
export type Figure = { readonly value: number; readonly reason?: undefined } | Unknown;

export const known = (value: number): Figure => ({ value });
export const unknown = (reason: string): Unknown => ({ value: null, reason });

/** (L+R)/2, or the one channel of a mono file. */
export function middle(channels: readonly Float32Array[]): Float32Array {
  if (channels.length === 1) return channels[0];
  const [left, right] = channels;
  const out = new Float32Array(left.length);
  for (let i = 0; i < out.length; i++) out[i] = 0.5 * (left[i] + right[i]);
  return out;
}
