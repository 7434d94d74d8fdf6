import { Comb, combGain } from '../../dsp/index.js';
import { FILTER, type FilterCore } from './filter-core.js';

const { resonancePct: RESONANCE, widthOct: WIDTH } = FILTER;

/** A delay fed back, tuned to the cutoff; negative feedback leaves the odd harmonics. */
export class CombCore implements FilterCore {
  private readonly comb: Comb;
  private readonly numbers = new Float64Array(4);
  /** Delay at the end of the last step; 0 before the first. */
  private readonly last = new Float64Array(1);

  constructor(private readonly negative: boolean) {
    this.comb = new Comb(negative);
  }

  reset(): void {
    this.comb.reset();
    this.last[0] = 0;
  }

  copyFrom(other: FilterCore): void {
    if (!(other instanceof CombCore)) return;
    this.comb.copyFrom(other.comb);
    this.last.set(other.last);
  }

  process(
    samples: Float64Array,
    from: number,
    to: number,
    cutoff: Float64Array,
    values: Float64Array,
    at: number,
  ): void {
    const { numbers, last } = this;
    const frames = (this.negative ? 0.5 : 1) / cutoff[2];
    const delay = frames < 2 ? 2 : frames > 16000 ? 16000 : frames;
    const resonance = values[at + RESONANCE] / 100;
    numbers[0] = last[0] === 0 ? delay : last[0];
    numbers[1] = last[0] = delay;
    numbers[2] = combGain(resonance, values[at + WIDTH]);
    numbers[3] = resonance < 0 ? 1 : 0;
    this.comb.process(samples, from, to, numbers);
  }
}
