import { powerToDb } from '../units/index.js';
import { stretchOf, type LowBand } from './low-band.js';
import { whyNoPhase, type NoPhase } from './no-phase.js';

/** What kick and bass add up to below a frequency. */
export interface LockSums {
  readonly kind: 'lock';
  readonly sumGainDb: number;
  readonly bestSumGainDb: number;
  readonly coherence: number;
  /** Energies and correlation in the window, from which the rose is drawn. */
  readonly energies: {
    readonly kick: number;
    readonly bass: number;
    readonly re: number;
    readonly im: number;
  };
}

/**
 * How bass and kick stand to each other below a frequency. Phase figures are null where there is no common
 * phase.
 */
export interface Lock extends LockSums {
  /** Degrees in (−180, 180], positive when the bass leads. */
  readonly bearingDeg: number | null;
  /** Degrees to add to the phase of the bass. */
  readonly bestTurnDeg: number | null;
  /** Milliseconds by which to move the bass, positive for later. */
  readonly nudgeMs: number | null;
  /** Why bearing, turn and nudge are null. */
  readonly noPhase: NoPhase | null;
}

/**
 * Why there is no lock: no kick or no bass sounds there, the two overlap for less than a cycle of the bass,
 * no kick lands on the note; or ducking keeps them apart on purpose, or they are one wave: two that
 * cannot cancel.
 */
export type NoLockReason = 'no kick' | 'no bass' | 'too short' | 'not met' | 'kept apart' | 'one wave';

/** Why nothing can be said of a stretch. */
export interface NoLock {
  readonly kind: 'none';
  readonly reason: NoLockReason;
}

export const noLock = (reason: NoLockReason): NoLock => ({ kind: 'none', reason });

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

/** Greatest amplitude of a low band. */
export function lowPeak({ re, im }: LowBand): number {
  let top = 0;
  for (let i = 0; i < re.length; i++) top = Math.max(top, re[i] * re[i] + im[i] * im[i]);
  return Math.sqrt(top);
}

/**
 * Marks the frames of a stretch in which both stand within 30 dB of their own greatest in it: 1 inside, 0
 * outside.
 */
export function lockWindow(kick: LowBand, bass: LowBand): Uint8Array {
  const leastKick = (lowPeak(kick) * WITHIN) ** 2;
  const leastBass = (lowPeak(bass) * WITHIN) ** 2;
  const inside = new Uint8Array(kick.re.length);
  for (let i = 0; i < inside.length; i++) {
    if (
      kick.re[i] * kick.re[i] + kick.im[i] * kick.im[i] >= leastKick &&
      bass.re[i] * bass.re[i] + bass.im[i] * bass.im[i] >= leastBass
    )
      inside[i] = 1;
  }
  return inside;
}

/** Sums over the window of a stretch: frames in it, energies, and correlation. */
function sumsOf(kick: LowBand, bass: LowBand, inside: Uint8Array) {
  let count = 0;
  let energyKick = 0,
    energyBass = 0,
    re = 0,
    im = 0;
  for (let i = 0; i < inside.length; i++) {
    if (inside[i] === 0) continue;
    count++;
    energyKick += kick.re[i] * kick.re[i] + kick.im[i] * kick.im[i];
    energyBass += bass.re[i] * bass.re[i] + bass.im[i] * bass.im[i];
    re += bass.re[i] * kick.re[i] + bass.im[i] * kick.im[i];
    im += bass.im[i] * kick.re[i] - bass.re[i] * kick.im[i];
  }
  return { count, energies: { kick: energyKick, bass: energyBass, re, im } };
}

/** Whether two have a common phase, by their coherence. */
export const hasPhase = ({ coherence }: LockSums) => coherence >= LEAST_COHERENCE;

/**
 * Measures what kick and bass add up to over a stretch that low bands of one rate hold and nothing else: one
 * meeting. The window is where both stand within 30 dB of their own greatest in it. `periodS` is the period
 * of the bass in seconds.
 */
export function measureSums(
  kick: LowBand,
  bass: LowBand,
  periodS: number,
  inside = lockWindow(kick, bass),
): LockSums | NoLock {
  if (lowPeak(kick) < SILENCE) return noLock('no kick');
  if (lowPeak(bass) < SILENCE) return noLock('no bass');
  const { count, energies } = sumsOf(kick, bass, inside);
  if (count < periodS * kick.rateHz) return noLock('too short');
  const size = Math.hypot(energies.re, energies.im);
  return {
    kind: 'lock',
    sumGainDb: sumGainDb(energies.kick, energies.bass, energies.re),
    bestSumGainDb: sumGainDb(energies.kick, energies.bass, size),
    coherence: size / Math.sqrt(energies.kick * energies.bass),
    energies,
  };
}

/**
 * Measures the lock of bass to kick over the frames [from, to) of two low bands: `measureSums`, and what is
 * to be known of their phase.
 */
export function measureLock(
  kick: LowBand,
  bass: LowBand,
  from: number,
  to: number,
  periodS: number,
): Lock | NoLock {
  const k = stretchOf(kick, from, to);
  const b = stretchOf(bass, from, to);
  const inside = lockWindow(k, b);
  const sums = measureSums(k, b, periodS, inside);
  if (sums.kind === 'none') return sums;
  if (!hasPhase(sums))
    return {
      ...sums,
      bearingDeg: null,
      bestTurnDeg: null,
      nudgeMs: null,
      noPhase: whyNoPhase(k, b, inside, periodS),
    };
  const bearing = (Math.atan2(sums.energies.im, sums.energies.re) * 180) / Math.PI;
  return {
    ...sums,
    bearingDeg: bearing,
    bestTurnDeg: -bearing,
    nudgeMs: 1000 * bestNudge(k, bass, from, inside, sums.energies.kick, periodS),
    noPhase: null,
  };
}

/**
 * Shift of the bass in seconds, in (−P/2, P/2], that gives the greatest sum gain; window fixed, finer than a
 * frame by a parabola.
 */
function bestNudge(
  kick: LowBand,
  whole: LowBand,
  from: number,
  inside: Uint8Array,
  energyKick: number,
  periodS: number,
): number {
  const most = Math.floor((periodS * kick.rateHz) / 2);
  const margin = most + 1;
  const bass = stretchOf(whole, from - margin, from + inside.length + margin);
  const gains = new Float64Array(2 * margin + 1);
  for (let shift = -margin; shift <= margin; shift++) {
    let energy = 0;
    let re = 0;
    for (let i = 0; i < inside.length; i++) {
      if (inside[i] === 0) continue;
      const at = i - shift + margin;
      energy += bass.re[at] * bass.re[at] + bass.im[at] * bass.im[at];
      re += bass.re[at] * kick.re[i] + bass.im[at] * kick.im[i];
    }
    gains[shift + margin] = re / (energyKick + energy);
  }
  let best = 1;
  for (let i = 1; i < gains.length - 1; i++) if (gains[i] > gains[best]) best = i;
  const curve = gains[best - 1] - 2 * gains[best] + gains[best + 1];
  const finer = curve < 0 ? (0.5 * (gains[best - 1] - gains[best + 1])) / curve : 0;
  const shift = best - margin + Math.max(-1, Math.min(1, finer));
  const half = periodS / 2;
  return Math.max(-half, Math.min(half, shift / kick.rateHz));
}
