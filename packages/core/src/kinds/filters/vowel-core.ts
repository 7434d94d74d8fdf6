import {
  BLOCK,
  dampingOf,
  filterFormantHz,
  octavesOf,
  prewarp,
  StateVariable,
  VOWEL_AT_HZ,
  VOWEL_LEVELS,
  vowelQ,
} from '../../dsp/index.js';
import { FILTER, type FilterCore } from './filter-core.js';

const { resonancePct: RESONANCE, widthOct: WIDTH, vowelPct: VOWEL } = FILTER;

/** Three formants in parallel, the middle one turned about. */
export class VowelCore implements FilterCore {
  private readonly bands = VOWEL_LEVELS.map(() => new StateVariable('band'));
  private readonly warped = new Float64Array(3);
  private readonly numbers = new Float64Array(3);
  private readonly dry = new Float64Array(BLOCK);
  private readonly band = new Float64Array(BLOCK);

  constructor(private readonly sampleRateHz: number) {}

  reset(): void {
    for (let i = 0; i < 3; i++) this.bands[i].reset();
    this.warped.fill(0);
  }

  copyFrom(other: FilterCore): void {
    if (!(other instanceof VowelCore)) return;
    for (let i = 0; i < 3; i++) this.bands[i].copyFrom(other.bands[i]);
    this.warped.set(other.warped);
  }

  process(
    samples: Float64Array,
    from: number,
    to: number,
    cutoff: Float64Array,
    values: Float64Array,
    at: number,
  ): void {
    const { bands, warped, numbers, dry, band } = this;
    const shift = (cutoff[2] * this.sampleRateHz) / VOWEL_AT_HZ;
    const k = dampingOf(octavesOf(1 / vowelQ(values[at + RESONANCE] / 100)) + values[at + WIDTH]);
    for (let i = from; i < to; i++) {
      dry[i] = samples[i];
      samples[i] = 0;
    }
    for (let f = 0; f < 3; f++) {
      const g = prewarp(filterFormantHz(f, values[at + VOWEL]) * shift, this.sampleRateHz);
      numbers[0] = warped[f] === 0 ? g : warped[f];
      numbers[1] = warped[f] = g;
      numbers[2] = k;
      for (let i = from; i < to; i++) band[i] = dry[i];
      bands[f].process(band, from, to, numbers);
      const gain = f === 1 ? -VOWEL_LEVELS[f] : VOWEL_LEVELS[f];
      for (let i = from; i < to; i++) samples[i] += gain * band[i];
    }
  }
}
