import type { Filter } from '../document/index.js';
import {
  bandScale, bellOf, Bell, BUTTERWORTH_4, Comb, combGain, CycleBank, damping, dampingOf, DRIVE_CLIP_DELAY, DriveClip, FLAT, filterFormantHz, HALF_BAND_ROUND_TRIP, HalfBandDown, HalfBandUp, holdOf, Ladder, LADDER_MIX, ladderFeedback, ladderOscillation, ladderTuning, ladderTunings, octavesOf, OnePole, oscillation, prewarp, realSpectrum, SelfOscillation, sineSpectrum, StateVariable, StateVariablePair, VOWEL_AT_HZ, VOWEL_LEVELS, vowelQ, type LadderMode, type SectionMode,
} from '../dsp/index.js';
import { dbToGain } from '../units/index.js';
import { BLOCK } from './chunk.js';
import { F_DRIVE, F_LEVEL, F_RESONANCE, F_VOWEL, F_WIDTH } from './layer-layout.js';
import { addCopies, addMixed, LEFT_A, LEFT_B, MIX, MIX_STEP, READER_NUMBERS, START_A, START_B, TURN, writeAlone, writeMixed } from './tones/table-readers.js';
import { SELECT_HZ, SELECT_NUMBERS, SELECT_POSITION, TableSelector } from './tones/table-selector.js';

/** What a filter does to samples, given the cutoff at the start and the end of the step and its other numbers from `at` on. */
interface Core {
  reset(): void;
  copyFrom(other: Core): void;
  /** Sets it going where it sounds by itself, so that a note need not wait for it. */
  excite?(values: Float64Array, at: number): void;
  process(samples: Float64Array, from: number, to: number, cutoff: Float64Array, values: Float64Array, at: number): void;
}

/** Clipping inside the loop of a band-pass: how much the damping grows with loudness. */
const CLIPPED = 1;

/** Low, high, band and notch of state variables: one or two sections, a one-pole before them, a bell for a widened peak; as `sectionsOf` says, without making anything. */
class StateCore implements Core {
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
  /** Resonance and width for which what follows was computed, the dampings, the share by which loudness damps, whether there is a bell, its damping and amplitude, the scale of a band, the amplitude of what sounds by itself. */
  private readonly made = Float64Array.of(NaN, NaN, 1, 1, 0, 0, 1, 1, 1, 0);

