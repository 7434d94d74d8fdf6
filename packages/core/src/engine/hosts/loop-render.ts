import { BLOCK } from '../../dsp/index.js';
import type { UnitPlace } from '../../document/index.js';
import type { Assets, Stereo } from '../base/recording.js';
import type { MixPart } from '../mix/mix-parts.js';
import type { Stems } from '../mix/mix.js';
import type { ChainTape } from '../units/chain-tape.js';
import type { ChainCache } from './kept-chains.js';
import type { Trace } from './moved.js';
import type { LayerRender } from './render-layer.js';

/** A loop as it sounds once it runs round: what hangs over its end stands at its start. */
export interface LoopRender {
  readonly sampleRateHz: number;
  readonly frames: number;
  readonly kick: Stereo;
  readonly bass: Stereo;
  readonly all: Stereo;
  /**
   * Each layer's share of the bass, after clip, level and ducking: they add up to it. Dry ones are as they go
   * into the clip.
   */
  readonly layers: readonly (Stereo & { readonly id: string })[];
  /** The bass in mono before ducking and ceiling. */
  readonly bassBefore: Float32Array;
  /** Gain of the ducking, whatever it acts on, every `DUCKING_FRAMES`; null while it is off. */
  readonly ducking: Float32Array | null;
  /** The backing parts, summed; null where there is none. They are not part of `all`. */
  readonly backing: Stereo | null;
  /** Where all that is moved stands, and all that moves; empty unless it was traced. */
  readonly moved: readonly Trace[];
  /** What was written down of a chain; null unless it was asked for. Its end is the loop. */
  readonly tape: ChainTape | null;
}

/** The stems of a loop alone. */
export type LoopStems = Pick<LoopRender, 'sampleRateHz' | 'frames' | 'layers'>;

/**
 * Layers rendered before, kept from one render to the next so that those that did not change need not be
 * rendered again.
 */
export type LayerCache = Map<string, { readonly key: string; readonly audio: LayerRender }>;

export interface RenderOptions {
  readonly sampleRateHz: number;
  readonly assets?: Assets;
  /** Number of the seeded pass; passes differ where phases or movers run free. */
  readonly pass?: number;
  readonly cache?: LayerCache;
  readonly chains?: ChainCache;
  /** Which stems of the layers are wanted as well; 'shares' unless set. */
  readonly stems?: Stems;
  /**
   * Whether only the end of the first round is run before the one that is kept, from a moment at which no
   * note sounds, instead of all of it: enough for what hangs over the loop's end,
   * not for what runs free or builds up over a whole round.
   */
  readonly brief?: boolean;
  /** Whether what moves is traced over the loop. */
  readonly traced?: boolean;
  /** The chain of which is written down what goes in and what each unit gives. */
  readonly taped?: UnitPlace | null;
  /** Given all that `followLoopSteps`, elsewhere, needs to render the stems of the same. */
  readonly onPart?: (part: MixPart) => void;
}

/** Frames between two values of the ducking that a loop render keeps. */
export const DUCKING_FRAMES = BLOCK;
