import type { Kick } from '../../document/index.js';
import { BLOCK, CrossoverSide, prewarp, STEP } from '../../dsp/index.js';
import type { Recording } from '../base/recording.js';
import { Hit, ON } from './hit.js';

/** A recording lends what lies above this where the bass carries the rest, in hertz (from the design). */
const LENDS_ABOVE_HZ = 120;

/** Whether a kick's sides differ. */
export const isStereoKick = ({ source }: Kick, recording: Recording | null) =>
  source === 'wav' && recording !== null && recording.channels.length > 1;

/**
 * The kick playing: a made one or a recording; with one oscillator for both its click alone, or what a
 * recording has above 120 Hz.
 */
export class KickPlayer {
  readonly left = new Float64Array(BLOCK);
  /** The same block as `left` where the two sides cannot differ. */
  readonly right: Float64Array;
  readonly stereo: boolean;
  /** Whether nothing sounds; the blocks are then not written. */
  silent = true;
  private readonly highLeft = new CrossoverSide('high');
  private readonly highRight = new CrossoverSide('high');
  private readonly cut = new Float64Array(2);
  private front: Hit;
  private back: Hit;

  /** Hits sound `delayFrames` after their event, to stay in step with a bass that is late by as much. */
  constructor(
    private kick: Kick,
    private readonly recording: Recording | null,
    sampleRateHz: number,
    seed: number,
    private readonly delayFrames: number,
  ) {
    this.stereo = isStereoKick(kick, recording);
    this.right = this.stereo ? new Float64Array(BLOCK) : this.left;
    this.cut[0] = this.cut[1] = prewarp(LENDS_ABOVE_HZ, sampleRateHz);
    this.front = new Hit(sampleRateHz, seed);
    this.back = new Hit(sampleRateHz, seed);
  }

  set(kick: Kick): void {
    this.kick = kick;
  }

  copyFrom(other: KickPlayer): void {
    this.front.copyFrom(other.front);
    this.back.copyFrom(other.back);
    this.highLeft.copyFrom(other.highLeft);
    this.highRight.copyFrom(other.highRight);
  }

  hit(velocity: number): void {
    const spare = this.back;
    this.front.giveWay();
    this.back = this.front;
    this.front = spare;
    this.front.start(velocity, this.delayFrames);
  }

  /** Lets what sounds fade. */
  stop(): void {
    this.front.giveWay();
    this.back.giveWay();
  }

  render(frames: number): void {
    const { left, right, front, back } = this;
    this.silent = front.state[ON] === 0 && back.state[ON] === 0;
    if (this.silent) return;
    for (let i = 0; i < frames; i++) left[i] = 0;
    if (this.stereo) for (let i = 0; i < frames; i++) right[i] = 0;
    if (back.state[ON] === 1) this.add(back, frames);
    if (front.state[ON] === 1) this.add(front, frames);
    if (!this.kick.shared || this.kick.source === 'made') return;
    this.highLeft.process(left, 0, frames, this.cut);
    if (this.stereo) this.highRight.process(right, 0, frames, this.cut);
  }

  private add(hit: Hit, frames: number): void {
    const skip = hit.wait(frames);
    if (skip === frames) return;
    if (this.kick.source === 'made') {
      for (let from = skip; from < frames; from += STEP)
        hit.addMade(
          this.kick.made,
          this.kick.shared,
          this.recording,
          this.left,
          from,
          from + STEP < frames ? from + STEP : frames,
        );
    } else if (this.recording)
      hit.addRecording(this.recording, this.left, this.right, this.stereo, skip, frames);
    else hit.state[ON] = 0;
  }
}
