import type { LowBand } from './low-band.js';

/**
 * Why kick and bass have no common phase in a stretch, with what was found of their pitches there:
 * *still falling*, the kick's own pitch moves; *gliding*, the bass's does; *different pitches*, both stand
 * still, apart; *no pitch*, one of them has none.
 */
export interface NoPhase {
  readonly cause: 'still falling' | 'gliding' | 'different pitches' | 'no pitch';
  readonly kickHz: number;
  readonly bassHz: number;
  /** From the bass up to the kick. */
  readonly cents: number;
  readonly beatsHz: number;
}

/** Pitches further apart than this are different ones (from the design), in cents. */
const DIFFERENT_CENTS = 50;
/** A pitch that moves by less than this from one half to the next stands still, in cents. */
const STILL_CENTS = 50;
/** What spreads by more than this, in octaves, between its quartiles is no pitch but noise. */
const NOISE_OCT = 0.5;
/** The kick's own pitch is looked for behind this share of the stretch: before it is the drop. */
const TAIL_FROM = 0.4;
/** Pitches are taken every so many frames: they change slowly beside the low band's rate. */
const EVERY = 4;

interface Pitch {
  readonly hz: number;
  readonly movesCents: number;
  readonly noisy: boolean;
}

/** Frequencies with their weights. */
interface Weighed {
  readonly hz: number[];
  readonly weight: number[];
}

/** Places among frequencies by weight, each from 0 to 1: 0.5 is the median; NaN of none. */
function quantiles({ hz, weight }: Weighed, shares: readonly number[]): number[] {
  const order = Array.from(hz.keys()).sort((a, b) => hz[a] - hz[b]);
  const all = weight.reduce((sum, each) => sum + each, 0);
  return shares.map((share) => {
    let sum = 0;
    for (const i of order) {
      sum += weight[i];
      if (sum >= share * all) return hz[i];
    }
    return NaN;
  });
}

const partOf = ({ hz, weight }: Weighed, from: number, to?: number): Weighed => ({
  hz: hz.slice(from, to),
  weight: weight.slice(from, to),
});

/**
 * The pitch of a low band over frames [from, to) of a stretch, near `guessHz`: its analytic signal is turned
 * back by that frequency and meaned over one period of it, which leaves
 * no harmonics; what still turns is what it lies off by, weighed by its level.
 */
function pitchNear({ re, im, rateHz }: LowBand, from: number, to: number, guessHz: number): Pitch | null {
  const size = Math.max(2, Math.round(rateHz / guessHz));
  const found: Weighed = { hz: [], weight: [] };
  let sumRe = 0;
  let sumIm = 0;
  let lastRe = 0;
  let lastIm = 0;
  const turnedBack = (i: number) => {
    const angle = (-2 * Math.PI * guessHz * i) / rateHz;
    const c = Math.cos(angle);
    const s = Math.sin(angle);
    return [re[i] * c - im[i] * s, re[i] * s + im[i] * c] as const;
  };
  for (let i = from; i < to; i++) {
    const [x, y] = turnedBack(i);
    sumRe += x;
    sumIm += y;
    if (i - from >= size) {
      const [ox, oy] = turnedBack(i - size);
      sumRe -= ox;
      sumIm -= oy;
      if ((i - from) % EVERY === 0) {
        found.hz.push(
          guessHz +
            (Math.atan2(sumIm * lastRe - sumRe * lastIm, sumRe * lastRe + sumIm * lastIm) * rateHz) /
              (2 * Math.PI),
        );
        found.weight.push(Math.hypot(sumRe, sumIm));
      }
    }
    lastRe = sumRe;
    lastIm = sumIm;
  }
  if (found.hz.length < size / EVERY) return null;
  const half = Math.floor(found.hz.length / 2);
  const [[first], [second]] = [
    quantiles(partOf(found, 0, half), [0.5]),
    quantiles(partOf(found, half), [0.5]),
  ];
  const [low, hz, high] = quantiles(found, [0.25, 0.5, 0.75]);
  if (!(first > 0 && second > 0 && hz > 0)) return null;
  return {
    hz,
    movesCents: Math.abs(1200 * Math.log2(second / first)),
    noisy: Math.log2(Math.max(1, high) / Math.max(1, low)) > NOISE_OCT,
  };
}

