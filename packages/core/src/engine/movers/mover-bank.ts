import { Random } from '../../dsp/index.js';
import { moverKindOf, type Mover, type MoverRunner } from '../../kinds/movers/index.js';

/** The movers of a document under way, values from 0 to 1 (a switched-off mover stands at 0). */
export class MoverBank {
  readonly value: Float64Array;
  /** How much of what envelopes say is passed on, 0 to 1: the velocity's say in them. */
  readonly touch = Float64Array.of(1);
  private readonly runners: readonly MoverRunner<Mover>[];
  private readonly kinds: readonly Mover['kind'][];
  private readonly on: Uint8Array;
  private readonly touched: Uint8Array;
  /** Frames that movers which nobody listens to have fallen behind. */
  private readonly behind = new Int32Array(1);

  constructor(movers: readonly Mover[], tempoBpm: number, sampleRateHz: number, seed: number) {
    this.value = new Float64Array(movers.length);
    this.on = new Uint8Array(movers.length);
    this.kinds = movers.map(({ kind }) => kind);
    this.touched = Uint8Array.from(movers, (mover) => (moverKindOf(mover.kind).touched ? 1 : 0));
    this.runners = movers.map((mover, i) =>
      moverKindOf(mover.kind).run(mover, sampleRateHz, new Random(seed, 200 + i).next()),
    );
    this.set(movers, tempoBpm);
  }

  /** Takes other settings for the same movers. */
  set(movers: readonly Mover[], tempoBpm: number): void {
    movers.forEach((mover, i) => {
      this.on[i] = mover.on ? 1 : 0;
      this.runners[i].set(mover, tempoBpm);
    });
  }

  copyFrom(other: MoverBank): void {
    this.behind[0] = other.behind[0];
    this.touch.set(other.touch);
    for (let i = 0; i < this.value.length && i < other.value.length; i++) {
      if (this.kinds[i] === other.kinds[i]) this.runners[i].copyFrom(other.runners[i]);
    }
  }

  /**
   * Time passes without anyone listening: it is made up for when a note begins or ends, or when someone does.
   */
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
      this.runners[i].noteOn();
      this.say(i);
    }
  }

  /** The last held note ended. */
  noteOff(): void {
    this.catchUp();
    for (let i = 0; i < this.value.length; i++) this.runners[i].noteOff();
  }

  step(frames: number): void {
    this.catchUp();
    this.run(frames);
  }

  private run(frames: number): void {
    for (let i = 0; i < this.value.length; i++) {
      this.runners[i].step(frames);
      this.say(i);
    }
  }

  /** Takes down where a mover stands. */
  private say(i: number): void {
    const { value } = this;
    if (this.on[i] === 0) {
      value[i] = 0;
      return;
    }
    this.runners[i].tell(value, i);
    if (this.touched[i] === 1) value[i] *= this.touch[0];
  }
}
