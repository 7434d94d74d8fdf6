import { powerToDb } from '../units/index.js';
import type { LowBand } from './low-band.js';

/** How bass and kick stand to each other below a frequency. Phase figures are null where there is no common phase. */
export interface Lock {
  readonly sumGainDb: number;
  readonly bestSumGainDb: number;
  readonly coherence: number;
  /** Degrees in (−180, 180], positive when the bass leads. */
  readonly bearingDeg: number | null;
  /** Degrees to add to the phase of the bass. */
  readonly bestTurnDeg: number | null;
  /** Milliseconds by which to move the bass, positive for later. */
  readonly nudgeMs: number | null;
  /** Why bearing, turn and nudge are null. */
  readonly reason: string | null;
  /** Energies and correlation in the window, from which the rose is drawn. */
  readonly energies: { readonly kick: number; readonly bass: number; readonly re: number; readonly im: number };
}

/** Why nothing can be said of a stretch. */
export interface NoLock { readonly reason: string }

const WITHIN = 10 ** (-30 / 20);
const LEAST_COHERENCE = 0.25;
/** An amplitude under this (−90 dB) is silence: what dither leaves in a low band lies far under it. */
export const SILENCE = 3e-5;

/** Sum gain in dB of energies and the real part of the correlation. */
export function sumGainDb(kick: number, bass: number, re: number): number {
  return powerToDb(Math.max(0, 1 + (2 * re) / (kick + bass)));
}

/** Sum gain that a turn of the bass by some degrees would give (a constant rotation). */
export function sumGainAtTurn({ energies: { kick, bass, re, im } }: Lock, turnDeg: number): number {
  const angle = (turnDeg * Math.PI) / 180;
  return sumGainDb(kick, bass, re * Math.cos(angle) - im * Math.sin(angle));
}

function peak({ re, im }: LowBand, from: number, to: number): number {
  let top = 0;
  for (let i = from; i < to; i++) top = Math.max(top, re[i] * re[i] + im[i] * im[i]);
  return Math.sqrt(top);
}

/** Greatest amplitude of a low band over the whole of it. */
export function lowPeak(band: LowBand): number {
  return peak(band, 0, band.re.length);
}

/**
 * Marks the frames of [from, to) in which both stand within 30 dB of their own greatest there: 1 inside, 0 outside, the first place for `from`.
 */
export function lockWindow(kick: LowBand, bass: LowBand, from: number, to: number): Uint8Array {
  const leastKick = (peak(kick, from, to) * WITHIN) ** 2;
  const leastBass = (peak(bass, from, to) * WITHIN) ** 2;
  const inside = new Uint8Array(to - from);
  for (let i = from; i < to; i++) {
    if (kick.re[i] * kick.re[i] + kick.im[i] * kick.im[i] >= leastKick && bass.re[i] * bass.re[i] + bass.im[i] * bass.im[i] >= leastBass) inside[i - from] = 1;
  }
  return inside;
}

/**
 * Measures the lock of bass to kick over the frames [from, to) of two low bands of one rate. The window is where both stand
 * within 30 dB of their own greatest in it. `periodS` is the period of the bass in seconds.
 */
export function measureLock(kick: LowBand, bass: LowBand, from: number, to: number, periodS: number): Lock | NoLock {
  const kickPeak = peak(kick, from, to);
  const bassPeak = peak(bass, from, to);
  if (kickPeak < SILENCE) return { reason: 'no kick sounds here' };
  if (bassPeak < SILENCE) return { reason: 'no bass sounds here' };
  const inside = lockWindow(kick, bass, from, to);
  let count = 0;
  let energyKick = 0, energyBass = 0, re = 0, im = 0;
  for (let i = from; i < to; i++) {
    if (inside[i - from] === 0) continue;
    count++;
    energyKick += kick.re[i] * kick.re[i] + kick.im[i] * kick.im[i];
    energyBass += bass.re[i] * bass.re[i] + bass.im[i] * bass.im[i];
    re += bass.re[i] * kick.re[i] + bass.im[i] * kick.im[i];
    im += bass.im[i] * kick.re[i] - bass.re[i] * kick.im[i];
  }
  if (count < periodS * kick.rateHz) return { reason: 'kick and bass meet for less than one period' };
  const size = Math.hypot(re, im);
  const coherence = size / Math.sqrt(energyKick * energyBass);
  const common = coherence >= LEAST_COHERENCE;
  const bearing = (Math.atan2(im, re) * 180) / Math.PI;
  return {
    sumGainDb: sumGainDb(energyKick, energyBass, re),
    bestSumGainDb: sumGainDb(energyKick, energyBass, size),
    coherence,
    bearingDeg: common ? bearing : null,
    bestTurnDeg: common ? -bearing : null,
    nudgeMs: common ? 1000 * bestNudge(kick, bass, from, inside, energyKick, periodS) : null,
    reason: common ? null : 'kick and bass have no common phase here: the kick is still falling, or their pitches differ',
    energies: { kick: energyKick, bass: energyBass, re, im },
  };
}

/** Shift of the bass in seconds, in (−P/2, P/2], that gives the greatest sum gain; window fixed, finer than a frame by a parabola. */
function bestNudge(kick: LowBand, bass: LowBand, from: number, inside: Uint8Array, energyKick: number, periodS: number): number {
  const most = Math.floor((periodS * kick.rateHz) / 2);
  const n = bass.re.length;
  const gains = new Float64Array(2 * most + 3);
  for (let shift = -most - 1; shift <= most + 1; shift++) {
    let energy = 0;
    let re = 0;
    for (let i = 0; i < inside.length; i++) {
      if (inside[i] === 0) continue;
      const at = from + i - shift;
      if (at < 0 || at >= n) continue;
      const to = from + i;
      energy += bass.re[at] * bass.re[at] + bass.im[at] * bass.im[at];
      re += bass.re[at] * kick.re[to] + bass.im[at] * kick.im[to];
    }
    gains[shift + most + 1] = re / (energyKick + energy);
  }
  let best = 1;
  for (let i = 1; i < gains.length - 1; i++) if (gains[i] > gains[best]) best = i;
  const curve = gains[best - 1] - 2 * gains[best] + gains[best + 1];
  const finer = curve < 0 ? (0.5 * (gains[best - 1] - gains[best + 1])) / curve : 0;
  const shift = best - most - 1 + Math.max(-1, Math.min(1, finer));
  const half = periodS / 2;
  return Math.max(-half, Math.min(half, shift / kick.rateHz));
}