/**
 * Weighted median of the raw phase derivative, in hertz: where a pitch that is not known is to be looked for.
 */
function roughHz({ re, im, rateHz }: LowBand, from: number, to: number): number {
  const found: Weighed = { hz: [], weight: [] };
  for (let i = from + 1; i < to; i += EVERY) {
    found.hz.push(
      (Math.atan2(im[i] * re[i - 1] - re[i] * im[i - 1], re[i] * re[i - 1] + im[i] * im[i - 1]) * rateHz) /
        (2 * Math.PI),
    );
    found.weight.push(Math.hypot(re[i], im[i]));
  }
  return quantiles(found, [0.5])[0];
}

/**
 * The stretch of frames that are inside in which the kick has most energy; gaps up to `gap` frames let pass:
 * what filters spread ahead of the next hit stands behind a longer one.
 */
function loudestRun({ re, im }: LowBand, inside: Uint8Array, gap: number): readonly [number, number] {
  let best: readonly [number, number] = [0, 0];
  let most = -1;
  for (let from = inside.indexOf(1); from >= 0;) {
    let last = from;
    let energy = 0;
    for (let i = from; i < inside.length && i - last <= gap; i++) {
      if (inside[i] === 0) continue;
      last = i;
      energy += re[i] * re[i] + im[i] * im[i];
    }
    if (energy > most) {
      most = energy;
      best = [from, last + 1];
    }
    from = inside.indexOf(1, last + 1);
  }
  return best;
}

/**
 * Says why kick and bass have no common phase over a stretch: low bands that hold it and nothing else, the
 * frames in which both sound, and the period in seconds at which the bass is written.
 */
export function whyNoPhase(kick: LowBand, bass: LowBand, inside: Uint8Array, periodS: number): NoPhase {
  const [from, to] = loudestRun(kick, inside, Math.ceil(periodS * kick.rateHz));
  const tail = Math.round(from + TAIL_FROM * (to - from));
  const rough = roughHz(kick, tail, to);
  const near = rough > 15 ? pitchNear(kick, tail, to, rough) : null;
  const k = near && pitchNear(kick, tail, to, near.hz);
  const b = pitchNear(bass, from, to, 1 / periodS);
  const kickHz = k?.hz ?? (rough > 0 ? rough : NaN);
  const bassHz = b?.hz ?? 1 / periodS;
  const cents = 1200 * Math.log2(kickHz / bassHz);
  const of = (cause: NoPhase['cause']): NoPhase => ({
    cause,
    kickHz,
    bassHz,
    cents,
    beatsHz: Math.abs(kickHz - bassHz),
  });
  // A pitch that moves goes one way from part to part; what noise has for one goes both.
  const parts = [0, 1, 2, 3].map((p) =>
    roughHz(kick, Math.round(from + (p * (to - from)) / 4), Math.round(from + ((p + 1) * (to - from)) / 4)),
  );
  const oneWay = [1, -1].some((way) => parts.every((hz, p) => p === 0 || way * (hz - parts[p - 1]) > 0));
  if (!k || k.noisy || !Number.isFinite(cents)) return of(oneWay ? 'still falling' : 'no pitch');
  if (k.movesCents > STILL_CENTS) return of(oneWay ? 'still falling' : 'no pitch');
  if (b && b.movesCents > STILL_CENTS) return of('gliding');
  if (b?.noisy) return of('no pitch');
  return of(Math.abs(cents) > DIFFERENT_CENTS ? 'different pitches' : 'still falling');
}
