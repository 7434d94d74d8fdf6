import type { Tone } from '../../document/index.js';
import { Random } from '../../dsp/index.js';
import { TONE } from './tone.js';

const { detuneCents: DETUNE, driftCents: DRIFT, driftHz: DRIFT_HZ } = TONE;

const GOLDEN = 0.61803398875;
/** Cents as a share of the frequency, for the small distances of a drift. */
const CENT = Math.LN2 / 1200;

/** Place of a copy between −1 and 1 by the law of the detune; a lone copy stands in the middle. */
export function copyPlace(copy: number, copies: number, law: Tone['detuneLaw']): number {
  if (copies === 1) return 0;
  const even = (2 * copy) / (copies - 1) - 1;
  switch (law) {
    case 'even':
      return even;
    case 'inward':
      return Math.sign(even) * even * even;
    case 'outward':
      return Math.sign(even) * Math.sqrt(Math.abs(even));
    case 'scattered':
      return copy === 0 ? -1 : copy === copies - 1 ? 1 : 2 * ((copy * GOLDEN) % 1) - 1;
  }
}

/** Phase of a copy against the tone's own start phase, in cycles. */
export function copyPhase(copy: number, tone: Pick<Tone, 'copyPhase' | 'copyPhasesDeg'>): number {
  if (tone.copyPhase === 'together') return 0;
  if (tone.copyPhase === 'own') return (tone.copyPhasesDeg[copy] ?? 0) / 360;
  return (copy * GOLDEN) % 1;
}

/** The pitches of a tone's copies against each other: detune, and a slow drift of each by itself. */
export class Copies {
  /** Frequency of each copy as a multiple of the tone's. */
  readonly ratio: Float64Array;
  private readonly still: Float64Array;
  private readonly from: Float64Array;
  private readonly to: Float64Array;
  private readonly way: Float64Array;
  private readonly random: Random;
  /** Detune in force. */
  private readonly last = Float64Array.of(-1);

  constructor(
    readonly count: number,
    private law: Tone['detuneLaw'],
    private readonly sampleRateHz: number,
    seed: number,
    stream: number,
  ) {
    this.ratio = new Float64Array(count).fill(1);
    this.still = new Float64Array(count).fill(1);
    this.from = new Float64Array(count);
    this.to = new Float64Array(count);
    this.way = new Float64Array(count);
    this.random = new Random(seed, stream);
    for (let c = 0; c < count; c++) {
      this.to[c] = 2 * this.random.next() - 1;
      this.way[c] = this.random.next();
    }
  }

  setLaw(law: Tone['detuneLaw']): void {
    if (law !== this.law) this.last[0] = -1;
    this.law = law;
  }

  copyFrom(other: Copies): void {
    if (other.count !== this.count) return;
    this.from.set(other.from);
    this.to.set(other.to);
    this.way.set(other.way);
    this.random.copyFrom(other.random);
  }

  /** Moves on by `frames`; `base` is the tone's first place among `values`. */
  step(frames: number, values: Float64Array, base: number): void {
    const { ratio, still, count, last } = this;
    if (count > 1 && last[0] !== values[base + DETUNE]) {
      last[0] = values[base + DETUNE];
      for (let c = 0; c < count; c++)
        ratio[c] = still[c] = Math.pow(2, (copyPlace(c, count, this.law) * last[0]) / 1200);
    }
    const drift = values[base + DRIFT];
    if (drift === 0) return;
    const { from, to, way } = this;
    const go = (values[base + DRIFT_HZ] * frames) / this.sampleRateHz;
    for (let c = 0; c < count; c++) {
      way[c] += go;
      while (way[c] >= 1) {
        way[c] -= 1;
        from[c] = to[c];
        to[c] = 2 * this.random.next() - 1;
      }
      const t = way[c] * way[c] * (3 - 2 * way[c]);
      ratio[c] = still[c] * (1 + CENT * drift * (from[c] + t * (to[c] - from[c])));
    }
  }
}
