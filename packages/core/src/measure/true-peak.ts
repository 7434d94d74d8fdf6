import { BETWEEN_REACH as REACH, BETWEEN_TAPS as TAPS } from '../dsp/index.js';
import { gainToDb } from '../units/index.js';
import { known, unknown, type Audio, type Figure } from './audio.js';

/** Between two samples the signal may stand this much above them: 4 dB. */
const NEAR = 1.6;

/**
 * True peak as an amplitude: the greatest magnitude of the signal four times oversampled (ITU-R BS.1770-5,
 * Annex 2), by a
 * windowed sinc of 32 samples. What lies between samples is computed only where the samples around come near
 * the
 * greatest value found so far (within 4 dB).
 */
export function truePeak({ channels, loop = false }: Audio): number {
  let peak = 0;
  for (const channel of new Set(channels)) {
    const n = channel.length;
    for (let i = 0; i < n; i++) {
      const size = Math.abs(channel[i]);
      if (size > peak) peak = size;
    }
    for (let i = 0; i < n; i++) {
      const next = i + 1 < n ? channel[i + 1] : 0;
      if (Math.max(Math.abs(channel[i]), Math.abs(next)) * NEAR < peak) continue;
      const inside = i >= REACH && i + REACH < n;
      for (const taps of TAPS) {
        const size = Math.abs(
          inside ? between(taps, channel, i - REACH + 1) : betweenEnds(taps, channel, i - REACH + 1, loop),
        );
        if (size > peak) peak = size;
      }
    }
  }
  return peak;
}

function between(taps: Float64Array, channel: Float32Array, from: number): number {
  let sum = 0;
  for (let k = 0; k < 2 * REACH; k++) sum += taps[k] * channel[from + k];
  return sum;
}

/** The same near the ends, beyond which lies nothing, or the other end of a loop. */
function betweenEnds(taps: Float64Array, channel: Float32Array, from: number, loop: boolean): number {
  const n = channel.length;
  let sum = 0;
  for (let k = 0; k < 2 * REACH; k++) {
    const at = from + k;
    if (at >= 0 && at < n) sum += taps[k] * channel[at];
    else if (loop) sum += taps[k] * channel[((at % n) + n) % n];
  }
  return sum;
}

/** True peak in dBTP. */
export function truePeakDb(audio: Audio): Figure {
  const peak = truePeak(audio);
  return peak > 0 ? known(gainToDb(peak)) : unknown('there is only silence');
}
