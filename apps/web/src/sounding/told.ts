import type {
  Click,
  DepthSpectra,
  Figure,
  LineRoses,
  Fit,
  MonoReport,
  NoteLevels,
  NoteOnSystems,
  PlaybackSystem,
  Proposal,
  JudgedFigure,
  Trace,
  KickFigures,
  NoteFigures,
  Told,
  ToneFigures,
} from '@abyssal/core';

/** Kick and bass below Lock's frequency over the loop, evenly spaced. */
export interface LowTrace {
  readonly rateHz: number;
  readonly kick: Float32Array;
  readonly bass: Float32Array;
}

/** Gain of the ducking over the loop, evenly spaced. */
export interface DuckTrace {
  readonly rateHz: number;
  readonly gains: Float32Array;
}

/** Kick and bass below Lock's frequency, note by note. */
export interface Look {
  readonly notes: readonly NoteLevels[];
  readonly low: LowTrace;
  /** The ducking as it was rendered; null while it is off. */
  readonly ducking: DuckTrace | null;
}

/** What is measured of the backing parts together. */
export interface BackingFigures {
  readonly loudness: Figure;
  /** Share of the bass's energy that they mask, 0 to 1; null where the bass is silent. */
  readonly masked: number | null;
}

/** What is shown of a measured sound; all of it belongs to one state of the document. */
export interface Shown extends Look {
  readonly figures: readonly JudgedFigure[];
  readonly notes: readonly NoteFigures[];
  /**
   * Bearings of each meeting of each note over the passes that were measured, degrees; nothing for a meeting
   * without one.
   */
  readonly bearings: readonly (readonly (readonly number[])[])[];
  readonly depth: DepthSpectra;
  /** What a listener gets of each note of the line, on each playback system. */
  readonly heard: readonly NoteOnSystems[];
  /** Those systems: the program's, then the sound's own. */
  readonly systems: readonly PlaybackSystem[];
  /** True peak of kick and bass together. */
  readonly truePeakDbtp: Figure;
  /** Passes that were measured. */
  readonly passes: number;
  /** What the bass loses in mono, by octave bands. */
  readonly mono: MonoReport;
  readonly kick: KickFigures;
  readonly backing: BackingFigures | null;
  readonly clicks: readonly Click[];
  /** One hit of the kick in mono, thinned for drawing: values every `stepS` seconds. */
  readonly kickWave: { readonly stepS: number; readonly values: Float32Array };
  /** Where all that is moved stands over the loop, and all that moves. */
  readonly moved: readonly Trace[];
  /** What takes the lows away. */
  readonly told: readonly Told[];
  /** How long hard ducking holds the bass away from a hit, ms; 0 while there is none. */
  readonly hardHoldMs: number;
}

/** What the report has beside what is shown; belongs to the same state of the document. */
export interface Report {
  readonly figures: readonly JudgedFigure[];
  readonly tone: ToneFigures;
}

/** A proposal as the page has it: the low traces of the change come apart. */
export type ShownProposal = Omit<Proposal, 'low'>;

/**
 * What may be done so that kick and bass agree; belongs to the same state of the document as what was shown
 * before it.
 */
export type ShownFit = Omit<Fit, 'proposals' | 'tried'> & {
  readonly proposals: readonly ShownProposal[];
  /** All that was rendered, what makes it worse too. */
  readonly tried: readonly ShownProposal[];
};

/** What is told of a measurement under way, as soon as it is known. */
export type SoundingTold =
  /** The share of the figures that is measured, 0 to 1. */
  | { readonly kind: 'progress'; readonly done: number }
  | { readonly kind: 'look'; readonly look: Look; readonly roses: LineRoses }
  | { readonly kind: 'shown'; readonly shown: Shown }
  | { readonly kind: 'report'; readonly report: Report }
  | { readonly kind: 'roses'; readonly roses: LineRoses }
  /**
   * What is offered so far, the low traces of what was rendered since it was told last, and the share done.
   */
  | {
      readonly kind: 'fit';
      readonly fit: ShownFit;
      readonly lows: readonly (readonly [string, LowTrace])[];
      readonly done: number;
    };
