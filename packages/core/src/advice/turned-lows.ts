import type { SoundDocument } from '../document/index.js';
import { renderLoop, type Assets } from '../engine/index.js';
import { soundingHz } from '../figures/index.js';
import { lowBand, type LowBand } from '../lock/index.js';
import { middle } from '../measure/index.js';

/** Rate of the renders in which the bass is turned: only what lies below Lock's frequency is looked at. Its low bands have the rate that those of 48 kHz have. */
const RATE = 12000;
const MOST_ORDERS = 10;
/** Harmonics count up to this share of Lock's frequency: its low-pass is 6 dB down there, and steep. */
const EDGE = 1.05;

/**
 * The low band of a bass as a function of its turn θ, in parts that turn by n·θ each: b(t, θ) = Σ B_n(t)·e^{inθ}. Turning the start phase moves harmonic n
 * of the lowest tone n times as far, and below Lock's frequency there are few of them, so that as many renders as there are orders, at
 * evenly spaced turns, give every B_n by a discrete Fourier transform over θ, and with them the bass at every other turn. Past a clip this holds as
 * well: what it makes of the lows has the same period. What these renders at a low rate lack of the measured line is added to the first order, so that at no turn the
 * two are the same.
 */
export interface TurnedLows { readonly orders: readonly number[]; readonly parts: readonly LowBand[]; readonly kick: LowBand }

/** The sound with its bass turned by some degrees beside what it is. */
export function turned(document: SoundDocument, byDeg: number): SoundDocument {
  return { ...document, lock: { ...document.lock, turnDeg: document.lock.turnDeg + byDeg } };
}

/**
 * The orders that are told apart: from −1, for a note that sets in or ends spreads over 0 Hz, and so a little of it turns the other way, over 0, for what stays where it is, to
 * the last harmonic below Lock's frequency for the lowest note of the line.
 */
export function ordersOf(document: SoundDocument): number[] {
  const lowest = Math.min(...document.line.notes.map(({ pitch }) => soundingHz(document, pitch)));
  const highest = Number.isFinite(lowest) ? Math.min(MOST_ORDERS, Math.max(2, Math.floor((EDGE * document.lock.belowHz) / lowest))) : 2;
  return Array.from({ length: highest + 2 }, (_, i) => i - 1);
}

/** Renders the bass of a measured line at evenly spaced turns and takes it apart, in steps that yield the share done. */
export function* turnedLowsSteps(document: SoundDocument, line: { readonly kick: LowBand; readonly bass: LowBand }, assets?: Assets): Generator<number, TurnedLows> {
  const orders = ordersOf(document);
  const count = orders.length;
  const lows: LowBand[] = [];
  for (let j = 0; j < count; j++) {
    const render = renderLoop(turned(document, (360 * j) / count), { sampleRateHz: RATE, assets, stems: false, brief: true });
    lows.push(lowBand(middle([render.bass.left, render.bass.right]), RATE, document.lock.belowHz, true));
    yield (j + 1) / count;
  }
  const length = Math.min(line.bass.re.length, lows[0].re.length);
  const parts = orders.map((n) => {
    const part = { re: new Float64Array(length), im: new Float64Array(length), rateHz: line.bass.rateHz };
    for (let j = 0; j < count; j++) {
      const angle = (-2 * Math.PI * n * j) / count;
      const c = Math.cos(angle) / count;
      const s = Math.sin(angle) / count;
      const { re, im } = lows[j];
      for (let i = 0; i < length; i++) {
        part.re[i] += c * re[i] - s * im[i];
        part.im[i] += s * re[i] + c * im[i];
      }
    }
    return part;
  });
  const first = parts[orders.indexOf(1)];
  for (let i = 0; i < length; i++) {
    first.re[i] += line.bass.re[i] - lows[0].re[i];
    first.im[i] += line.bass.im[i] - lows[0].im[i];
  }
  return { orders, parts, kick: line.kick };
}
