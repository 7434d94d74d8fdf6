import { rebuilds } from '../../schema/rebuild.js';
import { flag, literal, text, type Infer, type ObjectNode, type SchemaNode } from '../../schema/schema.js';
import { ID } from '../../schema/shape-parts.js';

/** Who may start a mover, or be followed by one: what the layer plays, the kick, a backing part. */
export const BY_NOTE = 0;
export const BY_KICK = 1;
/** The first backing part; the others come after it. */
export const BY_PART = 2;

// Places in `MoverInputs.note`: pitch as a MIDI note number; velocity, 1 to 127; 1 for an accent; beats of the
// note's own wobble rate (`NO_RATE` where it has none); its number in the line, counted from 0 without tied
// ones (below 0 for one that is not of the line); what tells it apart from others for chance; 1 where it is
// tied to the one before.
export const PLAYED_PITCH = 0;
export const PLAYED_VELOCITY = 1;
export const PLAYED_ACCENT = 2;
export const PLAYED_RATE = 3;
export const PLAYED_NUMBER = 4;
export const PLAYED_CHANCE = 5;
export const PLAYED_TIE = 6;
export const PLAYED_NUMBERS = 7;
export const NO_RATE = -1;

/** What the movers of a layer hear of what goes on. */
export interface MoverInputs {
  /** The note that began last; see `PLAYED_PITCH` and what follows it. */
  readonly note: Float64Array;
  /** Peak of the last step, linear: of the layer itself, the kick, each backing part; by `BY_NOTE` and so on. */
  readonly levels: Float64Array;
  /**
   * Where the loop stands at the end of the step in ticks, below 0 while it does not run; ticks a frame; where
   * it stands at the start of the step, where lanes are read.
   */
  readonly place: Float64Array;
}

/** What a mover is told beside its own settings. */
export interface MoverContext {
  readonly tempoBpm: number;
  /** The key's root as a MIDI note number. */
  readonly rootPitch: number;
  /** The backing parts, by their ids. */
  readonly parts: readonly string[];
}

/** The number by which one that starts movers is known: `note`, `self`, `kick`, or the id of a backing part. */
export function starterOf(parts: readonly string[], name: string): number {
  if (name === 'kick') return BY_KICK;
  const part = parts.indexOf(name);
  return part < 0 ? BY_NOTE : BY_PART + part;
}

/** A mover under way; `M` is what the document says of it. */
export interface MoverRunner<M> {
  /**
   * Writes where it stands, 0 to 1, to `values[at]`: a number given back would be made anew with every step.
   */
  tell(values: Float64Array, at: number): void;
  /** Takes other settings; it goes on from where it stands. */
  set(mover: M, context: MoverContext): void;
  /** Takes the numbers that may be moved as they stand now: `numbers` from `at` on, in the order of its shape. */
  tune?(numbers: Float64Array, at: number): void;
  /** The note in the inputs begins, in `on` (1) or on from another by a tie. */
  noteOn?(): void;
  /** The last held note ended. */
  noteOff?(): void;
  /** The kick (`BY_KICK`) or a backing part strikes for the `number`-th time in the loop; below 0: who knows. */
  struck?(by: number, number: number): void;
  /** Moves on by `frames`, and tells where it stands then. */
  step(frames: number, values: Float64Array, at: number): void;
  /** Goes on from where another of its kind stands. */
  copyFrom(other: MoverRunner<M>): void;
}

export type MoverShape = ObjectNode<Record<string, SchemaNode>>;

/** What a runner is made with; `seed` and `stream` are for all that is random in it. */
export interface MoverStart {
  readonly sampleRateHz: number;
  readonly seed: number;
  readonly stream: number;
  readonly inputs: MoverInputs;
}

/** A kind of mover, whole: what the document says of it, and what it does. */
export interface MoverKindSpec<S extends MoverShape, M = Infer<S>> {
  readonly shape: S;
  /** Where it begins when its lists may not be empty. */
  readonly start?: () => object;
  /** What no single field of it can tell: calls back with the field and what is wrong with it. */
  check?(mover: M, problem: (field: string, message: string) => void): void;
  /** Sets one going. */
  run(mover: M, start: MoverStart, context: MoverContext): MoverRunner<M>;
  /** Whether only notes move it, so that it need not be run between them. */
  readonly stands?: boolean;
  /** Whether velocity has a say in how much of it is passed on. */
  readonly touched?: boolean;
  /** Whether it runs on whatever is played, so that one pass of the loop differs from the next. */
  runsFree?(mover: M): boolean;
  /** Numbers of it that have no effect as it is set. */
  idle?(mover: M): readonly string[];
  /** Whether hits of the kick start it. */
  struckByKick?(mover: M): boolean;
  /** Whether it follows the layer itself. */
  hearsSelf?(mover: M): boolean;
  /** Whose sound it must hear: the name of the kick or of a backing part; null where it hears none. */
  hears?(mover: M): string | null;
  /** The field that says so. */
  readonly hearsIn?: string;
  /** The greatest frequency in it, in hertz, where it goes above what control steps carry. */
  fastestHz?(mover: M): number;
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
