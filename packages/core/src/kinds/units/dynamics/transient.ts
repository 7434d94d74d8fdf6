import { placesOf } from '../../../schema/places.js';
import { number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';

const shape = object({
  ...unitFields('transient'),
  attackDb: number('Attack', 'dB', -24, 24, 6, 'How much louder (or softer) the start of a hit gets.', {
    ...movable,
    step: 0.1,
  }),
  sustainDb: number('Sustain', 'dB', -24, 24, 0, 'How much louder (or softer) what rings after it gets.', {
    ...movable,
    step: 0.1,
  }),
  speedMs: number('Speed', 'ms', 2, 100, 20, 'How long a start lasts.', { ...log, ...movable }),
});
const NUMBER = placesOf(shape);

type Transient = Infer<typeof shape>;

/** Attack of the fast envelope and the falls of the short and the long one, in seconds. */
const FAST_S = 0.0005;
const SHORT_S = 0.06;
const LONG_S = 0.4;
/** Difference of envelopes that counts as a whole hit, in dB. */
const WHOLE_DB = 12;
/** Levels below this are silence: −100 dB. */
const SILENCE = 1e-5;
const DB_PER_E = 20 / Math.LN10;
const E_PER_DB = Math.LN10 / 20;

/**
 * Attack and sustain by the difference of envelopes: where a fast one stands above a slow one a hit begins, where a
 * long one stands above a short one it rings; each sets its share of the gain. It knows no threshold: only ratios
 * count (common practice).
 */
class TransientRunner implements UnitRunner<Transient> {
  readonly lateFrames = 0;
  private readonly rate: number;
  /** Envelopes: fast and short; and of that, slow and short, fast and long. */
  private readonly state = new Float64Array(3);

  constructor(_unit: Transient, { sampleRateHz }: UnitStart) {
    this.rate = sampleRateHz;
  }

  copyFrom(other: TransientRunner): void {
    this.state.set(other.state);
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { state, rate } = this;
    const two = right !== left;
    const up = (E_PER_DB / WHOLE_DB) * numbers[at + NUMBER.attackDb];
    const on = (E_PER_DB / WHOLE_DB) * numbers[at + NUMBER.sustainDb];
    const fast = 1 - Math.exp(-1 / (FAST_S * rate));
    const slow = 1 - Math.exp(-1000 / (numbers[at + NUMBER.speedMs] * rate));
    const short = 1 - Math.exp(-1 / (SHORT_S * rate));
    const long = 1 - Math.exp(-1 / (LONG_S * rate));
    let e1 = state[0];
    let e2 = state[1];
    let e3 = state[2];
    for (let i = from; i < to; i++) {
      let x = left[i] < 0 ? -left[i] : left[i];
      if (two) {
        const y = right[i] < 0 ? -right[i] : right[i];
        if (y > x) x = y;
      }
      e1 += (x > e1 ? fast : short) * (x - e1);
      e2 += (e1 > e2 ? slow : short) * (e1 - e2);
      e3 += (e1 > e3 ? fast : long) * (e1 - e3);
      const base = e1 + SILENCE;
      let hit = up === 0 ? 0 : DB_PER_E * Math.log(base / (e2 + SILENCE));
      let rings = on === 0 ? 0 : DB_PER_E * Math.log((e3 + SILENCE) / base);
      hit = hit < 0 ? 0 : hit > WHOLE_DB ? WHOLE_DB : hit;
      rings = rings < 0 ? 0 : rings > WHOLE_DB ? WHOLE_DB : rings;
      const gain = Math.exp(up * hit + on * rings);
      left[i] *= gain;
      if (two) right[i] *= gain;
    }
    state[0] = e1 < 1e-18 ? 0 : e1;
    state[1] = e2 < 1e-18 ? 0 : e2;
    state[2] = e3 < 1e-18 ? 0 : e3;
  }
}

/** Sharpens or softens hits. */
export const transient = unitKind({
  shape,
  family: 'dynamics',
  label: 'Transient',
  purpose: 'Sharpens or softens the start of each hit, and what rings after it.',
  run: (unit, start) => new TransientRunner(unit, start),
  chance: { stage: 'press', weight: 1, within: { attackDb: [-6, 10], sustainDb: [-6, 6] } },
});
