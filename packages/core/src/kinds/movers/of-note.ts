import { bendInPlace } from '../../dsp/index.js';
import { number, object, type Infer } from '../../schema/schema.js';
import { chanceOf } from './chance.js';
import {
  moverFields,
  moverKind,
  PLAYED_ACCENT,
  PLAYED_CHANCE,
  PLAYED_PITCH,
  PLAYED_TIE,
  PLAYED_VELOCITY,
  type MoverContext,
  type MoverInputs,
  type MoverRunner,
  type MoverStart,
} from './mover-kind.js';

const fields = <const K extends string>(kind: K, name: string) =>
  object({
    ...moverFields(kind, `${kind}-1`, name),
    bend: number('Curve', '', -1, 1, 0, 'Positive keeps low values lower, negative raises them.', {
      step: 0.01,
    }),
  });

const touchShape = fields('touch', 'Touch');
const keyShape = fields('key', 'Key');
const accentShape = fields('accent', 'Accent');
const chanceShape = fields('chance', 'Random per note');

type OfNote = Infer<typeof touchShape | typeof keyShape | typeof accentShape | typeof chanceShape>;

/** Semitones from the key's root to where the key mover stands at 0 and at 1. */
const KEY_SPAN = 24;

interface Reading {
  /** Writes what a note says, 0 to 1, to `out[0]`. */
  (note: Float64Array, rootPitch: number, seed: number, stream: number, out: Float64Array): void;
}

/** Says of each note one thing, and stands there until the next. */
class OfNoteRunner implements MoverRunner<OfNote> {
  /** What the note says, and its curve; then what that makes of it. */
  private readonly state = new Float64Array(3);
  private readonly bending = new Float64Array(2);
  private readonly inputs: MoverInputs;
  private readonly seed: number;
  private readonly stream: number;

  constructor(
    mover: OfNote,
    { inputs, seed, stream }: MoverStart,
    private context: MoverContext,
    private readonly read: Reading,
    /** Whether a tied note says something of its own. */
    private readonly ofTies: boolean,
    stands: number,
  ) {
    this.inputs = inputs;
    this.seed = seed;
    this.stream = stream;
    this.state[0] = stands;
    this.set(mover, context);
  }

  set(mover: OfNote, context: MoverContext): void {
    this.context = context;
    this.state[1] = mover.bend;
    this.bend();
  }

  private bend(): void {
    const { state, bending } = this;
    bending[0] = state[0];
    bending[1] = state[1];
    bendInPlace(bending, 0);
    state[2] = bending[0];
  }

  copyFrom(other: OfNoteRunner): void {
    this.state[0] = other.state[0];
    this.bend();
  }

  noteOn(): void {
    const { note } = this.inputs;
    if (note[PLAYED_TIE] === 1 && !this.ofTies) return;
    this.read(note, this.context.rootPitch, this.seed, this.stream, this.state);
    this.bend();
  }

  tell(values: Float64Array, at: number): void {
    values[at] = this.state[2];
  }

  step(_frames: number, values: Float64Array, at: number): void {
    // It stands where the note has put it.
    this.tell(values, at);
  }
}

/** How hard the note is played. */
export const touch = moverKind({
  shape: touchShape,
  stands: true,
  run: (mover, start, context) =>
    new OfNoteRunner(
      mover,
      start,
      context,
      (note, _root, _seed, _stream, out) => {
        out[0] = note[PLAYED_VELOCITY] / 127;
      },
      true,
      100 / 127,
    ),
});

/** How high the note is: in the middle at the root of the key, at the ends two octaves from it. */
export const key = moverKind({
  shape: keyShape,
  stands: true,
  run: (mover, start, context) =>
    new OfNoteRunner(
      mover,
      start,
      context,
      (note, root, _seed, _stream, out) => {
        const at = 0.5 + (note[PLAYED_PITCH] - root) / (2 * KEY_SPAN);
        out[0] = at < 0 ? 0 : at > 1 ? 1 : at;
      },
      true,
      0.5,
    ),
});

/** Whether the note is an accent. */
export const accent = moverKind({
  shape: accentShape,
  stands: true,
  run: (mover, start, context) =>
    new OfNoteRunner(
      mover,
      start,
      context,
      (note, _root, _seed, _stream, out) => {
        out[0] = note[PLAYED_ACCENT];
      },
      true,
      0,
    ),
});

/** Another value by chance for each note; a note of the line has the same one each time round. */
export const chance = moverKind({
  shape: chanceShape,
  stands: true,
  run: (mover, start, context) =>
    new OfNoteRunner(
      mover,
      start,
      context,
      (note, _root, seed, stream, out) => {
        chanceOf(seed, stream, note[PLAYED_CHANCE], out);
      },
      false,
      0.5,
    ),
  runsFree: () => true,
});
