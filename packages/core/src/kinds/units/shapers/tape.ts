import { Bell, BLOCK, ColouredNoise, dampingOf, prewarp, TapeCurve } from '../../../dsp/index.js';
import { number } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { dbToGain } from '../../../units/index.js';
import { UNIT_WET, type UnitStart } from '../kind/unit-kind.js';
import { SHAPER_NUMBERS, shaperKind, type AfterCurve } from './shaper.js';

/** A hiss of this level is off. */
const NO_HISS_DB = -96;
/** RMS of the noise as it is made, and its slope in dB per octave: hiss rises a little. */
const NOISE_RMS = 0.25;
const HISS_SLOPE = Float64Array.of(1.5);
/** 1/Q of the rise: an octave and a half wide. */
const RISE_DAMPING = dampingOf(1.5);

/** The rise of the lows, and the hiss. */
class TapeEnd implements AfterCurve {
  private readonly bells: readonly [Bell, Bell] = [new Bell(), new Bell()];
  private readonly hisses: readonly [ColouredNoise, ColouredNoise];
  private readonly form = Float64Array.of(0, 0, RISE_DAMPING, 1);
  private readonly hiss = new Float64Array(BLOCK);
  private readonly sampleRateHz: number;

  constructor({ sampleRateHz, seed }: UnitStart) {
    this.sampleRateHz = sampleRateHz;
    this.hisses = [new ColouredNoise(seed, 20, sampleRateHz), new ColouredNoise(seed, 21, sampleRateHz)];
  }

  copyFrom(other: TapeEnd): void {
    this.bells.forEach((bell, s) => {
      bell.copyFrom(other.bells[s]);
    });
    this.hisses.forEach((hiss, s) => {
      hiss.copyFrom(other.hisses[s]);
    });
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { form } = this;
    const own = at + SHAPER_NUMBERS;
    const wet = numbers[at + UNIT_WET] / 100;
    const riseDb = wet * numbers[own];
    const hissDb = numbers[own + 2];
    if (riseDb > 0) {
      form[0] = form[1] = prewarp(numbers[own + 1], this.sampleRateHz);
      form[3] = dbToGain(riseDb / 2);
    }
    for (let side = 0; side < (right === left ? 1 : 2); side++) {
      const samples = side === 0 ? left : right;
      if (riseDb > 0) this.bells[side].process(samples, from, to, form);
      if (hissDb <= NO_HISS_DB) continue;
      const gain = (wet * dbToGain(hissDb)) / NOISE_RMS;
      this.hisses[side].write(this.hiss, from, to, HISS_SLOPE, 0);
      for (let i = from; i < to; i++) samples[i] += gain * this.hiss[i];
    }
  }
}

/** A soft knee that ends, a rise of the lows behind it, and hiss where it is wanted. */
export const tape = shaperKind({
  kind: 'tape',
  label: 'Tape',
  chance: { weight: 3, within: { riseDb: [0, 4] } },
  purpose: 'Presses peaks together and lifts the lows a little: thick without being bright.',
  fields: {
    riseDb: number('Low rise', 'dB', 0, 12, 1.5, 'A broad lift of the lows.', { ...movable, step: 0.1 }),
    riseHz: number('Low rise at', 'Hz', 40, 300, 90, 'Where the lows are lifted.', { ...log, ...movable }),
    hissDb: number('Hiss', 'dB', NO_HISS_DB, -30, NO_HISS_DB, 'Noise of the tape; off at the lowest.', {
      ...movable,
      step: 0.5,
    }),
  },
  curve: () => new TapeCurve(),
  after: (start) => new TapeEnd(start),
});
