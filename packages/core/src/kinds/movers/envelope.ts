import { SegmentEnvelope } from '../../dsp/index.js';
import { object, type Infer } from '../../schema/schema.js';
import { segments } from '../../schema/shape-parts.js';
import { moverFields, moverKind, type MoverRunner } from './mover-kind.js';

const shape = object({ ...moverFields('envelope', 'envelope-1', 'Snap'), ...segments(1, 120, 0, 60) });

type Envelope = Infer<typeof shape>;

class EnvelopeRunner implements MoverRunner<Envelope> {
  private readonly envelope: SegmentEnvelope;

  constructor(mover: Envelope, sampleRateHz: number) {
    this.envelope = new SegmentEnvelope(mover, sampleRateHz);
  }

  set(mover: Envelope): void {
    this.envelope.setTimes(mover);
  }

  copyFrom(other: EnvelopeRunner): void {
    this.envelope.copyFrom(other.envelope);
  }

  noteOn(): void {
    this.envelope.start();
  }

  noteOff(): void {
    this.envelope.release();
  }

  tell(values: Float64Array, at: number): void {
    values[at] = this.envelope.level;
  }

  step(frames: number): void {
    this.envelope.step(frames);
  }
}

/** An envelope that runs with each note. */
export const envelope = moverKind({
  shape,
  run: (mover, sampleRateHz) => new EnvelopeRunner(mover, sampleRateHz),
  touched: true,
  runsFree: () => false,
});
