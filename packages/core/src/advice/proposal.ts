import type { SoundDocument } from '../document/index.js';
import type { LineLock } from '../figures/index.js';
import type { LowBand } from '../lock/index.js';
import type { Takes } from './takes.js';

/** One thing that a proposal does. */
export type Step =
  | 'turn'
  | 'turns'
  | 'invert'
  | 'nudge'
  | 'restart'
  | 'line'
  | 'shared'
  | 'octave'
  | 'level'
  | 'retune'
  | 'near'
  | 'scale'
  | 'fifth'
  | 'tail-octave'
  | 'shorten'
  | 'duck'
  | 'duck-beats'
  | 'duck-hard';

/** A change before it was rendered. */
export interface Draft {
  readonly steps: readonly Step[];
  /** The change in a few words, such as "Turn the bass by −40°". */
  readonly title: string;
  /** What it does beside what is measured of it, in words. */
  readonly costs: readonly string[];
  /** The sound with the change applied. */
  readonly document: SoundDocument;
}

/** A change that is offered: what it is, what it takes, and what it gives, found by rendering it. */
export interface Proposal extends Omit<Draft, 'costs'> {
  /** Its steps in one word, such as `retune-restart-turn`. */
  readonly id: string;
  /** What it takes, in words; empty when it takes nothing. */
  readonly costText: string;
  readonly takes: Takes;
  readonly after: LineLock;
  /**
   * How much more sum gain the worst meeting has, dB; where they beat or are kept apart, nothing is gained
   * and nothing lost.
   */
  readonly gainDb: number;
  /** What every hit has then, in words. */
  readonly says: string;
  /** Kick and bass below Lock’s frequency with the change applied. */
  readonly low: { readonly kick: LowBand; readonly bass: LowBand };
}
