import type { Stereo } from '../engine/index.js';

/** What is heard in the place of a sound: its loop, by what may be heard of it. */
export interface OtherLoop {
  readonly both: Stereo;
  readonly bass: Stereo;
  readonly kick: Stereo;
}

/** Gains that make two as loud as each other: the louder one is lowered, so that neither ever clips. */
export interface MatchedGains {
  readonly ownDb: number;
  readonly otherDb: number;
}

/** Matches two loudnesses in LUFS; where either cannot be told, nothing is changed. */
export function matchedGains(ownLufs: number | null, otherLufs: number | null): MatchedGains {
  if (ownLufs === null || otherLufs === null) return { ownDb: 0, otherDb: 0 };
  return { ownDb: Math.min(0, otherLufs - ownLufs), otherDb: Math.min(0, ownLufs - otherLufs) };
}

/** Time in which one gives way to the other, in seconds. */
const FADE_S = 0.01;

/**
 * Hears another loop in the place of a sound, in time with it, and goes from one to the other within 10 ms. The other runs on
 * while it is not heard. The block path allocates nothing.
 */
export class OtherStage {
  private loop: OtherLoop | null = null;
  private heard: keyof OtherLoop = 'both';
  private mono = false;
  /** Share of the other and where that is going; gains of both as they are and as they are to be; the next frame of the loop. */
  private readonly state = Float64Array.of(0, 0, 1, 1, 1, 1, 0);
  private readonly step: number;

  constructor(sampleRateHz: number) {
    this.step = 1 / (FADE_S * sampleRateHz);
  }

  /** Takes another loop; null for none. */
  set(loop: OtherLoop | null): void {
    this.loop = loop;
    if (!loop) this.state[1] = 0;
  }

  match({ ownDb, otherDb }: MatchedGains): void {
    this.state[3] = 10 ** (ownDb / 20);
    this.state[5] = 10 ** (otherDb / 20);
  }

  /** Whether the other is heard. */
  hear(other: boolean): void {
    this.state[1] = other && this.loop ? 1 : 0;
  }

  listen(heard: keyof OtherLoop, mono: boolean): void {
    this.heard = heard;
    this.mono = mono;
  }

  /** The other plays on from a frame of the sound's own loop. */
  seek(frame: number): void {
    this.state[6] = frame;
  }

  /** Puts the other in the place of a block of the sound, as far as it is heard; while it does not play it is silent. */
  process(left: Float32Array, right: Float32Array, frames: number, playing: boolean): void {
    const { state, step, loop, mono } = this;
    const source = loop?.[this.heard];
    const length = source?.left.length ?? 0;
    let at = length > 0 ? state[6] % length : 0;
    if (state[0] === 0 && state[1] === 0 && state[2] === 1 && state[3] === 1) {
      if (playing) state[6] += frames;
      return;
    }
    for (let i = 0; i < frames; i++) {
      state[0] += Math.max(-step, Math.min(step, state[1] - state[0]));
      state[2] += Math.max(-step, Math.min(step, state[3] - state[2]));
      state[4] += Math.max(-step, Math.min(step, state[5] - state[4]));
      let l = 0;
      let r = 0;
      if (source && playing) {
        l = source.left[at];
        r = source.right[at];
        if (mono) l = r = 0.5 * (l + r);
        if (++at >= length) at = 0;
      }
      const own = (1 - state[0]) * state[2];
      const other = state[0] * state[4];
      left[i] = own * left[i] + other * l;
      right[i] = own * right[i] + other * r;
    }
    if (playing) state[6] += frames;
  }
}
