import type { SoundDocument } from '../document/index.js';
import type { Assets } from '../engine/index.js';
import { isLock, withoutPhase, type NoteLock } from '../figures/index.js';
import { lockWindow, stretchOf, sumGainDb, type Lock, type LowBand } from '../lock/index.js';
import type { LineLows } from './measured-line.js';
import { partsOf, turnedLowsSteps, type TurnedLows } from './turned-lows.js';

/**
 * What the sum gain of one meeting is at any turn θ of the bass. With parts B_n that turn by nθ, C(θ) = Σ
 * c_n·e^{inθ} with c_n = Σ B_n·conj(a_k), and
 * E_b(θ) = Σ G_nm·e^{i(n−m)θ} with G_nm = Σ B_n·conj(B_m), summed over the meeting's window, which stays
 * where it is at no turn.
 */
export interface Rose {
  readonly orders: readonly number[];
  readonly kick: number;
  /** c_n as pairs of real and imaginary part. */
  readonly cross: readonly number[];
  /** G_nm row by row, as pairs. */
  readonly gram: readonly number[];
}

/** The roses of a line: of each meeting of each note, null for those that have no lock. */
export type LineRoses = readonly (readonly (Rose | null)[])[];

const RADIANS = Math.PI / 180;

/**
 * Sum gain in dB at a turn in degrees, beside the present one; `sign` is −1 for a bass whose polarity is
 * turned about.
 */
export function roseGainDb({ orders, kick, cross, gram }: Rose, turnDeg: number, sign = 1): number {
  let re = 0;
  let bass = 0;
  for (let a = 0; a < orders.length; a++) {
    const angle = orders[a] * turnDeg * RADIANS;
    re += cross[2 * a] * Math.cos(angle) - cross[2 * a + 1] * Math.sin(angle);
    // G is Hermitian: what stands below its diagonal is what stands above it, conjugated.
    for (let b = a; b < orders.length; b++) {
      const between = (orders[a] - orders[b]) * turnDeg * RADIANS;
      const place = 2 * (a * orders.length + b);
      bass += (a === b ? 1 : 2) * (gram[place] * Math.cos(between) - gram[place + 1] * Math.sin(between));
    }
  }
  return sumGainDb(kick, Math.max(0, bass), sign * re);
}

/**
 * The rose of a measured lock by a constant rotation: for a bass whose phase runs free, or one that is a
 * recording.
 */
export function constantRose({ energies: { kick, bass, re, im } }: Lock): Rose {
  return { orders: [1], kick, cross: [re, im], gram: [bass, 0] };
}

function roseOf(kick: LowBand, bass: LowBand, parts: readonly LowBand[], orders: readonly number[]): Rose {
  const window = lockWindow(kick, bass);
  const count = orders.length;
  const cross = new Array<number>(2 * count).fill(0);
  const gram = new Array<number>(2 * count * count).fill(0);
  let energy = 0;
  for (let i = 0; i < window.length; i++) {
    if (window[i] === 0) continue;
    const kr = kick.re[i];
    const ki = kick.im[i];
    energy += kr * kr + ki * ki;
    for (let a = 0; a < count; a++) {
      const ar = parts[a].re[i];
      const ai = parts[a].im[i];
      cross[2 * a] += ar * kr + ai * ki;
      cross[2 * a + 1] += ai * kr - ar * ki;
      for (let b = a; b < count; b++) {
        const br = parts[b].re[i];
        const bi = parts[b].im[i];
        gram[2 * (a * count + b)] += ar * br + ai * bi;
        gram[2 * (a * count + b) + 1] += ai * br - ar * bi;
      }
    }
  }
  return { orders, kick: energy, cross, gram };
}

/** The roses of a measured line; by a constant rotation without turned lows. */
export function rosesOf({ locks, kick, bass }: LineLows, lows: TurnedLows | null): LineRoses {
  if (!lows)
    return locks.map(({ meetings }) =>
      meetings.map(({ lock }) => (isLock(lock) ? constantRose(lock) : null)),
    );
  const parts = partsOf(lows, bass);
  return locks.map(({ meetings }) =>
    meetings.map(({ lock, from, to }) =>
      isLock(lock)
        ? roseOf(
            stretchOf(kick, from, to),
            stretchOf(bass, from, to),
            parts.map((part) => stretchOf(part, from, to)),
            lows.orders,
          )
        : null,
    ),
  );
}

/**
 * The roses of a measured line, in steps: by rendering the turn, or by a constant rotation where that cannot
 * be.
 */
export function* roseSteps(
  document: SoundDocument,
  line: LineLows,
  assets?: Assets,
): Generator<void, LineRoses> {
  return rosesOf(line, yield* turnedLowsSteps(document, line.locks, assets));
}

/** A turn in whole degrees and the worst sum gain that it gives. */
export interface Turn {
  readonly turnDeg: number;
  readonly worstSumGainDb: number;
}

/** The one turn that gives the worst of several meetings the most sum gain; null for none. */
export function bestTurnFor(roses: readonly Rose[]): Turn | null {
  if (roses.length === 0) return null;
  let best: Turn = { turnDeg: 0, worstSumGainDb: -Infinity };
  // From no turn outwards, so that the smaller of two equal ones is taken.
  for (let step = 0; step < 360; step++) {
    const turnDeg = step % 2 === 0 ? -step / 2 : (step + 1) / 2;
    let worstSumGainDb = Infinity;
    for (let r = 0; r < roses.length && worstSumGainDb > best.worstSumGainDb; r++)
      worstSumGainDb = Math.min(worstSumGainDb, roseGainDb(roses[r], turnDeg));
    if (worstSumGainDb > best.worstSumGainDb + 1e-9) best = { turnDeg, worstSumGainDb };
  }
  return best;
}

/**
 * A meeting with its rose, where it has one that a turn can better: two without a common phase gain next to
 * nothing by any.
 */
export function turnable(
  locks: readonly NoteLock[],
  roses: LineRoses,
): {
  readonly rose: Rose;
  readonly note: number;
  readonly meeting: number;
  readonly phasePitch: number | null;
}[] {
  return locks.flatMap(({ meetings }, n) =>
    meetings.flatMap(({ lock, phasePitch }, m) => {
      const rose = roses[n]?.[m];
      return rose && !withoutPhase(lock) ? [{ rose, note: n, meeting: m, phasePitch }] : [];
    }),
  );
}

/**
 * The best turn of each pitch by the meetings whose phase begins with it; those that run on from a note
 * before count to that note's pitch.
 */
export function bestTurnsByPitch(locks: readonly NoteLock[], roses: LineRoses): Map<number, Turn> {
  const byPitch = new Map<number, Rose[]>();
  for (const { rose, phasePitch } of turnable(locks, roses))
    if (phasePitch !== null) byPitch.set(phasePitch, [...(byPitch.get(phasePitch) ?? []), rose]);
  return new Map([...byPitch].map(([pitch, own]) => [pitch, bestTurnFor(own)!]));
}

/** The best turn of all meetings of a line; null for none. */
export function bestTurnOfLine(locks: readonly NoteLock[], roses: LineRoses): Turn | null {
  return bestTurnFor(turnable(locks, roses).map(({ rose }) => rose));
}
