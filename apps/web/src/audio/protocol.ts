import {
  MACRO_IDS,
  MOST_LANES,
  MOST_LINKS,
  MOST_MOVERS,
  type MatchedGains,
  type Monitor,
  type OtherLoop,
  type Recording,
  type SoundDocument,
  type Stereo,
  type Through,
  type ThroughWays,
} from '@abyssal/core';
import type { Delta } from '../state/delta';

/** What the page tells the audio thread. */
export type ToAudio =
  | {
      readonly kind: 'load';
      readonly document: SoundDocument;
      readonly assets: readonly (readonly [string, Recording])[];
    }
  /** What the sound has other than the one that was told last. */
  | { readonly kind: 'update'; readonly delta: Delta; readonly mark: number | null }
  | { readonly kind: 'assets'; readonly assets: readonly (readonly [string, Recording])[] }
  /** The layers that play back their own render of the loop, in place of all that did before. */
  | { readonly kind: 'freeze'; readonly layers: readonly (readonly [string, Stereo])[] }
  | { readonly kind: 'play'; readonly fromTick: number }
  | { readonly kind: 'stop' }
  | { readonly kind: 'note'; readonly pitch: number; readonly velocity: number; readonly mark: number | null }
  /** Whether the beats are clicked; only here, never in a bounce. */
  | { readonly kind: 'click'; readonly on: boolean }
  /** Plays after so many beats of click. */
  | { readonly kind: 'count in'; readonly beats: number }
  | { readonly kind: 'listen'; readonly monitor: Monitor; readonly mono: boolean }
  /** What may be heard in the place of the sound, null for none; how the two are matched; which is heard. */
  | { readonly kind: 'other'; readonly loop: OtherLoop | null }
  | { readonly kind: 'match'; readonly gains: MatchedGains }
  | { readonly kind: 'hear other'; readonly on: boolean }
  /** The system that is heard through from the next block on; null for none. */
  | { readonly kind: 'through'; readonly through: Through | null; readonly ways: ThroughWays };

/** What the audio thread tells the page: where in the loop, 0 to 1, a message was first heard. */
export interface FromAudio {
  readonly kind: 'heard';
  readonly mark: number;
  readonly place: number;
}

/** Places in the shared state. */
export const PLACE = 0;
export const PLAYING = 1;
export const PEAK = 2;
export const FRAMES = 3;
/** Share of its time that the audio thread took of late; from 1 on the sound breaks up. */
export const LOAD = 4;
/** How often the sound has broken up because the audio thread was late, and for how many ms in all. */
export const DROPOUTS = 5;
export const DROPPED_MS = 6;
const HEADER = 8;
/** Numbers that may be moved, and what moves: how many at the most. */
const MOVED = MOST_LINKS + MOST_LANES + MOST_MOVERS + MACRO_IDS.length;

/** Frames of what was heard last that stay in the shared memory: about 11 s at 48 kHz. */
export const HEARD_FRAMES = 2 ** 19;

/**
 * Memory that page and audio thread share: where the line stands, the peak of late, and what was heard last,
 * so that meters and
 * scope cost no messages. Doubles for the state (`frames` counts on), floats for the ring.
 */
export class SharedAudio {
  readonly state: Float64Array;
  readonly left: Float32Array;
  readonly right: Float32Array;
  /** Where all that is moved stands now, 0 to 1, then all that moves; see `Engine.tellMoved`. */
  readonly moved: Float32Array;

  constructor(
    readonly buffer: SharedArrayBuffer = new SharedArrayBuffer(8 * HEADER + 8 * HEARD_FRAMES + 4 * MOVED),
  ) {
    this.state = new Float64Array(buffer, 0, HEADER);
    this.left = new Float32Array(buffer, 8 * HEADER, HEARD_FRAMES);
    this.right = new Float32Array(buffer, 8 * HEADER + 4 * HEARD_FRAMES, HEARD_FRAMES);
    this.moved = new Float32Array(buffer, 8 * HEADER + 8 * HEARD_FRAMES, MOVED);
  }

  /** What was heard over the last `frames`, oldest first. */
  heard(frames: number): { left: Float32Array; right: Float32Array } {
    const from = (((this.state[FRAMES] - frames) % HEARD_FRAMES) + HEARD_FRAMES) % HEARD_FRAMES;
    const take = (ring: Float32Array) => {
      const out = new Float32Array(frames);
      const first = ring.subarray(from, from + frames);
      out.set(first);
      out.set(ring.subarray(0, frames - first.length), first.length);
      return out;
    };
    return { left: take(this.left), right: take(this.right) };
  }
}
