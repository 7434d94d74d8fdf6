import type { SoundDocument } from '../../document/index.js';
import { BLOCK, CrossoverSide, prewarp } from '../../dsp/index.js';
import type { Assets } from '../base/recording.js';
import { renderKick } from './render-kick.js';

/** The kick counts as sounding while it stands within this of its peak, in dB (from the design). */
const WITHIN = 10 ** (-20 / 20);
/** Length of the stretches whose greatest sample is its level there, in seconds. */
const STRETCH_S = 0.005;

/** Its lows are looked at below this, in hertz: they last longer than its click. */
const LOWS_HZ = 150;
/** The bass comes back so much later, in ms, for the same reason for which it goes early. */
const GUARD_MS = 12;

/** Last stretch in which a signal stands within 20 dB of its peak, counted from 1; 0 for silence. */
function lastLoud(samples: ArrayLike<number>, size: number): number {
  const peaks: number[] = [];
  for (let from = 0; from < samples.length; from += size) {
    let peak = 0;
    for (let i = from; i < Math.min(samples.length, from + size); i++)
      peak = Math.max(peak, Math.abs(samples[i]));
    peaks.push(peak);
  }
  const top = Math.max(0, ...peaks);
  let last = top === 0 ? 0 : peaks.length;
  while (last > 0 && peaks[last - 1] < WITHIN * top) last--;
  return last;
}

/**
 * How long the bass is held away from one hit of a sound's kick, in ms: while the kick or its lows stand
 * within 20 dB of their peak; 0 for silence.
 */
export function hardHoldMs(document: SoundDocument, sampleRateHz: number, assets: Assets): number {
  if (!document.duck.on || !document.duck.hard) return 0;
  const { left, right } = renderKick(document, sampleRateHz, assets);
  const size = Math.round(STRETCH_S * sampleRateHz);
  const low = new CrossoverSide('low');
  const g = new Float64Array(2).fill(prewarp(LOWS_HZ, sampleRateHz));
  const middle = Float64Array.from(left, (x, i) => 0.5 * (x + right[i]));
  const lows = middle.slice();
  for (let at = 0; at < lows.length; at += BLOCK) low.process(lows, at, Math.min(at + BLOCK, lows.length), g);
  const last = Math.max(lastLoud(middle, size), lastLoud(lows, 2 * size) * 2);
  return last === 0 ? 0 : (1000 * last * size) / sampleRateHz + GUARD_MS;
}
