import type { SoundDocument } from '../document/index.js';
import { renderLoop, type Assets } from '../engine/index.js';
import { soundingHz } from '../figures/index.js';
import { lowBand, type LowBand } from '../lock/index.js';
import { middle } from '../measure/index.js';

/** Rate of the renders in which the bass is turned: only what lies below Lock's frequency is looked at. */
const RATE = 24000;
const MOST_ORDERS = 10;

/**
 * The low band of a bass as a function of its turn θ, in parts that turn by n·θ each: b(t, θ) = Σ B_n(t)·e^{inθ}. Turning the start phase moves harmonic n
 * of the lowest tone n times as far, and below Lock's frequency there are few of them, so that as many renders as there are orders, at
 * evenly spaced turns, give every B_n by a discrete Fourier transform over θ, and with them the bass at every other turn. Past a clip this holds as
 * well: what it makes of the lows has the same period.
 */
export interface TurnedLows { readonly orders: readonly number[]; readonly parts: readonly LowBand[]; readonly kick: LowBand }

/** The sound with its bass turned by some degrees beside what it is. */
export function turned(document: SoundDocument, byDeg: number): SoundDocument {
  return { ...document, lock: { ...document.lock, turnDeg: document.lock.turnDeg + byDeg } };
}

/** How many orders lie below Lock's frequency, for the lowest note of the line. */
export function ordersOf(document: SoundDocument): number {
  const lowest = Math.min(...document.line.notes.map(({ pitch }) => soundingHz(document, pitch)));
  return Number.isFinite(lowest) ? Math.min(MOST_ORDERS, Math.max(2, Math.floor((1.17 * document.lock.belowHz) / lowest) + 1)) : 2;
}

/** Renders the bass at evenly spaced turns and takes it apart, in steps that yield the share done. */
export function* turnedLowsSteps(document: SoundDocument, assets?: Assets): Generator<number, TurnedLows> {
  const count = ordersOf(document);
  const lows: LowBand[] = [];
  let kick: LowBand | null = null;
  for (let j = 0; j < count; j++) {
    const render = renderLoop(turned(document, (360 * j) / count), { sampleRateHz: RATE, assets, stems: false });
    lows.push(lowBand(middle([render.bass.left, render.bass.right]), RATE, document.lock.belowHz, true));
    kick ??= lowBand(middle([render.kick.left, render.kick.right]), RATE, document.lock.belowHz, true);
    yield (j + 1) / count;
  }
  const orders = Array.from({ length: count }, (_, n) => n);
  const parts = orders.map((n) => {
    const { length } = lows[0].re;
    const part = { re: new Float64Array(length), im: new Float64Array(length), rateHz: lows[0].rateHz };
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
  return { orders, parts, kick: kick! };
}
