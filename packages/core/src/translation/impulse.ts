import { nextPowerOfTwo, realSpectrum } from '../dsp/index.js';
import type { OwnSystem } from '../document/index.js';
import { powerToDb } from '../units/index.js';

/** Bands of a response by the octave, and where they begin and end, in hertz. */
const PER_OCTAVE = 12;
const LOWEST_HZ = 20;
const HIGHEST_HZ = 20000;
/** What stands under the loudest band by more than this is taken to be nothing. */
const RANGE_DB = 100;
/** A transform no shorter than this has bins enough in the lowest bands: two in the first at 48 kHz. */
const LEAST_FRAMES = 1 << 17;

/**
 * The response of an impulse response: mean power by twelfths of an octave from 20 Hz to 20 kHz, dB against the octave
 * around 1 kHz. Its phases and echoes are no part of it.
 *
 * @param impulse the recording; of two sides the mean power.
 * @throws where there is nothing but silence, or nothing around 1 kHz.
 */
export function responseOfImpulse(
  impulse: readonly Float32Array[],
  sampleRateHz: number,
): OwnSystem['response'] {
  const size = nextPowerOfTwo(Math.max(LEAST_FRAMES, impulse[0].length));
  const power = new Float64Array(size / 2 + 1);
  const frame = new Float64Array(size);
  const bins = new Float64Array(2 * size);
  for (const side of impulse) {
    frame.fill(0);
    frame.set(side);
    realSpectrum(frame, bins);
    for (let k = 0; k <= size / 2; k++) power[k] += bins[2 * k] ** 2 + bins[2 * k + 1] ** 2;
  }
  const mean = (fromHz: number, toHz: number): number => {
    const from = Math.max(1, Math.round((fromHz / sampleRateHz) * size));
    const to = Math.min(size / 2, Math.max(from, Math.round((toHz / sampleRateHz) * size)));
    let sum = 0;
    for (let k = from; k <= to; k++) sum += power[k];
    return sum / (to - from + 1);
  };
  const reference = mean(1000 * Math.SQRT1_2, 1000 * Math.SQRT2);
  if (!(reference > 1e-20)) throw new Error('the impulse response has nothing around 1 kHz');
  const highest = Math.min(HIGHEST_HZ, 0.45 * sampleRateHz);
  const half = 2 ** (0.5 / PER_OCTAVE);
  const count = Math.floor(PER_OCTAVE * Math.log2(highest / LOWEST_HZ)) + 1;
  const levels = Array.from({ length: count }, (_, i) => {
    const hz = LOWEST_HZ * 2 ** (i / PER_OCTAVE);
    return { hz: Number(hz.toFixed(2)), levelDb: powerToDb(mean(hz / half, hz * half) / reference + 1e-30) };
  });
  const loudest = Math.max(...levels.map(({ levelDb }) => levelDb));
  return levels.map(({ hz, levelDb }) => ({
    hz,
    levelDb: Math.round(10 * Math.min(40, Math.max(levelDb, loudest - RANGE_DB, -120))) / 10,
  }));
}
