import type { SoundDocument } from '../document/index.js';
import type { LowBand } from '../lock/index.js';
import type { LineLock } from './line-lock.js';

/** What a proposal costs, from nothing to much. */
export type Cost = 'nothing' | 'groove' | 'level' | 'tone' | 'kick' | 'key';

/** A change that is offered: what it is, what it costs, and what it does, found by rendering it. */
export interface Proposal {
  readonly id: 'turn' | 'turns' | 'invert' | 'nudge' | 'retune' | 'retune-turn' | 'line' | 'shorten' | 'shared' | 'duck' | 'octave' | 'level';
  /** The change in a few words, such as "Turn the bass by −40°". */
  readonly title: string;
  /** What it costs in words; empty when it costs nothing. */
  readonly costText: string;
  readonly cost: Cost;
  readonly after: LineLock;
  /** How much more sum gain the worst note has, dB; where ducking keeps them apart, up to none gained and none lost. */
  readonly gainDb: number;
  /** The sound with the change applied. */
  readonly document: SoundDocument;
  /** Kick and bass below Lock’s frequency with the change applied. */
  readonly low: { readonly kick: LowBand; readonly bass: LowBand };
}

/** A change before it was rendered. */
export type Draft = Pick<Proposal, 'id' | 'title' | 'costText' | 'cost' | 'document'>;

/** How many dB of gain a cost weighs when proposals are ranked (common practice: phase first, timing and tuning next, taking something away last). */
export const COST_DB: Readonly<Record<Cost, number>> = { nothing: 0, groove: 0.4, kick: 0.3, key: 1.5, level: 1.2, tone: 1.5 };
