import { besselI0 } from '../transforms/windows.js';

/** Samples before and after an edge that its correction reaches. */
const REACH = 8;
/** Places of the correction between two samples. */
const FINE = 64;
/** Delay that the correction needs, in samples. */
export const STEP_DELAY = 10;
const RING = 64;

/**
 * What a band-limited step and a band-limited corner have more than the naive ones, at −REACH … REACH samples
 * from the edge. The step is the running
 * sum of a Kaiser-windowed sinc that is flat to 0.21 and 80 dB down from 0.79 of the rate (20 and 76 kHz at
 * 96 kHz: what folds back
 * stays above 20 kHz); the corner is the running sum of the step's rest.
 */
const { STEP, CORNER } = (() => {
  const sub = 8;
  const count = 2 * REACH * FINE * sub;
  const beta = 9;
  const edge = besselI0(beta);
  const pulse = Float64Array.from({ length: count }, (_, i) => {
    const t = (i + 0.5) / (FINE * sub) - REACH;
    const sinc = t === 0 ? 1 : Math.sin(Math.PI * t) / (Math.PI * t);
    return (sinc * besselI0(beta * Math.sqrt(1 - (t / REACH) ** 2))) / edge;
  });
  const total = pulse.reduce((a, b) => a + b, 0);
  const step = new Float64Array(2 * REACH * FINE + 2);
  const corner = new Float64Array(2 * REACH * FINE + 2);
  let sum = 0;
  let area = 0;
  for (let i = 0; i < count; i++) {
    const naive = i < count / 2 ? 0 : 1;
    if (i % sub === 0) {
      step[i / sub] = sum / total - naive;
      corner[i / sub] = area;
    }
    area += ((sum + 0.5 * pulse[i]) / total - naive) / (FINE * sub);
    sum += pulse[i];
  }
  return { STEP: step, CORNER: corner };
})();

/** Where a correction finds what it needs; places in a `Float64Array`. */
export const EDGE_AGE = 0;
export const EDGE_HEIGHT = 1;
export const EDGE_SLOPE = 2;

/**
 * Band-limited steps: Stilson and Smith, Alias-free digital synthesis of classic analog waveforms (1996);
 * Brandt, Hard sync without aliasing (2001); corners
 * as in Esqueda, Välimäki and Bilbao (2016). A signal that has edges passes through with a delay, and each
 * edge is corrected round its true
 * place between two samples.
 */
export class StepCorrector {
  private readonly ring = new Float64Array(RING);
  private readonly at = new Int32Array(1);

  reset(): void {
    this.ring.fill(0);
  }

  copyFrom(other: StepCorrector): void {
    this.ring.set(other.ring);
    this.at.set(other.at);
  }

  /**
   * Corrects an edge of the sample that is pushed next, `edge[EDGE_AGE]` (0 to 2) samples after the edge: the
   * signal rose there by
   * `edge[EDGE_HEIGHT]`, its slope by `edge[EDGE_SLOPE]` a sample.
   */
  correct(edge: Float64Array): void {
    const { ring } = this;
    const age = edge[EDGE_AGE];
    const height = edge[EDGE_HEIGHT];
    const slope = edge[EDGE_SLOPE];
    const now = this.at[0] + STEP_DELAY;
    for (let k = -REACH - 2; k < REACH; k++) {
      const place = (k + age + REACH) * FINE;
      if (place < 0 || place >= 2 * REACH * FINE) continue;
      const i = place | 0;
      const part = place - i;
      ring[(now + k) & (RING - 1)] +=
        height * tableAt(STEP, i, part) + slope * (CORNER[i] + part * (CORNER[i + 1] - CORNER[i]));
    }
  }

  /** Passes the next samples through, in place, from `from` up to `to`. */
  push(samples: Float64Array, from: number, to: number): void {
    const { ring } = this;
    let at = this.at[0];
    for (let i = from; i < to; i++) {
      ring[(at + STEP_DELAY) & (RING - 1)] += samples[i];
      samples[i] = ring[at & (RING - 1)];
      ring[at & (RING - 1)] = 0;
      at++;
    }
    this.at[0] = at & (RING - 1);
  }
}

/** A value of the step's rest; it jumps by one at its middle, over which nothing is interpolated. */
function tableAt(table: Float64Array, i: number, part: number): number {
  const next = i + 1 === REACH * FINE ? table[i + 1] + 1 : table[i + 1];
  return table[i] + part * (next - table[i]);
}
