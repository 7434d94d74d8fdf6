import { SegmentEnvelope } from '../../dsp/index.js';
import { placesOf } from '../../schema/places.js';
import { choice, number, object, text, type Infer } from '../../schema/schema.js';
import { ID, movable, segments } from '../../schema/shape-parts.js';
import { since } from '../../schema/since.js';
import {
  BY_NOTE,
  moverFields,
  moverKind,
  PLAYED_TIE,
  starterOf,
  type MoverContext,
  type MoverInputs,
  type MoverRunner,
  type MoverStart,
} from './mover-kind.js';

const times = segments(1, 120, 0, 60);
const moves = { movable: true } as const;

const shape = object({
  ...moverFields('envelope', 'envelope-1', 'Snap'),
  /** What starts it: `note`, `kick`, or the id of a backing part. */
  startedBy: since(8, text(40, 'note', ID)),
  loop: since(8, choice(['once', 'held', 'always'], 'once')),
  delayMs: since(8, number('Delay', 'ms', 0, 5000, 0, 'Wait before the attack.', { ...movable, step: 1 })),
  attackMs: { ...times.attackMs, ...moves },
  attackBend: times.attackBend,
  holdMs: since(
    8,
    number('Hold', 'ms', 0, 5000, 0, 'Time at full level before the decay.', { ...movable, step: 1 }),
  ),
  decayMs: { ...times.decayMs, ...moves },
  decayBend: times.decayBend,
  sustainPct: { ...times.sustainPct, ...moves },
  releaseMs: { ...times.releaseMs, ...moves },
  releaseBend: times.releaseBend,
});
const NUMBER = placesOf(shape);

type Envelope = Infer<typeof shape>;

class EnvelopeRunner implements MoverRunner<Envelope> {
  private readonly envelope: SegmentEnvelope;
  private readonly inputs: MoverInputs;
  private by = BY_NOTE;

  constructor(
    private mover: Envelope,
    { sampleRateHz, inputs }: MoverStart,
    context: MoverContext,
  ) {
    this.envelope = new SegmentEnvelope(mover, sampleRateHz);
    this.inputs = inputs;
    this.set(mover, context);
    if (mover.loop === 'always') this.envelope.start();
  }

  set(mover: Envelope, context: MoverContext): void {
    this.mover = mover;
    this.by = starterOf(context.parts, mover.startedBy);
    this.envelope.setTimes(mover);
    // What no note holds has no sustain to stand at.
    this.envelope.afterDecay(
      mover.loop === 'always' || (mover.loop === 'held' && this.by === BY_NOTE)
        ? 'again'
        : this.by === BY_NOTE
          ? 'sustain'
          : 'release',
    );
    if (mover.loop === 'always' && !this.envelope.active) this.envelope.start();
  }

  tune(moved: Float64Array, at: number): void {
    this.envelope.tune(
      moved,
      at + NUMBER.delayMs,
      at + NUMBER.attackMs,
      at + NUMBER.holdMs,
      at + NUMBER.decayMs,
      at + NUMBER.sustainPct,
      at + NUMBER.releaseMs,
    );
  }

  copyFrom(other: EnvelopeRunner): void {
    this.envelope.copyFrom(other.envelope);
  }

  private start(): void {
    if (this.mover.loop !== 'always') this.envelope.start();
  }

  noteOn(): void {
    if (this.by === BY_NOTE && this.inputs.note[PLAYED_TIE] === 0) this.start();
  }

  noteOff(): void {
    if (this.by === BY_NOTE && this.mover.loop !== 'always') this.envelope.release();
  }

  struck(by: number): void {
    if (by === this.by) this.start();
  }

  tell(values: Float64Array, at: number): void {
    values[at] = this.envelope.level;
  }

  step(frames: number, values: Float64Array, at: number): void {
    this.run(frames);
    this.tell(values, at);
  }

  private run(frames: number): void {
    this.envelope.step(frames);
  }
}

/** An envelope that runs with each note, each hit of the kick or of a backing part, once or over and over. */
export const envelope = moverKind({
  shape,
  run: (mover, start, context) => new EnvelopeRunner(mover, start, context),
  touched: true,
  runsFree: ({ loop }) => loop === 'always',
  struckByKick: ({ startedBy }) => startedBy === 'kick',
  hearsIn: 'startedBy',
  hears: ({ startedBy }) => (startedBy === 'note' || startedBy === 'kick' ? null : startedBy),
});
