import type { SoundDocument } from '../document/index.js';
import { renderLoop, lowsRunFree, type Assets, type LayerCache } from '../engine/index.js';
import { isLock, soundingHz, type NoteLock } from '../figures/index.js';
import { lowBand, type LowBand } from '../lock/index.js';
import { middle } from '../measure/index.js';

/**
 * Rate of renders of which only what lies below Lock's frequency is looked at. Their low bands have the rate
 * that those of 48 kHz have.
 */
export const LOW_RATE_HZ = 12000;
const MOST_ORDERS = 10;
/** Harmonics count up to this share of Lock's frequency: its low-pass is 6 dB down there, and steep. */
const EDGE = 1.05;

/**
 * The low band of a bass as a function of its turn θ, in parts that turn by n·θ each: b(t, θ) = Σ
 * B_n(t)·e^{inθ}. Turning the start phase moves harmonic n
 * of the lowest tone n times as far, and below Lock's frequency there are few of them, so that as many
 * renders as there are orders, at
 * evenly spaced turns, give every B_n by a discrete Fourier transform over θ, and with them the bass at every
 * other turn. Past a clip this holds as
 * well: what it makes of the lows has the same period.
 */
export interface TurnedLows {
  readonly orders: readonly number[];
  readonly parts: readonly LowBand[];
  /** The bass at no turn: the sum of the parts. */ readonly unturned: LowBand;
}

/** The sound with its bass turned by some degrees beside what it is. */
export function turned(document: SoundDocument, byDeg: number): SoundDocument {
  return { ...document, lock: { ...document.lock, turnDeg: document.lock.turnDeg + byDeg } };
}

/**
 * The orders that are told apart: from −1, for a note that sets in or ends spreads over 0 Hz, and so a little
 * of it turns the other way, over 0, for what stays where it is, to
 * the last harmonic below Lock's frequency for the lowest note of the line.
 */
export function ordersOf(document: SoundDocument): number[] {
  const lowest = Math.min(...document.line.notes.map(({ pitch }) => soundingHz(document, pitch)));
  const highest = Number.isFinite(lowest)
    ? Math.min(MOST_ORDERS, Math.max(2, Math.floor((EDGE * document.lock.belowHz) / lowest)))
    : 2;
  return Array.from({ length: highest + 2 }, (_, i) => i - 1);
}

/**
 * Renders the bass of a sound at evenly spaced turns and takes it apart; it yields between renders, so that a
 * host can stop. Null where no turn can be rendered: its phase runs free, or no
 * meeting of it has a lock. `unturned` is its low band at no turn where that is known, from a render at
 * `LOW_RATE_HZ`.
 * `caches` keep the layers of each turn for another bass of which some are the same.
 */
export function* turnedLowsSteps(
  document: SoundDocument,
  locks: readonly NoteLock[],
  assets?: Assets,
  unturned?: LowBand,
  caches: LayerCache[] = [],
): Generator<void, TurnedLows | null> {
  if (lowsRunFree(document) || locks.every(({ meetings }) => meetings.every(({ lock }) => !isLock(lock))))
    return null;
  const orders = ordersOf(document);
  const count = orders.length;
  const lows: LowBand[] = unturned ? [unturned] : [];
  while (lows.length < count) {
    const cache = (caches[lows.length] ??= new Map());
    const {
      bass: { left, right },
    } = renderLoop(turned(document, (360 * lows.length) / count), {
      sampleRateHz: LOW_RATE_HZ,
      assets,
      stems: 'none',
      brief: true,
      cache,
    });
    lows.push(lowBand(middle([left, right]), LOW_RATE_HZ, document.lock.belowHz, true));
    yield;
  }
  const {
    rateHz,
    re: { length },
  } = lows[0];
  const parts = orders.map((n) => {
    const part = { re: new Float64Array(length), im: new Float64Array(length), rateHz, loop: true };
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
  return { orders, parts, unturned: lows[0] };
}

/**
 * Parts that at no turn are a bass as it was measured: what renders at a low rate lack of it is added to the
 * first order.
 */
export function partsOf({ orders, parts, unturned }: TurnedLows, measured: LowBand): LowBand[] {
  if (measured === unturned) return [...parts];
  const length = Math.min(measured.re.length, unturned.re.length);
  const lacking = (wanted: Float64Array, have: Float64Array, part: Float64Array) =>
    Float64Array.from({ length }, (_, i) => part[i] + wanted[i] - have[i]);
  return parts.map((part, p) =>
    orders[p] === 1
      ? {
          ...part,
          re: lacking(measured.re, unturned.re, part.re),
          im: lacking(measured.im, unturned.im, part.im),
        }
      : { ...part, re: part.re.subarray(0, length), im: part.im.subarray(0, length) },
  );
}
