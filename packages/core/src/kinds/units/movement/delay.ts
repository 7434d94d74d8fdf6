import { prewarp } from '../../../dsp/index.js';
import { placesOf } from '../../../schema/places.js';
import { rebuilds } from '../../../schema/rebuild.js';
import { choice, flag, number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { dbToGain } from '../../../units/index.js';
import { unitFields, unitKind, wetFrom, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';

const shape = object({
  ...unitFields('delay'),
  ...wetFrom(30),
  timing: choice(['beats', 'ms'], 'beats'),
  beats: number('Time', 'beats', 1 / 64, 8, 0.75, 'Time between echoes, in beats.', { ...log, ...movable }),
  ms: number('Time', 'ms', 1, 2000, 250, 'Time between echoes.', { ...log, ...movable }),
  feedbackPct: number('Feedback', '%', 0, 98, 35, 'How much of each echo comes again.', {
    ...movable,
    step: 0.5,
  }),
  pingPong: rebuilds('instrument', flag(true)),
  lowCutHz: number('Low cut', 'Hz', 20, 4000, 180, 'Each echo loses what lies below.', {
    ...log,
    ...movable,
  }),
  highCutHz: number('High cut', 'Hz', 200, 20000, 6000, 'Each echo loses what lies above.', {
    ...log,
    ...movable,
  }),
  driveDb: number('Drive', 'dB', 0, 24, 0, 'Pushes each echo into a soft clip.', { ...movable, step: 0.1 }),
});
const NUMBER = placesOf(shape);

type Delay = Infer<typeof shape>;

/** Longest time between echoes, and least, in seconds; how fast a changed one is come to. */
const LONGEST_S = 4;
const LEAST_S = 0.001;
const GLIDE_S = 0.06;

/**
 * Echoes, whole frames apart while the time stands still: what comes out goes through a low cut, a high cut and a soft
 * clip and in again, on its own side or, ping-pong, on the other: then left is first. A feedback under 1
 * bounds it.
 */
class DelayRunner implements UnitRunner<Delay> {
  readonly lateFrames = 0;
  private readonly rings: readonly [Float64Array, Float64Array];
  /** One-poles: low cut left and right, high cut left and right. */
  private readonly poles = new Float64Array(4);
  private readonly place = new Int32Array(1);
  /** Delay in frames, at the end of the last step. */
  private readonly delay = Float64Array.of(NaN);
  /** Shares of the two cuts, feedback, drive, and how far the clip has come in. */
  private readonly form = new Float64Array(5);
  private readonly one = new Float64Array(2);
  private readonly rate: number;

  constructor(
    private unit: Delay,
    private readonly start: UnitStart,
  ) {
    this.rate = start.sampleRateHz;
    const size = 2 ** Math.ceil(Math.log2(LONGEST_S * this.rate + 4));
    this.rings = [new Float64Array(size), new Float64Array(size)];
  }

  set(unit: Delay): void {
    this.unit = unit;
  }

  copyFrom(other: DelayRunner): void {
    this.rings.forEach((ring, s) => {
      ring.set(other.rings[s]);
    });
    this.poles.set(other.poles);
    this.place.set(other.place);
    this.delay.set(other.delay);
  }

  /** The delay wanted, in frames. */
  private wanted(numbers: Float64Array, at: number): number {
    const seconds =
      this.unit.timing === 'beats'
        ? (numbers[at + NUMBER.beats] * 60) / this.start.hears.tempo[0]
        : numbers[at + NUMBER.ms] / 1000;
    return Math.round((seconds < LEAST_S ? LEAST_S : seconds > LONGEST_S ? LONGEST_S : seconds) * this.rate);
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { delay, rate, form } = this;
    const wanted = this.wanted(numbers, at);
    const first = delay[0] === delay[0] ? delay[0] : wanted;
    let last = first + (1 - Math.exp(-(to - from) / (GLIDE_S * rate))) * (wanted - first);
    if (last - wanted < 0.5 && wanted - last < 0.5) last = wanted;
    delay[0] = last;
    const lowHz = numbers[at + NUMBER.lowCutHz];
    const highHz = numbers[at + NUMBER.highCutHz];
    const low = lowHz > 20 ? prewarp(lowHz, rate) : 0;
    const high = highHz < 20000 ? prewarp(highHz, rate) : 0;
    const driveDb = numbers[at + NUMBER.driveDb];
    form[0] = low / (1 + low);
    form[1] = high / (1 + high);
    form[2] = numbers[at + NUMBER.feedbackPct] / 100;
    form[3] = dbToGain(driveDb);
    // The clip comes in within the first dB.
    form[4] = driveDb < 1 ? driveDb : 1;
    if (first === last) this.run(left, right, from, to, first, 0);
    else this.run(left, right, from, to, first, (last - first) / (to - from));
  }

  private run(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    first: number,
    step: number,
  ): void {
    const { rings, form, place, poles, one } = this;
    const mask = rings[0].length - 1;
    const two = right !== left;
    const sides = two ? 2 : 1;
    const swaps = two && this.unit.pingPong;
    const lowCut = form[0];
    const highCut = form[1];
    const feedback = form[2];
    const drive = form[3];
    const clipped = form[4];
    let frames = first;
    let at = place[0];
    for (let i = from; i < to; i++) {
      frames += step;
      const whole = frames | 0;
      const part = frames - whole;
      const read = at - whole;
      one[0] = rings[0][read & mask] + part * (rings[0][(read - 1) & mask] - rings[0][read & mask]);
      one[1] = two
        ? rings[1][read & mask] + part * (rings[1][(read - 1) & mask] - rings[1][read & mask])
        : one[0];
      const l = one[0];
      const r = one[1];
      for (let s = 0; s < sides; s++) {
        let y = one[s];
        if (lowCut > 0) {
          const v = lowCut * (y - poles[s]);
          const low = v + poles[s];
          poles[s] = low + v;
          y -= low;
        }
        if (highCut > 0) {
          const v = highCut * (y - poles[2 + s]);
          y = v + poles[2 + s];
          poles[2 + s] = y + v;
        }
        if (clipped > 0) {
          const v = drive * y;
          y += clipped * (v / Math.sqrt((1 + v * v) * drive) - y);
        }
        one[s] = y;
      }
      if (swaps) {
        rings[0][at & mask] = 0.5 * (left[i] + right[i]) + feedback * one[1];
        rings[1][at & mask] = one[0] * feedback;
      } else {
        rings[0][at & mask] = left[i] + feedback * one[0];
        if (two) rings[1][at & mask] = right[i] + feedback * one[1];
      }
      left[i] = l;
      if (two) right[i] = r;
      at = (at + 1) | 0;
    }
    place[0] = at & mask;
    for (let p = 0; p < 4; p++) if (poles[p] < 1e-18 && poles[p] > -1e-18) poles[p] = 0;
  }
}

/** Echoes. */
export const delay = unitKind({
  shape,
  family: 'movement',
  label: 'Delay',
  purpose: 'Echoes in time with the beat, from side to side, darker and rougher each time.',
  run: (unit, start) => new DelayRunner(unit, start),
  chance: { stage: 'move', weight: 1, within: { beats: [0.125, 1], feedbackPct: [10, 50], wetPct: [8, 25] } },
  widens: ({ pingPong }) => pingPong,
  waitsS: ({ timing, beats, ms }, tempoBpm) =>
    Math.min(LONGEST_S, timing === 'beats' ? (beats * 60) / tempoBpm : ms / 1000),
  idle: ({ timing }) => (timing === 'beats' ? ['ms'] : ['beats']),
});
