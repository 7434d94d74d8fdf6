import { rebuilds } from '../../schema/rebuild.js';
import { flag, literal, text, type Infer, type ObjectNode, type SchemaNode } from '../../schema/schema.js';
import { ID } from '../../schema/shape-parts.js';

/** A mover under way; `M` is what the document says of it. */
export interface MoverRunner<M> {
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

export type MoverShape = ObjectNode<Record<string, SchemaNode>>;

/** A kind of mover, whole: what the document says of it, and what it does. */
export interface MoverKindSpec<S extends MoverShape, M = Infer<S>> {
  readonly shape: S;
  /** Where it begins when its lists may not be empty. */
  readonly start?: () => object;
  /** What no single field of it can tell: calls back with the field and what is wrong with it. */
  check?(mover: M, problem: (field: string, message: string) => void): void;
  /** Sets one going; `seed` is a random number from 0 to 1 for where it stands when nothing else says so. */
  run(mover: M, sampleRateHz: number, seed: number): MoverRunner<M>;
  /** Whether velocity has a say in how much of it is passed on. */
  readonly touched: boolean;
  /** Whether it runs on whatever is played, so that one pass of the loop differs from the next. */
  runsFree(mover: M): boolean;
}

/** States a kind of mover; what it does knows the fields of its shape. */
export const moverKind = <S extends MoverShape>(spec: MoverKindSpec<S>) => spec;

/** The fields that every mover has. */
export const moverFields = <const K extends string>(kind: K, id: string, name: string) => ({
  kind: literal(kind),
  id: rebuilds('instrument', text(40, id, ID)),
  name: text(40, name),
  on: flag(true),
});
