import type { Filter } from './filter-shape.js';
import {
  bellOf,
  Bell,
  Ladder,
  LADDER_MIX,
  ladderFeedback,
  ladderOscillation,
  ladderTuning,
  ladderTunings,
  SelfOscillation,
  type LadderMode,
} from '../../dsp/index.js';
import { FILTER, type FilterCore } from './filter-core.js';

const { resonancePct: RESONANCE, widthOct: WIDTH } = FILTER;

/** Four one-poles in a loop, mixed to each mode and slope; a bell for a widened peak. */
export class LadderCore implements FilterCore {
  private readonly tunings: Float64Array;
  private readonly mix: readonly number[];
  private readonly ladder: Ladder;
  private readonly bell = new Bell();
  private readonly alone = new SelfOscillation();
  private readonly numbers = new Float64Array(4);
  /**
   * Resonance and width for which the bell and the amplitude of what sounds by itself were computed; the
   * bell's damping and amplitude; tuning at the end of the last step, 0 before the first; that amplitude.
   */
  private readonly made = Float64Array.of(NaN, NaN, 1, 1, 0, 0);

  constructor(
    mode: LadderMode,
    slope: Filter['slope'],
    private readonly sampleRateHz: number,
  ) {
    this.tunings = ladderTunings(mode, slope);
    this.mix = LADDER_MIX[mode][slope];
    this.ladder = new Ladder(mode, slope);
  }

  reset(): void {
    this.ladder.reset();
    this.bell.reset();
    this.alone.reset();
    this.made[4] = 0;
  }

  excite(values: Float64Array, at: number): void {
    this.make(values[at + RESONANCE] / 100, values[at + WIDTH]);
    this.alone.excite(this.made[5]);
  }

  copyFrom(other: FilterCore): void {
    if (!(other instanceof LadderCore)) return;
    this.ladder.copyFrom(other.ladder);
    this.bell.copyFrom(other.bell);
    this.alone.copyFrom(other.alone);
  }

  private make(resonance: number, widthOct: number): void {
    const { made } = this;
    const shape = bellOf(resonance, widthOct);
    made[0] = resonance;
    made[1] = widthOct;
    made[2] = shape.k;
    made[3] = shape.amplitude;
    made[5] = widthOct === 0 ? ladderOscillation(this.mix, resonance) : 0;
  }

  process(
    samples: Float64Array,
    from: number,
    to: number,
    cutoff: Float64Array,
    values: Float64Array,
    at: number,
  ): void {
    const { numbers, made, alone } = this;
    const resonance = values[at + RESONANCE] / 100;
    const widthOct = values[at + WIDTH];
    if (made[0] !== resonance || made[1] !== widthOct) this.make(resonance, widthOct);
    const wide = widthOct > 0 && resonance !== 0;
    const feedback = wide ? 0 : ladderFeedback(resonance);
    const tuning = ladderTuning(this.tunings, feedback);
    numbers[0] = cutoff[0] * (made[4] === 0 ? tuning : made[4]);
    numbers[1] = cutoff[1] * tuning;
    made[4] = tuning;
    numbers[2] = feedback;
    this.ladder.process(samples, from, to, numbers);
    numbers[0] = cutoff[0];
    numbers[1] = cutoff[1];
    if (wide) {
      numbers[2] = made[2];
      numbers[3] = made[3];
      this.bell.process(samples, from, to, numbers);
    }
    if (!alone.sounds(made[5])) return;
    numbers[2] = made[5];
    numbers[3] = this.sampleRateHz;
    alone.add(samples, from, to, numbers);
  }
}
