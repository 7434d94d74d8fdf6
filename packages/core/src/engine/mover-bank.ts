import type { EnvelopeMover, Mover, Wobble } from '../document/index.js';
import { Random, SegmentEnvelope, shapeAt } from '../dsp/index.js';

const SHAPE_POINTS = 2048;

/** Cycles in a second of a wobble at a tempo. */
export function wobbleHz(wobble: Wobble, tempoBpm: number): number {
  return wobble.rateIn === 'hertz' ? wobble.rateHz : tempoBpm / 60 / wobble.rateBeats;
}

/** A wobble under way: its drawn shape as a table, a phase, and the rounding of its corners. */
class WobbleRunner {
  private readonly shape = new Float64Array(SHAPE_POINTS);
  /** Phase in cycles, smoothed value. */
  private readonly state = new Float64Array(2);
  private hz = 1;
  private start = 0;
  private restarts = true;
  private smoothFrames = 0;
  /** Frames of the last step, and how much of the gap to the shape is left after so many. */
  private readonly smoothing = Float64Array.of(0, 0);

  constructor(wobble: Wobble, private readonly sampleRateHz: number, freePhase: number) {
    this.set(wobble, 120);
    this.state[0] = this.restarts ? this.start : (this.start + freePhase) % 1;
    this.state[1] = this.read();
  }

  set(wobble: Wobble, tempoBpm: number): void {
    for (let i = 0; i < SHAPE_POINTS; i++) this.shape[i] = shapeAt(wobble.nodes, i / SHAPE_POINTS);
    this.hz = wobbleHz(wobble, tempoBpm);
    this.start = (wobble.startDeg / 360) % 1;
    this.restarts = wobble.restart === 'note';
    this.smoothFrames = (wobble.smoothMs / 1000) * this.sampleRateHz;
    this.smoothing[0] = 0;
  }

  copyFrom(other: WobbleRunner): void {
    this.state.set(other.state);
  }

  noteOn(): void {
    if (this.restarts) this.state[0] = this.start;
  }

  private read(): number {
    return this.shape[(this.state[0] * SHAPE_POINTS) | 0];
  }

  get value(): number {
    return this.state[1];
  }

  step(frames: number): void {
    const { state } = this;
    let phase = state[0] + (frames * this.hz) / this.sampleRateHz;
    if (phase >= 1) phase -= Math.floor(phase);
    state[0] = phase;
    const value = this.read();
    if (this.smoothFrames < 1) {
      state[1] = value;
      return;
    }
    const { smoothing } = this;
    if (smoothing[0] !== frames) {
      smoothing[0] = frames;
      smoothing[1] = Math.exp((-3 * frames) / this.smoothFrames);
    }
    state[1] = value + (state[1] - value) * smoothing[1];
  }
}

/** The movers of a document under way, values from 0 to 1 (a switched-off mover stands at 0). */
export class MoverBank {
  readonly value: Float64Array;
  /** How much of what envelopes say is passed on, 0 to 1: the velocity's say in them. */
  readonly touch = Float64Array.of(1);
  private readonly wobbles: (WobbleRunner | null)[];
  private readonly envelopes: (SegmentEnvelope | null)[];
  private readonly on: Uint8Array;
  /** Frames that movers which nobody listens to have fallen behind. */
  private readonly behind = new Int32Array(1);

  constructor(movers: readonly Mover[], tempoBpm: number, sampleRateHz: number, seed: number) {
    this.value = new Float64Array(movers.length);
    this.on = new Uint8Array(movers.length);
    this.wobbles = movers.map((mover, i) => (mover.kind === 'wobble' ? new WobbleRunner(mover, sampleRateHz, new Random(seed, 200 + i).next()) : null));
    this.envelopes = movers.map((mover) => (mover.kind === 'envelope' ? new SegmentEnvelope(mover, sampleRateHz) : null));
    this.set(movers, tempoBpm);
  }

  /** Takes other settings for the same movers. */
  set(movers: readonly Mover[], tempoBpm: number): void {
    movers.forEach((mover, i) => {
      this.on[i] = mover.on ? 1 : 0;
      if (mover.kind === 'wobble') this.wobbles[i]!.set(mover, tempoBpm);
      else this.envelopes[i]!.setTimes(mover satisfies EnvelopeMover);
    });
  }

  copyFrom(other: MoverBank): void {
    this.behind[0] = other.behind[0];
    this.touch.set(other.touch);
    for (let i = 0; i < this.value.length && i < other.value.length; i++) {
      const wobble = other.wobbles[i];
      const envelope = other.envelopes[i];
      if (wobble && this.wobbles[i]) this.wobbles[i]!.copyFrom(wobble);
      if (envelope && this.envelopes[i]) this.envelopes[i]!.copyFrom(envelope);
    }
  }

  /** Time passes without anyone listening: it is made up for when a note begins or ends, or when someone does. */
  wait(frames: number): void {
    this.behind[0] += frames;
  }

  private catchUp(): void {
    const frames = this.behind[0];
    if (frames === 0) return;
    this.behind[0] = 0;
    this.run(frames);
  }

  /** A note begins; a tied one goes on with the movers as they run. */
  noteOn(tie: boolean): void {
    if (tie) return;
    this.catchUp();
    for (let i = 0; i < this.value.length; i++) {
      this.wobbles[i]?.noteOn();
      this.envelopes[i]?.start();
      this.say(i);
    }
  }

  /** The last held note ended. */
  noteOff(): void {
    this.catchUp();
    for (let i = 0; i < this.value.length; i++) this.envelopes[i]?.release();
  }

  step(frames: number): void {
    this.catchUp();
    this.run(frames);
  }

  private run(frames: number): void {
    for (let i = 0; i < this.value.length; i++) {
      const wobble = this.wobbles[i];
      const envelope = this.envelopes[i];
      if (wobble) wobble.step(frames);
      else envelope!.step(frames);
      this.say(i);
    }
  }

  /** Takes down where a mover stands. */
  private say(i: number): void {
    const wobble = this.wobbles[i];
    this.value[i] = this.on[i] === 0 ? 0 : wobble ? wobble.value : this.envelopes[i]!.level * this.touch[0];
  }
}
