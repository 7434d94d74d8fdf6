import { EDGE_AGE, STEP_DELAY, StepCorrector } from '../../dsp/index.js';
import type { CycleTone } from './cycle-tone.js';

/** Delay of a synced tone, in samples of the upper rate. */
export const SYNC_DELAY = STEP_DELAY;

/**
 * Reads a tone's cycle that begins anew whenever the cycle of another does: hard sync, with a band-limited
 * step and corner at each beginning.
 */
export class SyncReader {
  private readonly corrector = new StepCorrector();
  private readonly edge = new Float64Array(5);
  private readonly age = new Float64Array(1);
  private readonly inc = new Float64Array(1);
  /** Phase of the other tone, in cycles. */
  private readonly master = new Float64Array(1);

  reset(startCycles: number): void {
    this.corrector.reset();
    this.master[0] = startCycles;
  }

  copyFrom(other: SyncReader): void {
    this.corrector.copyFrom(other.corrector);
    this.master.set(other.master);
  }

  /**
   * Writes a step of `count` samples at twice the rate; `hz` in hertz are the other tone's frequency at its
   * start and end.
   */
  read(
    tone: CycleTone,
    out: Float64Array,
    displace: Float64Array,
    swing: Float64Array,
    master: CycleTone,
    masterSwing: Float64Array,
    count: number,
  ): void {
    const { corrector, edge, age, inc } = this;
    let pushed = 0;
    for (let i = 0; i < count; i++) {
      master.increment(i + 1, inc, 0);
      const step = inc[0] * (1 + masterSwing[i]);
      let phase = this.master[0];
      if (phase >= 1) {
        // The cycle began between the last sample and this one.
        phase -= 1;
        age[0] = step > 0 ? Math.min(1, phase / step) : 0;
        if (i > pushed) {
          tone.steer(out, pushed, i, displace, swing);
          corrector.push(out, pushed, i);
          pushed = i;
        }
        tone.restart(age, edge, 1);
        edge[EDGE_AGE] = age[0];
        corrector.correct(edge);
      }
      this.master[0] = phase + step;
    }
    tone.steer(out, pushed, count, displace, swing);
    corrector.push(out, pushed, count);
  }
}
