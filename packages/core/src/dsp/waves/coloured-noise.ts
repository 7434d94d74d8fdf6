import { Random } from './random.js';

/** Sections of the slope filter, and the frequencies between which it holds, in hertz. */
const SECTIONS = 10;
const LOWEST_HZ = 12;
const HIGHEST_HZ = 24000;
/** White noise even in ±1 has an RMS of 1/√3; every colour is brought to this RMS. */
const RMS = 0.25;
/** Slopes for which the level is tabled, in dB per octave from this one upward in steps of 1. */
const LEAST_SLOPE = -13;
const SLOPES = 21;

/** Ratio of neighbouring poles. */
const RATIO = (HIGHEST_HZ / LOWEST_HZ) ** (1 / (SECTIONS - 1));

/**
 * Corner of a pole or zero at a sample rate: its place on the real axis of the z-plane (matched, so that the
 * slope holds to near half the rate).
 */
const corner = (hz: number, sampleRateHz: number) => Math.exp((-2 * Math.PI * hz) / sampleRateHz);

/** Magnitude of the chain of sections at a frequency, for a slope in dB per octave; 1 at 0 Hz. */
export function slopeMagnitude(slopeDb: number, hz: number, sampleRateHz: number): number {
  const zero = RATIO ** (-slopeDb / 6.0206);
  const w = (2 * Math.PI * hz) / sampleRateHz;
  const from = (place: number) => Math.hypot(1 - place * Math.cos(w), place * Math.sin(w)) / (1 - place);
  let m = 1;
  for (let k = 0; k < SECTIONS; k++) {
    const pole = LOWEST_HZ * RATIO ** k;
    m *= from(corner(pole * zero, sampleRateHz)) / from(corner(pole, sampleRateHz));
  }
  return m;
}

const levels = new Map<number, Float64Array>();

/** Gains that bring noise of each slope to the same RMS, by the sum of its power over the band. */
function levelsFor(sampleRateHz: number): Float64Array {
  let table = levels.get(sampleRateHz);
  if (!table) {
    table = Float64Array.from({ length: SLOPES }, (_, i) => {
      let power = 0;
      // Over equal ratios of frequency, from 1 Hz to half the rate: a brown noise has nearly all of its power
      // low down.
      const bins = 400;
      const span = Math.log(sampleRateHz / 2);
      for (let k = 0; k < bins; k++) {
        const hz = Math.exp((span * (k + 0.5)) / bins);
        power +=
          (slopeMagnitude(LEAST_SLOPE + i, hz, sampleRateHz) ** 2 * hz * (span / bins)) / (sampleRateHz / 2);
      }
      return RMS / Math.sqrt(power / 3);
    });
    levels.set(sampleRateHz, table);
  }
  return table;
}

/**
 * White noise through a chain of first-order sections whose poles stand evenly on a logarithmic scale and
 * whose zeros stand beside them by as
 * much as the slope asks: Smith and Smith, Closed form fractional integration and differentiation via real
 * exponentially spaced pole-zero
 * pairs (2016). 0 dB per octave is white, −3.01 pink, −6.02 brown. Seeded.
 */
export class ColouredNoise {
  private readonly random: Random;
  private readonly start: Random;
  private readonly state = new Float64Array(SECTIONS);
  private readonly poles = new Float64Array(SECTIONS);
  private readonly b0 = new Float64Array(SECTIONS);
  private readonly b1 = new Float64Array(SECTIONS);
  /** Slope in force, and the gain for it. */
  private readonly last = Float64Array.of(NaN, 0);
  private readonly levels: Float64Array;

  constructor(
    seed: number,
    stream: number,
    private readonly sampleRateHz: number,
  ) {
    this.random = new Random(seed, stream);
    this.start = new Random(seed, stream);
    this.levels = levelsFor(sampleRateHz);
  }

  /** Begins the same noise again. */
  restart(): void {
    this.random.copyFrom(this.start);
    this.state.fill(0);
  }

  copyFrom(other: ColouredNoise): void {
    this.random.copyFrom(other.random);
    this.state.set(other.state);
  }

  private tune(slopeDb: number): void {
    const { last, poles, b0, b1 } = this;
    if (last[0] === slopeDb) return;
    last[0] = slopeDb;
    const zero = RATIO ** (-slopeDb / 6.0206);
    for (let k = 0; k < SECTIONS; k++) {
      const pole = LOWEST_HZ * RATIO ** k;
      const p = corner(pole, this.sampleRateHz);
      const z = corner(pole * zero, this.sampleRateHz);
      poles[k] = p;
      b0[k] = (1 - p) / (1 - z);
      b1[k] = -b0[k] * z;
    }
    const at = Math.min(SLOPES - 1.001, Math.max(0, slopeDb - LEAST_SLOPE));
    const i = at | 0;
    last[1] = this.levels[i] * (this.levels[i + 1] / this.levels[i]) ** (at - i);
  }

  /** Writes the samples from `from` up to `to`; `numbers[place]` is the slope in dB per octave. */
  write(out: Float64Array, from: number, to: number, numbers: Float64Array, place: number): void {
    this.tune(numbers[place]);
    const { state, poles, b0, b1 } = this;
    this.random.fillFrom(out, from, to);
    if (this.last[0] !== 0) {
      for (let k = 0; k < SECTIONS; k++) {
        const pole = poles[k];
        const c0 = b0[k];
        const c1 = b1[k];
        let s = state[k];
        for (let i = from; i < to; i++) {
          const x = out[i];
          const y = c0 * x + s;
          s = c1 * x + pole * y;
          out[i] = y;
        }
        state[k] = s;
      }
    }
    const gain = this.last[1];
    for (let i = from; i < to; i++) out[i] *= gain;
  }
}