  constructor(mode: SectionMode, private readonly slope: Filter['slope'], private readonly clipped: boolean, private readonly sampleRateHz: number) {
    this.onePole = (mode === 'low' || mode === 'high') && (slope === '6' || slope === '18') ? new OnePole(mode === 'high') : null;
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

  copyFrom(other: Core): void {
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
    const resonance = values[at + F_RESONANCE] / 100;
    const widthOct = values[at + F_WIDTH];
    made[0] = values[at + F_RESONANCE];
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

  process(samples: Float64Array, from: number, to: number, cutoff: Float64Array, values: Float64Array, at: number): void {
    const { numbers, made, onePole, first, second, pair, alone } = this;
    if (made[0] !== values[at + F_RESONANCE] || made[1] !== values[at + F_WIDTH]) this.make(values, at);
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

class LadderCore implements Core {
  private readonly tunings: Float64Array;
  private readonly mix: readonly number[];
  private readonly ladder: Ladder;
  private readonly bell = new Bell();
  private readonly alone = new SelfOscillation();
  private readonly numbers = new Float64Array(4);
  /** Resonance and width for which the bell and the amplitude of what sounds by itself were computed; the bell's damping and amplitude; tuning at the end of the last step, 0 before the first; that amplitude. */
  private readonly made = Float64Array.of(NaN, NaN, 1, 1, 0, 0);

  constructor(mode: LadderMode, slope: Filter['slope'], private readonly sampleRateHz: number) {
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
    this.make(values[at + F_RESONANCE] / 100, values[at + F_WIDTH]);
    this.alone.excite(this.made[5]);
  }

  copyFrom(other: Core): void {
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

  process(samples: Float64Array, from: number, to: number, cutoff: Float64Array, values: Float64Array, at: number): void {
    const { numbers, made, alone } = this;
    const resonance = values[at + F_RESONANCE] / 100;
    const widthOct = values[at + F_WIDTH];
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

class CombCore implements Core {
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

  copyFrom(other: Core): void {
    if (!(other instanceof CombCore)) return;
    this.comb.copyFrom(other.comb);
    this.last.set(other.last);
  }

  process(samples: Float64Array, from: number, to: number, cutoff: Float64Array, values: Float64Array, at: number): void {
    const { numbers, last } = this;
    const frames = (this.negative ? 0.5 : 1) / cutoff[2];
    const delay = frames < 2 ? 2 : frames > 16000 ? 16000 : frames;
    const resonance = values[at + F_RESONANCE] / 100;
    numbers[0] = last[0] === 0 ? delay : last[0];
    numbers[1] = last[0] = delay;
    numbers[2] = combGain(resonance, values[at + F_WIDTH]);
    numbers[3] = resonance < 0 ? 1 : 0;
    this.comb.process(samples, from, to, numbers);
  }
}

/** Three formants in parallel, the middle one turned about. */
class VowelCore implements Core {
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

  copyFrom(other: Core): void {
    if (!(other instanceof VowelCore)) return;
    for (let i = 0; i < 3; i++) this.bands[i].copyFrom(other.bands[i]);
    this.warped.set(other.warped);
  }

  process(samples: Float64Array, from: number, to: number, cutoff: Float64Array, values: Float64Array, at: number): void {
    const { bands, warped, numbers, dry, band } = this;
    const shift = (cutoff[2] * this.sampleRateHz) / VOWEL_AT_HZ;
    const k = dampingOf(octavesOf(1 / vowelQ(values[at + F_RESONANCE] / 100)) + values[at + F_WIDTH]);
    for (let i = from; i < to; i++) {
      dry[i] = samples[i];
      samples[i] = 0;
    }
    for (let f = 0; f < 3; f++) {
      const g = prewarp(filterFormantHz(f, values[at + F_VOWEL]) * shift, this.sampleRateHz);
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

/** How far a carrier is driven at full resonance, and the steps of resonance for which a table of it is made. */
const HARDEST = 6;
const RING_STEPS = 16;
const ringBanks = new Map<number, CycleBank>();

/** Carriers from a sine to one that is nearly a square: x/√(1+x²) of a sine, by transform, brought back to a height of 1; band-limited, so that nothing of them folds. */
function ringBank(sampleRateHz: number): CycleBank {
  let bank = ringBanks.get(sampleRateHz);
  if (!bank) {
    const frames = Array.from({ length: RING_STEPS + 1 }, (_, step) => {
      const hard = 1 + ((HARDEST - 1) * step) / RING_STEPS;
      if (step === 0) return sineSpectrum((n) => (n === 1 ? 1 : 0), 256);
      const bins = realSpectrum(Float64Array.from({ length: 2048 }, (_unused, i) => { const x = hard * Math.sin((2 * Math.PI * i) / 2048); return (Math.sqrt(1 + hard * hard) / hard) * (x / Math.sqrt(1 + x * x)); }));
      return sineSpectrum((n) => (-2 * bins[2 * n + 1]) / 2048, 256);
    });
    ringBanks.set(sampleRateHz, (bank = new CycleBank(frames, { limitHz: sampleRateHz / 2, least: 1024 })));
  }
  return bank;
}

/**
 * Multiplies by one sine, or by two that stand apart by the width; resonance hardens each of them, below 0 the plain wave comes back. At twice the rate, since a product reaches as high as both of its
 * factors together.
 */
class RingCore implements Core {
  private readonly phase = new Int32Array(2);
  private readonly up = new HalfBandUp();
  private readonly down = new HalfBandDown();
  private readonly upper = new Float64Array(2 * BLOCK);
  private readonly carrier = new Float64Array(2 * BLOCK);
  private readonly numbers = new Float64Array(READER_NUMBERS);
  private readonly wanted = new Float64Array(SELECT_NUMBERS);
  private readonly selector: TableSelector;

  constructor(private readonly sampleRateHz: number) {
    this.selector = new TableSelector(ringBank(sampleRateHz), sampleRateHz);
  }

  reset(): void {
    this.phase.fill(0);
    this.up.reset();
    this.down.reset();
    this.selector.reset();
  }

  copyFrom(other: Core): void {
    if (!(other instanceof RingCore)) return;
    this.phase.set(other.phase);
    this.up.copyFrom(other.up);
    this.down.copyFrom(other.down);
    this.selector.copyFrom(other.selector);
  }

  process(samples: Float64Array, from: number, to: number, cutoff: Float64Array, values: Float64Array, at: number): void {
    const { phase, upper, carrier, numbers, wanted, selector } = this;
    const count = 2 * (to - from);
    const apart = Math.pow(2, values[at + F_WIDTH] / 2);
    const resonance = values[at + F_RESONANCE] / 100;
    const wet = resonance < 0 ? 1 + resonance : 1;
    wanted[SELECT_HZ] = cutoff[2] * apart * this.sampleRateHz;
    wanted[SELECT_POSITION] = resonance > 0 ? resonance : 0;
    selector.select(wanted, count);
    numbers[START_A] = (cutoff[2] * apart * TURN) / 2;
    numbers[START_B] = ((cutoff[2] / apart) * TURN) / 2;
    numbers[LEFT_A] = numbers[LEFT_B] = 0.5;
    numbers[MIX] = selector.weight[0];
    numbers[MIX_STEP] = (selector.weight[1] - selector.weight[0]) / count;
    if (values[at + F_WIDTH] > 0) {
      for (let i = 0; i < count; i++) carrier[i] = 0;
      if (selector.a === selector.b) addCopies(selector.a, carrier, carrier, 0, count, phase, 0, 1, numbers, false);
      else addMixed(selector.a, selector.b, carrier, carrier, 0, count, phase, 0, 1, numbers, false);
    } else if (selector.a === selector.b) writeAlone(selector.a, carrier, 0, count, phase, numbers);
    else writeMixed(selector.a, selector.b, carrier, 0, count, phase, numbers);
    this.up.process(samples, from, to, upper);
    for (let i = 0; i < count; i++) upper[i] *= 1 - wet + wet * carrier[i];
    this.down.process(upper, samples, from, to);
  }
}

function coreOf({ mode, form, slope }: Pick<Filter, 'mode' | 'form' | 'slope'>, sampleRateHz: number): Core {
  switch (mode) {
    case 'comb': return new CombCore(false);
    case 'comb negative': return new CombCore(true);
    case 'vowel': return new VowelCore(sampleRateHz);
    case 'ring': return new RingCore(sampleRateHz);
    case 'band clipped': return new StateCore('band', slope, true, sampleRateHz);
    default: return form === 'ladder' ? new LadderCore(mode, slope, sampleRateHz) : new StateCore(mode, slope, false, sampleRateHz);
  }
}

/** A filter of one side of a voice: rounding in front, the filter itself, a level after it. */
export class LayerFilter {
  private readonly clip = new DriveClip(BLOCK);
  private readonly core: Core;
  /** Cutoff at the end of the last step (below 0 before the first), warped; drive and level gains there. */
  private readonly last = Float64Array.of(-1, -1, 1, 1);
  /** Warped cutoff at the start and the end of the step, and the cutoff as a share of the sample rate. */
  private readonly cutoff = new Float64Array(3);
  private readonly dry = new Float64Array(BLOCK);
  /** For the rounding: gain at the start and the end of the step, and the gain after it. */
  private readonly gains = new Float64Array(3);

  constructor(private readonly filter: Pick<Filter, 'mode' | 'form' | 'slope'>, private readonly sampleRateHz: number) {
    this.core = coreOf(filter, sampleRateHz);
  }

  reset(): void {
    this.core.reset();
    this.clip.reset();
    this.last[0] = -1;
  }

  copyFrom(other: LayerFilter): void {
    this.clip.copyFrom(other.clip);
    this.core.copyFrom(other.core);
    this.last.set(other.last);
  }

  /** Frames by which what is oversampled comes late, with the numbers in `values` from `at` on. */
  lateFrames(values: Float64Array, at: number): number {
    return (values[at + F_DRIVE] > 0 ? DRIVE_CLIP_DELAY : 0) + (this.filter.mode === 'ring' ? HALF_BAND_ROUND_TRIP : 0);
  }

  /** Filters the samples from `from` up to `to` in place: cutoff `hz[0]` in hertz, the other numbers in `values` from `at` on. */
  process(samples: Float64Array, from: number, to: number, hz: Float64Array, values: Float64Array, at: number): void {
    const { last, cutoff, gains } = this;
    const first = last[0] < 0;
    if (first) this.core.excite?.(values, at);
    const g = hz[0] === last[0] ? last[1] : prewarp(hz[0], this.sampleRateHz);
    cutoff[0] = first ? g : last[1];
    cutoff[1] = last[1] = g;
    cutoff[2] = hz[0] / this.sampleRateHz;
    last[0] = hz[0];
    const driveDb = values[at + F_DRIVE];
    const drive = driveDb === 0 ? 1 : dbToGain(driveDb);
    gains[0] = first ? drive : last[2];
    gains[1] = last[2] = drive;
    if (driveDb > 0 || gains[0] > 1) this.drive(samples, from, to, driveDb < 1 ? 1 : 0, values, at);
    this.core.process(samples, from, to, cutoff, values, at);
    const level = values[at + F_LEVEL] === 0 ? 1 : dbToGain(values[at + F_LEVEL]);
    let gain = first ? level : last[3];
    last[3] = level;
    if (level === 1 && gain === 1) return;
    const step = (level - gain) / (to - from);
    for (let i = from; i < to; i++) {
      gain += step;
      samples[i] *= gain;
    }
  }

  /** Within the first dB of drive the rounding fades in, so that switching it on makes no step. */
  private drive(samples: Float64Array, from: number, to: number, fades: number, values: Float64Array, at: number): void {
    const { dry, gains } = this;
    const driveDb = values[at + F_DRIVE];
    gains[2] = (fades === 1 ? driveDb : 1) / Math.sqrt(gains[1]);
    if (fades === 1) for (let i = from; i < to; i++) dry[i] = samples[i];
    this.clip.process(samples, from, to, gains);
    if (fades === 1) for (let i = from; i < to; i++) samples[i] += (1 - driveDb) * dry[i];
  }
}
