import { BLOCK } from '../../dsp/index.js';
import { NOWHERE, type LayerPlayer } from '../layer/layer-player.js';
import type { Stereo } from '../base/recording.js';

/** Time in which what is played back comes in, and gives way where the line jumps or stops, in seconds. */
const FADE_S = 0.006;

/**
 * A layer that plays back its own render of the loop instead of making it: what a machine that is too slow
 * for it can still play. Notes that are played live go to the layer itself, which is only rendered while they
 * sound.
 */
export class FrozenLayer {
  readonly left = new Float64Array(BLOCK);
  readonly right: Float64Array;
  silent = true;
  private readonly fadeFrames: number;
  /**
   * Where the next frame is read, and its gain; the same for what gives way; the gain by which the layer is
   * on.
   */
  private readonly at = Float64Array.of(NOWHERE, 0, NOWHERE, 0, 1);

  constructor(
    readonly player: LayerPlayer,
    private readonly audio: Stereo,
    sampleRateHz: number,
    private on: boolean,
  ) {
    this.fadeFrames = Math.round(FADE_S * sampleRateHz);
    this.right = player.stereo ? new Float64Array(BLOCK) : this.left;
    this.at[4] = on ? 1 : 0;
  }

  get role(): LayerPlayer['role'] {
    return this.player.role;
  }

  set(on: boolean): void {
    this.on = on;
  }

  copyFrom(other: FrozenLayer): void {
    this.at.set(other.at);
  }

  /**
   * Adds what is played back from a place on, its gain going to 0 or 1; the place and the gain stand at
   * `slot` and after it.
   */
  private play(slot: number, to: number, frames: number): void {
    const { at, left, right, audio } = this;
    const length = audio.left.length;
    const stereo = right !== left;
    const step = 1 / this.fadeFrames;
    const onTo = this.on ? 1 : 0;
    let place = at[slot];
    let gain = at[slot + 1];
    let on = at[4];
    for (let i = 0; i < frames; i++) {
      gain = to > gain ? Math.min(to, gain + step) : Math.max(to, gain - step);
      on = onTo > on ? Math.min(onTo, on + step) : Math.max(onTo, on - step);
      left[i] += gain * on * audio.left[place];
      if (stereo) right[i] += gain * on * audio.right[place];
      place = place + 1 >= length ? 0 : place + 1;
    }
    at[slot] = gain === 0 && to === 0 ? NOWHERE : place;
    at[slot + 1] = gain;
    if (slot === 0) at[4] = on;
  }

  /**
   * Writes the next `frames` samples, those of the loop from `place` on; `NOWHERE` where the line does not
   * run.
   */
  render(frames: number, place: number): void {
    const { at, left, right, player } = this;
    player.render(frames, place);
    if (at[0] !== place) {
      // The line jumped, stopped or began: what was played gives way.
      if (at[0] !== NOWHERE) {
        at[2] = at[0];
        at[3] = at[1];
      }
      at[0] = place;
      at[1] = 0;
    }
    this.silent = player.silent && at[0] === NOWHERE && at[2] === NOWHERE;
    if (this.silent) return;
    for (let i = 0; i < frames; i++) left[i] = player.silent ? 0 : player.left[i];
    if (right !== left) for (let i = 0; i < frames; i++) right[i] = player.silent ? 0 : player.right[i];
    if (at[2] !== NOWHERE) this.play(2, 0, frames);
    if (at[0] !== NOWHERE) this.play(0, 1, frames);
  }
}
