import type { SoundDocument } from '../document/index.js';
import { noteStretches, type NoteLock } from '../figures/index.js';
import { lockWindow, sumGainDb, type Lock } from '../lock/index.js';
import type { MeasuredLine } from './line-lock.js';
import { partsOf, type TurnedLows } from './turned-lows.js';

/**
 * What the sum gain of one note is at any turn θ of the bass. With parts B_n that turn by nθ, C(θ) = Σ c_n·e^{inθ} with c_n = Σ B_n·conj(a_k), and
 * E_b(θ) = Σ G_nm·e^{i(n−m)θ} with G_nm = Σ B_n·conj(B_m), summed over the note's window, which stays where it is at no turn.
 */
export interface NoteRose {
  readonly orders: readonly number[];
  readonly kick: number;
  /** c_n as pairs of real and imaginary part. */
  readonly cross: readonly number[];
  /** G_nm row by row, as pairs. */
  readonly gram: readonly number[];
}

const RADIANS = Math.PI / 180;

/** Sum gain in dB at a turn in degrees, beside the present one. */
export function roseGainDb({ orders, kick, cross, gram }: NoteRose, turnDeg: number): number {
  let re = 0;
  let bass = 0;
  for (let a = 0; a < orders.length; a++) {
    const angle = orders[a] * turnDeg * RADIANS;
    re += cross[2 * a] * Math.cos(angle) - cross[2 * a + 1] * Math.sin(angle);
    for (let b = 0; b < orders.length; b++) {
      const between = (orders[a] - orders[b]) * turnDeg * RADIANS;
      const place = 2 * (a * orders.length + b);
      bass += gram[place] * Math.cos(between) - gram[place + 1] * Math.sin(between);
    }
  }
  return sumGainDb(kick, Math.max(0, bass), re);
}

/** The rose of a measured lock by a constant rotation: for a bass whose phase runs free, or one that is a recording. */
export function constantRose({ energies: { kick, bass, re, im } }: Lock): NoteRose {
  return { orders: [1], kick, cross: [re, im], gram: [bass, 0] };
}

/** The roses of a measured line, one a note, null for those that have no lock; by a constant rotation without turned lows. */
export function rosesOf(document: SoundDocument, { locks, kick, bass }: MeasuredLine, lows: TurnedLows | null): (NoteRose | null)[] {
  if (!lows) return locks.map(({ lock }) => ('sumGainDb' in lock ? constantRose(lock) : null));
  const { orders } = lows;
  const parts = partsOf(lows, bass);
  return noteStretches(document, parts[0].re.length, kick.rateHz).map(({ from, to }, n) => {
    if (!('sumGainDb' in locks[n].lock)) return null;
    const window = lockWindow(kick, bass, from, to);
    const count = orders.length;
    const cross = new Array<number>(2 * count).fill(0);
    const gram = new Array<number>(2 * count * count).fill(0);
    let energy = 0;
    for (let i = from; i < to; i++) {
      if (window[i - from] === 0) continue;
      const kr = kick.re[i];
      const ki = kick.im[i];
      energy += kr * kr + ki * ki;
      for (let a = 0; a < count; a++) {
        const ar = parts[a].re[i];
        const ai = parts[a].im[i];
        cross[2 * a] += ar * kr + ai * ki;
        cross[2 * a + 1] += ai * kr - ar * ki;
        for (let b = 0; b < count; b++) {
          const br = parts[b].re[i];
          const bi = parts[b].im[i];
          gram[2 * (a * count + b)] += ar * br + ai * bi;
          gram[2 * (a * count + b) + 1] += ai * br - ar * bi;
        }
      }
    }
    return { orders, kick: energy, cross, gram };
  });
}

/** A turn in whole degrees and the worst sum gain that it gives. */
export interface Turn { readonly turnDeg: number; readonly worstSumGainDb: number }

/** The one turn that gives the worst of several notes the most sum gain; null for none. */
export function bestTurnFor(roses: readonly NoteRose[]): Turn | null {
  if (roses.length === 0) return null;
  let best: Turn = { turnDeg: 0, worstSumGainDb: -Infinity };
  // From no turn outwards, so that the smaller of two equal ones is taken.
  for (let step = 0; step < 360; step++) {
    const turnDeg = step % 2 === 0 ? -step / 2 : (step + 1) / 2;
    const worstSumGainDb = Math.min(...roses.map((rose) => roseGainDb(rose, turnDeg)));
    if (worstSumGainDb > best.worstSumGainDb + 1e-9) best = { turnDeg, worstSumGainDb };
  }
  return best;
}

/** The best turn of each pitch of a line by its own notes that begin a phase of their own: tied ones keep running, and are left out. */
export function bestTurnsByPitch(locks: readonly NoteLock[], roses: readonly (NoteRose | null)[]): Map<number, Turn> {
  const byPitch = new Map<number, NoteRose[]>();
  locks.forEach(({ note }, n) => {
    const rose = roses[n];
    if (!rose || note.tie) return;
    byPitch.set(note.pitch, [...(byPitch.get(note.pitch) ?? []), rose]);
  });
  return new Map([...byPitch].map(([pitch, own]) => [pitch, bestTurnFor(own)!]));
}

