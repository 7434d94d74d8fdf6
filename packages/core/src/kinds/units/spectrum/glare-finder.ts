import { hann, realSpectrum } from '../../../dsp/index.js';

/** Bands in an octave; the octaves looked at lie from half an octave below where glare is sought to as much above. */
const PER_OCTAVE = 6;
export const GLARE_FROM_HZ = 1000;
export const GLARE_TO_HZ = 8000;
const MARGIN = 8;
const SOUGHT = Math.round(PER_OCTAVE * Math.log2(GLARE_TO_HZ / GLARE_FROM_HZ)) + 1;
/** The bands in which glare is sought, in hertz. */
export const GLARE_BANDS_HZ = Array.from({ length: SOUGHT }, (_, b) => GLARE_FROM_HZ * 2 ** (b / PER_OCTAVE));
/** Neighbours that a band is held against, on each side: from half an octave to an octave and a third away. */
const NEAREST = 3;
const FARTHEST = 8;
/** What a saw loses with each octave, in dB of power in bands of equal ratio: it is no glare. */
const NATURAL_DB = 3;
/** What sticks out by no more than this is let be. */
const FREE_DB = 2;
/** Seconds of sound in a frame, and frames in the time between two looks. */
const FRAME_S = 0.02;
const OVERLAP = 2;
const SILENCE = 1e-14;

/**
 * Finds what sticks out between 1 and 8 kHz: the power around each of 19 bands, a sixth of an octave apart, in a
 * Hann-windowed frame of some 20 ms, against the louder of its two sides, each the mean in dB from half an octave to
 * an octave and a third away, after a saw's own slope has been taken off. So neither a slope nor an edge is glare, but
 * a peak is. (A method of our own; what it finds and what it lets be is measured in the tests.)
 */
export class GlareFinder {
  /** How far each band sticks out, in dB; 0 where it does not. */
  readonly excess = new Float64Array(SOUGHT);
  private readonly size: number;
  private readonly hop: number;
  private readonly window: Float64Array;
  private readonly ring: Float64Array;
  private readonly frame: Float64Array;
  private readonly bins: Float64Array<ArrayBuffer>;
  private readonly levels = new Float64Array(SOUGHT + 2 * MARGIN);
  /** For each band its first bin, and the weights of the bins from there on. */
  private readonly firsts: readonly number[];
  private readonly weights: readonly Float64Array[];
  private readonly at = new Int32Array(2);

  constructor(sampleRateHz: number) {
    this.size = 2 ** Math.round(Math.log2(FRAME_S * sampleRateHz));
    this.hop = this.size / OVERLAP;
    this.window = hann(this.size);
    this.ring = new Float64Array(this.size);
    this.frame = new Float64Array(this.size);
    this.bins = new Float64Array(2 * this.size);
    const binHz = sampleRateHz / this.size;
    const bands = Array.from({ length: SOUGHT + 2 * MARGIN }, (_, b) => {
      const hz = GLARE_FROM_HZ * 2 ** ((b - MARGIN) / PER_OCTAVE);
      // What lies above half the rate is taken to be its last bin.
      const from = Math.min(this.size / 2 - 1, Math.max(1, Math.ceil((hz * 2 ** (-1 / PER_OCTAVE)) / binHz)));
      const to = Math.min(this.size / 2 - 1, Math.floor((hz * 2 ** (1 / PER_OCTAVE)) / binHz));
      const weights = Float64Array.from({ length: Math.max(1, to - from + 1) }, (_w, k) => {
        const octaves = Math.log2(((from + k) * binHz) / hz) * PER_OCTAVE;
        return Math.max(0, 1 + Math.cos(Math.PI * Math.max(-1, Math.min(1, octaves))));
      });
      const sum = weights.reduce((all, w) => all + w, 0);
      return { from, weights: weights.map((w) => w / (sum > 0 ? sum : 1)) };
    });
    this.firsts = bands.map(({ from }) => from);
    this.weights = bands.map(({ weights }) => weights);
  }

  copyFrom(other: GlareFinder): void {
    this.excess.set(other.excess);
    this.ring.set(other.ring);
    this.at.set(other.at);
  }

  /** Its next look comes a hop from here. */
  restart(): void {
    this.at[1] = 0;
  }

  /** Takes the mean of both sides in; looks anew whenever half a frame has come. Says whether it did. */
  take(left: Float64Array, right: Float64Array, from: number, to: number): boolean {
    const { ring, at, size } = this;
    const mask = size - 1;
    const start = at[0] - from;
    for (let i = from; i < to; i++) ring[(start + i) & mask] = 0.5 * (left[i] + right[i]);
    at[0] = (at[0] + to - from) & mask;
    at[1] += to - from;
    if (at[1] < this.hop) return false;
    at[1] -= this.hop;
    this.look();
    return true;
  }

  private look(): void {
    const { ring, frame, window, bins, levels, firsts, weights, excess, size } = this;
    const mask = size - 1;
    const start = this.at[0];
    for (let i = 0; i < size; i++) frame[i] = window[i] * ring[(start + i) & mask];
    realSpectrum(frame, bins);
    for (let b = 0; b < levels.length; b++) {
      const share = weights[b];
      let power = SILENCE;
      for (let k = 0, bin = 2 * firsts[b]; k < share.length; k++, bin += 2)
        power += share[k] * (bins[bin] * bins[bin] + bins[bin + 1] * bins[bin + 1]);
      // Power in a hertz falls by twice 3 dB an octave where that in a band of equal ratio falls by once.
      levels[b] = (10 / Math.LN10) * Math.log(power) + (2 * NATURAL_DB * b) / PER_OCTAVE;
    }
    for (let s = 0; s < excess.length; s++) {
      const b = s + MARGIN;
      let below = 0;
      let above = 0;
      for (let d = NEAREST; d <= FARTHEST; d++) {
        below += levels[b - d];
        above += levels[b + d];
      }
      const beside = (below > above ? below : above) / (FARTHEST - NEAREST + 1);
      const over = levels[b] - beside - FREE_DB;
      excess[s] = over > 0 ? over : 0;
    }
  }
}
