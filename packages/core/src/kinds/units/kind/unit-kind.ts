import { rebuilds } from '../../../schema/rebuild.js';
import {
  choice,
  flag,
  literal,
  number,
  text,
  type Infer,
  type ObjectNode,
  type SchemaNode,
} from '../../../schema/schema.js';
import { ID, movable } from '../../../schema/shape-parts.js';

/** What a unit may hear beside what goes through it; the blocks are those of the frames that it processes. */
export interface UnitHears {
  /** The note that sounds, in hertz; 0 before the first. */
  readonly hz: Float64Array;
  /** Beats in a minute. */
  readonly tempo: Float64Array;
  /** Frames from the start of the block to where the next note of the line begins in what goes through the unit;
   * infinite where none is known. */
  readonly ahead: Float64Array;
  /** Another signal in mono, in step with what goes through the unit: `kick`, a backing part's or a band's id;
   * null where there is none of that name. */
  side(name: string): Float64Array | null;
}

/** What a unit is set going with. */
export interface UnitStart {
  readonly sampleRateHz: number;
  /** For all that is random in it. */
  readonly seed: number;
  /** Whether left and right differ; where they do not it is given one block as both. */
  readonly stereo: boolean;
  readonly hears: UnitHears;
}

/** A unit under way; `U` is what the document says of it. */
export interface UnitRunner<U> {
  /** Whole frames by which it comes late, at low frequencies; they do not change while it runs. */
  readonly lateFrames: number;
  /** Takes other settings of the same structure. */
  set?(unit: U): void;
  /** Goes on from where another of its kind stands. */
  copyFrom(other: UnitRunner<U>): void;
  /** The loop begins, or begins again: what it counts for itself starts here, so that every round is cut alike. */
  comeRound?(): void;
  /**
   * Works on the samples from `from` up to `to` in place, no more than a block's; in mono `right` is
   * `left` itself. The numbers that may be moved stand in `numbers` from `at` on as they are at the step's end,
   * in the order of its shape.
   */
  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void;
}

export type UnitShape = ObjectNode<Record<string, SchemaNode>>;

/** What a kind of unit is looked for by. */
export const UNIT_FAMILIES = ['shapers', 'filter', 'dynamics', 'spectrum', 'movement'] as const;
export type UnitFamily = (typeof UNIT_FAMILIES)[number];

/** Where in a chain of chance a kind stands: what presses first, then what roughens, what colours, what moves. */
export const CHANCE_STAGES = ['press', 'rough', 'colour', 'move'] as const;

/** How chance takes a kind: how often beside others of its stage, and between which values it sets what. */
export interface UnitChance {
  readonly stage: (typeof CHANCE_STAGES)[number];
  readonly weight: number;
  readonly within: Readonly<Record<string, readonly [from: number, to: number]>>;
}

/** A kind of unit, whole: what the document says of it, what it does, and what is drawn of it. */
export interface UnitKindSpec<S extends UnitShape, U = Infer<S>> {
  readonly shape: S;
  readonly family: UnitFamily;
  /** Its name, and one line that says what it is for. */
  readonly label: string;
  readonly purpose: string;
  /** Sets one going. */
  run(unit: U, start: UnitStart): UnitRunner<U>;
  /** Frames by which its runner comes late; none where it is not said. */
  lateFrames?(unit: U, sampleRateHz: number): number;
  /** Whether it makes two sides of one. */
  widens?(unit: U): boolean;
  /** Whether it mixes the wet share itself, and in step with what it does. */
  readonly mixes?: boolean;
  /** For how long it may be silent, in seconds, while something of what went in has yet to come out. */
  waitsS?(unit: U, tempoBpm: number): number;
  /** Whose sound it must hear beside its own; null where it hears none. */
  hears?(unit: U): string | null;
  /** The field that says so. */
  readonly hearsIn?: string;
  /** Fields of it that have no effect as it is set. */
  idle?(unit: U): readonly string[];
  /** Whether it must know when the next note begins. */
  readonly awaitsNotes?: boolean;
  /** Whether and how chance takes it. */
  readonly chance?: UnitChance;
  /** What comes out for what goes in, without the wet share; null where it is no curve. */
  curve?(unit: U): (x: number) => number;
  /** Its gain in dB at a frequency in hertz, standing still, for a note in hertz. */
  response?(unit: U, noteHz: number): (hz: number) => number;
}

/** States a kind of unit; what it does knows the fields of its shape. */
export const unitKind = <S extends UnitShape>(spec: UnitKindSpec<S>) => spec;

/** Where the numbers that every unit has stand among its own. */
export const UNIT_WET = 0;
export const UNIT_LEVEL = 1;

/** What every unit has. */
export const unitFields = <const K extends string>(kind: K) => ({
  kind: literal(kind),
  id: rebuilds('instrument', text(40, kind.replaceAll(' ', '-'), ID)),
  on: rebuilds('instrument', flag(true)),
  /** Whether chance leaves it as it is. */
  locked: flag(false),
  /** Whether its level is set so that it is as loud behind it as in front of it. */
  match: flag(false),
  wetPct: number('Wet', '%', 0, 100, 100, 'How much of what it makes is heard; the rest is what went in.', {
    ...movable,
    step: 0.5,
  }),
  levelDb: number('Output', 'dB', -48, 24, 0, 'Level after it.', { ...movable, step: 0.1 }),
});

/** The wet share with another value to begin with, for what is mixed with what went in. */
export const wetFrom = (def: number) => ({ wetPct: { ...unitFields('').wetPct, default: def } });

/** Below this a unit leaves everything as it is; at the lowest it works on all. */
export const LEAST_ABOVE_HZ = 20;
export const aboveField = (def = 125) =>
  number(
    'Works above',
    'Hz',
    LEAST_ABOVE_HZ,
    1000,
    def,
    'What lies below this stays as it is; all is worked on at the lowest.',
    {
      scale: 'log',
      ...movable,
    },
  );

/** Another signal that a unit listens to. */
export const sideField = (def: string) => rebuilds('instrument', text(40, def, ID));
/** A choice that decides how a unit is built. */
export const built = <const O extends string>(options: readonly O[], def: NoInfer<O>) =>
  rebuilds('instrument', choice(options, def));
