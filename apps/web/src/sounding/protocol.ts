import type { BackingFigures, Click, DepthSpectra, Ground, LineLock, NoteLevels, NoteRose, Proposal, JudgedFigure, KickFigures, NoteFigures, Recording, SoundDocument, Told, WavBits } from '@abyssal/core';

/** Recordings by hash. */
export type SentAssets = readonly (readonly [string, Recording])[];

export type ToSounding =
  | { readonly kind: 'assets'; readonly assets: SentAssets }
  /** `lockFirst`: kick and bass are looked at before anything else is measured. */
  | { readonly kind: 'sound'; readonly job: number; readonly document: SoundDocument; readonly lockFirst: boolean }
  /** Ends what is done for the job before, whatever it is. */
  | { readonly kind: 'leave'; readonly job: number }
  | { readonly kind: 'bounce'; readonly job: number; readonly document: SoundDocument; readonly assets: SentAssets; readonly sampleRateHz: number; readonly bits: WavBits; readonly stems: boolean }
  /** Renders a sound as a backing part of another. */
  | { readonly kind: 'backing'; readonly job: number; readonly document: SoundDocument; readonly assets: SentAssets; readonly under: Pick<Ground, 'tempoBpm' | 'bars'> };

/** Kick and bass below Lock's frequency over the loop, evenly spaced. */
export interface LowTrace { readonly rateHz: number; readonly kick: Float32Array; readonly bass: Float32Array }

/** Gain of the ducking over the loop, evenly spaced. */
export interface DuckTrace { readonly rateHz: number; readonly gains: Float32Array }

/** Kick and bass below Lock's frequency, note by note. */
export interface Look {
  readonly notes: readonly NoteLevels[];
  readonly low: LowTrace;
  /** The ducking as it was rendered; null while it is off. */
  readonly ducking: DuckTrace | null;
}

/** What is shown of a measured sound; all of it belongs to one state of the document. */
export interface Shown extends Look {
  readonly figures: readonly JudgedFigure[];
  readonly notes: readonly NoteFigures[];
  /** Bearings of each note over the passes that were measured, degrees; nothing for a note without one. */
  readonly bearings: readonly (readonly number[])[];
  readonly depth: DepthSpectra;
  readonly kick: KickFigures;
  readonly backing: BackingFigures | null;
  readonly clicks: readonly Click[];
  /** One hit of the kick in mono, thinned for drawing: values every `stepS` seconds. */
  readonly kickWave: { readonly stepS: number; readonly values: Float32Array };
  /** What takes the lows away. */
  readonly told: readonly Told[];
  /** How long hard ducking holds the bass away from a hit, ms; 0 while there is none. */
  readonly hardHoldMs: number;
}

/** A proposal as the page has it: with the low traces of the change. */
export type ShownProposal = Omit<Proposal, 'low'> & { readonly low: LowTrace };

/** What may be done so that kick and bass agree; belongs to the same state of the document as what was shown before it. */
export interface ShownFit { readonly before: LineLock; readonly proposals: readonly ShownProposal[]; /** All that was rendered, what makes it worse too. */ readonly tried: readonly Omit<Proposal, 'low'>[] }

export type FromSounding =
  | { readonly kind: 'look'; readonly job: number; readonly look: Look; readonly roses: readonly (NoteRose | null)[] }
  | { readonly kind: 'shown'; readonly job: number; readonly shown: Shown }
  | { readonly kind: 'roses'; readonly job: number; readonly roses: readonly (NoteRose | null)[] }
  | { readonly kind: 'fit'; readonly job: number; readonly fit: ShownFit }
  | { readonly kind: 'progress'; readonly job: number; readonly done: number }
  | { readonly kind: 'bounced'; readonly job: number; readonly files: readonly { readonly name: string; readonly bytes: Uint8Array }[] }
  | { readonly kind: 'failed'; readonly job: number; readonly message: string };
