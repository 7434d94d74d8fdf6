import { Random, StateVariable, STEP } from '../../dsp/index.js';

/** The rate at which the noise is made, whatever the rate at which it is read, in hertz. */
export const NOISE_RATE_HZ = 48000;
/**
 * Samples on each side that the reading weighs, at the lower of the two rates; places between two samples at
 * which its taps are tabled.
 */
const REACH = 32;
const PLACES = 128;
/** What is kept of the lower rate. */
const KEPT = 0.475;

const tables = new Map<number, Float64Array>();

/** The taps for a rate, made once: a kick is built anew while it plays. */
function tapsFor(rate: number): Float64Array {
  const table = tables.get(rate) ?? madeTaps(rate);
  tables.set(rate, table);
  return table;
}

/** A windowed sinc on a fine grid: `taps[d]` is the weight at a distance of d/`PLACES` samples. */
function madeTaps(rate: number): Float64Array {
  const cutoff = 2 * KEPT * Math.min(1, rate / NOISE_RATE_HZ);
  const reach = REACH * Math.max(1, NOISE_RATE_HZ / rate);
  const n = Math.ceil(reach * PLACES);
  return Float64Array.from({ length: n + 2 }, (_, d) => {
    const t = d / PLACES;
    const x = Math.PI * cutoff * t;
    // Blackman–Nuttall: what folds is 90 dB down.
    const w = Math.PI * Math.min(1, t / reach);
    const window =
      0.3635819 + 0.4891775 * Math.cos(w) + 0.1365995 * Math.cos(2 * w) + 0.0106411 * Math.cos(3 * w);
    return cutoff * (t === 0 ? 1 : Math.sin(x) / x) * window;
  });
}

/**
 * Noise through a band that is the same sound at every sample rate: it is made and filtered at 48 kHz, and
 * read from there by a windowed sinc (Smith, Digital audio resampling, 2002). At 48 kHz it is
 * taken as it is. Seeded: every hit has the same.
 */
export class FixedRateNoise {
  private readonly random: Random;
  private readonly begin: Random;
  private readonly band = new StateVariable('band');
  private readonly work = new Float64Array(STEP * 8);
  private readonly ring: Float64Array;
  private readonly taps: Float64Array | null;
  private readonly reach: number;
  /** Samples made, and the place of the next one read. */
  private readonly at = new Float64Array(2);

  constructor(
    seed: number,
    stream: number,
    private readonly sampleRateHz: number,
  ) {
    this.random = new Random(seed, stream);
    this.begin = new Random(seed, stream);
    this.taps = sampleRateHz === NOISE_RATE_HZ ? null : tapsFor(sampleRateHz);
    this.reach = this.taps ? Math.floor((this.taps.length - 2) / PLACES) : 0;
    this.ring = new Float64Array(
      2 ** Math.ceil(Math.log2(2 * this.reach + 2 * STEP * Math.max(1, NOISE_RATE_HZ / sampleRateHz) + 4)),
    );
  }

  copyFrom(other: FixedRateNoise): void {
    this.random.copyFrom(other.random);
    this.band.copyFrom(other.band);
    this.ring.set(other.ring);
    this.at.set(other.at);
  }

  start(): void {
    this.random.copyFrom(this.begin);
    this.band.reset();
    this.ring.fill(0);
    this.at.fill(0);
  }

  /**
   * Writes the next `frames` (at most a step): white noise of ±2 through a band whose warped centre, at 48
   * kHz, runs from `section[0]` to `section[1]`, `section[2]` being its 1/Q.
   */
  fill(out: Float64Array, frames: number, section: Float64Array): void {
    const { taps, ring, at, reach, work } = this;
    if (!taps) {
      this.random.fill(out, frames, 2);
      this.band.process(out, 0, frames, section);
      return;
    }
    const step = NOISE_RATE_HZ / this.sampleRateHz;
    const mask = ring.length - 1;
    const until = Math.floor(at[1] + (frames - 1) * step) + reach + 1;
    const fresh = until - at[0];
    // As much as is made at once fits its block: at the lowest rates a step takes several.
    for (let from = 0; from < fresh; from += work.length) {
      const count = Math.min(work.length, fresh - from);
      this.random.fill(work, count, 2);
      this.band.process(work, 0, count, section);
      for (let i = 0; i < count; i++) ring[(at[0] + from + i) & mask] = work[i];
    }
    at[0] = until;
    for (let i = 0; i < frames; i++) {
      const place = at[1];
      const first = Math.ceil(place) - reach;
      let sum = 0;
      for (let k = first < 0 ? 0 : first; k <= place + reach; k++) {
        const d = (place > k ? place - k : k - place) * PLACES;
        const whole = d | 0;
        sum += ring[k & mask] * (taps[whole] + (d - whole) * (taps[whole + 1] - taps[whole]));
      }
      out[i] = sum;
      at[1] = place + step;
    }
  }
}
