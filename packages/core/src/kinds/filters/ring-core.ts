import {
  addCopies,
  addMixed,
  BLOCK,
  CycleBank,
  HalfBandDown,
  HalfBandUp,
  LEFT_A,
  LEFT_B,
  MIX,
  MIX_STEP,
  READER_NUMBERS,
  realSpectrum,
  SELECT_HZ,
  SELECT_NUMBERS,
  SELECT_POSITION,
  sineSpectrum,
  START_A,
  START_B,
  TableSelector,
  TURN,
  writeAlone,
  writeMixed,
} from '../../dsp/index.js';
import { FILTER, type FilterCore } from './filter-core.js';

const { resonancePct: RESONANCE, widthOct: WIDTH } = FILTER;

/**
 * How far a carrier is driven at full resonance, and the steps of resonance for which a table of it is made.
 */
const HARDEST = 6;
const RING_STEPS = 16;
const ringBanks = new Map<number, CycleBank>();

/**
 * Carriers from a sine to one that is nearly a square: x/√(1+x²) of a sine, by transform, brought back to a
 * height of 1; band-limited, so that nothing of them folds.
 */
function ringBank(sampleRateHz: number): CycleBank {
  let bank = ringBanks.get(sampleRateHz);
  if (!bank) {
    const frames = Array.from({ length: RING_STEPS + 1 }, (_, step) => {
      const hard = 1 + ((HARDEST - 1) * step) / RING_STEPS;
      if (step === 0) return sineSpectrum((n) => (n === 1 ? 1 : 0), 256);
      const bins = realSpectrum(
        Float64Array.from({ length: 2048 }, (_unused, i) => {
          const x = hard * Math.sin((2 * Math.PI * i) / 2048);
          return (Math.sqrt(1 + hard * hard) / hard) * (x / Math.sqrt(1 + x * x));
        }),
      );
      return sineSpectrum((n) => (-2 * bins[2 * n + 1]) / 2048, 256);
    });
    ringBanks.set(sampleRateHz, (bank = new CycleBank(frames, { limitHz: sampleRateHz / 2, least: 1024 })));
  }
  return bank;
}

/**
 * Multiplies by one sine, or by two that stand apart by the width; resonance hardens each of them, below 0
 * the plain wave comes back. At twice the rate, since a product reaches as high as both of its
 * factors together.
 */
export class RingCore implements FilterCore {
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

  copyFrom(other: FilterCore): void {
    if (!(other instanceof RingCore)) return;
    this.phase.set(other.phase);
    this.up.copyFrom(other.up);
    this.down.copyFrom(other.down);
    this.selector.copyFrom(other.selector);
  }

  process(
    samples: Float64Array,
    from: number,
    to: number,
    cutoff: Float64Array,
    values: Float64Array,
    at: number,
  ): void {
    const { phase, upper, carrier, numbers, wanted, selector } = this;
    const count = 2 * (to - from);
    const apart = Math.pow(2, values[at + WIDTH] / 2);
    const resonance = values[at + RESONANCE] / 100;
    const wet = resonance < 0 ? 1 + resonance : 1;
    wanted[SELECT_HZ] = cutoff[2] * apart * this.sampleRateHz;
    wanted[SELECT_POSITION] = resonance > 0 ? resonance : 0;
    selector.select(wanted, count);
    numbers[START_A] = (cutoff[2] * apart * TURN) / 2;
    numbers[START_B] = ((cutoff[2] / apart) * TURN) / 2;
    numbers[LEFT_A] = numbers[LEFT_B] = 0.5;
    numbers[MIX] = selector.weight[0];
    numbers[MIX_STEP] = (selector.weight[1] - selector.weight[0]) / count;
    if (values[at + WIDTH] > 0) {
      for (let i = 0; i < count; i++) carrier[i] = 0;
      if (selector.a === selector.b)
        addCopies(selector.a, carrier, carrier, 0, count, phase, 0, 1, numbers, false);
      else addMixed(selector.a, selector.b, carrier, carrier, 0, count, phase, 0, 1, numbers, false);
    } else if (selector.a === selector.b) writeAlone(selector.a, carrier, 0, count, phase, numbers);
    else writeMixed(selector.a, selector.b, carrier, 0, count, phase, numbers);
    this.up.process(samples, from, to, upper);
    for (let i = 0; i < count; i++) upper[i] *= 1 - wet + wet * carrier[i];
    this.down.process(upper, samples, from, to);
  }
}
