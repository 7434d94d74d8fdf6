const DB_PER_NEPER = 20 / Math.LN10;

/** Amplitude ratio of a level in dB: 10^(dB/20). `-Infinity` gives 0. */
export function dbToGain(db: number): number {
  return Math.exp(db / DB_PER_NEPER);
}

/** Level in dB of an amplitude ratio: 20·log10|gain|. 0 gives `-Infinity`. */
export function gainToDb(gain: number): number {
  return 20 * Math.log10(Math.abs(gain));
}

/** Level in dB of a power ratio: 10·log10(power). 0 gives `-Infinity`. */
export function powerToDb(power: number): number {
  return 10 * Math.log10(power);
}
