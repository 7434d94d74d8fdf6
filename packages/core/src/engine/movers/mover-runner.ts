import type { Mover, MoverKind, MoverOf } from '../../document/index.js';

/** A mover under way. */
export interface MoverRunner<M extends Mover = Mover> {
  /**
   * Writes where it stands, 0 to 1, to `values[at]`: a number given back would be made anew with every step.
   */
  tell(values: Float64Array, at: number): void;
  /** Takes other settings; it goes on from where it stands. */
  set(mover: M, tempoBpm: number): void;
  noteOn(): void;
  /** The last held note ended. */
  noteOff(): void;
  /** Moves on by `frames`. */
  step(frames: number): void;
  /** Goes on from where another of its kind stands. */
  copyFrom(other: MoverRunner<M>): void;
}

/** What a kind of mover brings to the engine. */
export interface MoverEngine<K extends MoverKind> {
  /** Begins one; `seed` is a random number from 0 to 1 for where it stands when nothing else says so. */
  start(mover: MoverOf<K>, sampleRateHz: number, seed: number): MoverRunner<MoverOf<K>>;
  /** Whether velocity has a say in how much of it is passed on. */
  readonly touched: boolean;
  /** Whether it runs on whatever is played, so that one pass of the loop differs from the next. */
  runsFree(mover: MoverOf<K>): boolean;
}
