import type { MoverOf } from '../../document/index.js';
import { SegmentEnvelope } from '../../dsp/index.js';
import type { MoverEngine, MoverRunner } from './mover-runner.js';

type Envelope = MoverOf<'envelope'>;

/** An envelope under way. */
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

export const envelope: MoverEngine<'envelope'> = {
  start: (mover, sampleRateHz) => new EnvelopeRunner(mover, sampleRateHz),
  touched: true,
  runsFree: () => false,
};
