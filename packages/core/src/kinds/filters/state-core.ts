import type { Filter } from './filter-shape.js';
import {
  bandScale,
  bellOf,
  Bell,
  BUTTERWORTH_4,
  damping,
  dampingOf,
  FLAT,
  holdOf,
  octavesOf,
  OnePole,
  oscillation,
  SelfOscillation,
  StateVariable,
  StateVariablePair,
  type SectionMode,
} from '../../dsp/index.js';
import { FILTER, type FilterCore } from './filter-core.js';

const { resonancePct: RESONANCE, widthOct: WIDTH } = FILTER;

/** Clipping inside the loop of a band-pass: how much the damping grows with loudness. */
const CLIPPED = 1;

/**
 * Low, high, band and notch of state variables: one or two sections, a one-pole before them, a bell for a
 * widened peak; as `sectionsOf` says, without making anything.
 */
export class StateCore implements FilterCore {
  private readonly corner: boolean;
  /** Whether the first section of a band or notch has no peak. */
  private readonly dulls: boolean;
  private readonly onePole: OnePole | null;
  private readonly first: StateVariable;
  private readonly second: StateVariable | null;
  private readonly pair: StateVariablePair | null;
  private readonly bell = new Bell();
  /** What it sounds by itself; a notch does not. */
  private readonly alone: SelfOscillation | null;
  private readonly numbers = new Float64Array(6);
  /**
   * Resonance and width for which what follows was computed, the dampings, the share by which loudness damps,
   * whether there is a bell, its damping and amplitude, the scale of a band, the amplitude of what sounds by
   * itself.
   */
  private readonly made = Float64Array.of(NaN, NaN, 1, 1, 0, 0, 1, 1, 1, 0);

  constructor(
    mode: SectionMode,
    private readonly slope: Filter['slope'],
    private readonly clipped: boolean,
    private readonly sampleRateHz: number,
  ) {
    this.onePole =
      (mode === 'low' || mode === 'high') && (slope === '6' || slope === '18')
        ? new OnePole(mode === 'high')
        : null;
    this.first = new StateVariable(mode);
    this.corner = mode === 'low' || mode === 'high';
    this.dulls = slope === '6' || slope === '18';
    const two = slope === '24' || (slope === '18' && !this.onePole);
    this.pair = two && !clipped ? new StateVariablePair(mode) : null;
    this.second = two && clipped ? new StateVariable(mode) : null;
    this.alone = mode === 'notch' ? null : new SelfOscillation();
  }

  reset(): void {
    this.onePole?.reset();
    this.first.reset();
    this.second?.reset();
    this.pair?.reset();
    this.bell.reset();
    this.alone?.reset();
  }

  copyFrom(other: FilterCore): void {
    if (!(other instanceof StateCore)) return;
    if (other.onePole) this.onePole?.copyFrom(other.onePole);
    this.first.copyFrom(other.first);
    if (other.second) this.second?.copyFrom(other.second);
    if (other.pair) this.pair?.copyFrom(other.pair);
    this.bell.copyFrom(other.bell);
    if (other.alone) this.alone?.copyFrom(other.alone);
  }

  excite(values: Float64Array, at: number): void {
    this.make(values, at);
    this.alone?.excite(this.made[9]);
  }

  private make(values: Float64Array, at: number): void {
    const { made } = this;
    const resonance = values[at + RESONANCE] / 100;
    const widthOct = values[at + WIDTH];
    made[0] = values[at + RESONANCE];
    made[1] = widthOct;
    const k = damping(resonance);
    const bell = this.corner && resonance !== 0 && (this.slope === '6' || widthOct > 0);
    if (this.corner) {
      const share = bell ? 1 : k / FLAT;
      made[2] = this.slope === '12' ? FLAT * share : this.slope === '18' ? share : 1 / BUTTERWORTH_4[0];
      made[3] = share / BUTTERWORTH_4[1];
    } else {
      made[3] = widthOct > 0 ? dampingOf(octavesOf(k) + widthOct) : k;
      made[2] = this.dulls && made[3] < 2 ? 2 : made[3];
    }
    const least = this.pair || this.second ? made[3] : made[2];
    const alone = widthOct === 0 && !bell;
    made[4] = this.clipped ? CLIPPED : alone ? holdOf(resonance) : 0;
    made[8] = this.corner ? 1 : bandScale(least, resonance);
    made[9] = alone ? made[8] * oscillation(resonance) : 0;
    made[5] = bell ? 1 : 0;
    if (!bell) return;
    const shape = bellOf(resonance, widthOct);
    made[6] = shape.k;
    made[7] = shape.amplitude;
  }

  process(
    samples: Float64Array,
    from: number,
    to: number,
    cutoff: Float64Array,
    values: Float64Array,
    at: number,
  ): void {
    const { numbers, made, onePole, first, second, pair, alone } = this;
    if (made[0] !== values[at + RESONANCE] || made[1] !== values[at + WIDTH]) this.make(values, at);
    numbers[0] = cutoff[0];
    numbers[1] = cutoff[1];
    if (onePole) onePole.process(samples, from, to, numbers);
    numbers[2] = made[2];
    numbers[3] = made[3];
    numbers[4] = made[4];
    numbers[5] = made[8];
    if (this.slope !== '6' || !onePole) {
      if (pair) {
        if (made[4] > 0) pair.processHeld(samples, from, to, numbers);
        else pair.process(samples, from, to, numbers);
      } else if (this.clipped) first.processClipped(samples, from, to, numbers);
      else if (made[4] > 0) first.processHeld(samples, from, to, numbers);
      else first.process(samples, from, to, numbers);
      if (second) {
        numbers[2] = made[3];
        second.processClipped(samples, from, to, numbers);
      }
    }
    if (made[5] === 1) {
      numbers[2] = made[6];
      numbers[3] = made[7];
      this.bell.process(samples, from, to, numbers);
    }
    if (!alone?.sounds(made[9])) return;
    numbers[2] = made[9];
    numbers[3] = this.sampleRateHz;
    alone.add(samples, from, to, numbers);
  }
}
