import type { SoundDocument } from '../document/index.js';
import { lowsRunFree, runsFree, type Assets, type LayerCache } from '../engine/index.js';
import { kickFigures, lineLock, type KickFigures, type LineLock, type NoteLock } from '../figures/index.js';
import { againstWords, hitsWords, whyWords } from './fit-words.js';
import { measureLineSteps, type MeasuredLine } from './measured-line.js';
import type { Draft, Proposal } from './proposal.js';
import { ranked, settles } from './ranking.js';
import { MOST_LOWS_DB, takesOf, takesWords } from './takes.js';

/** What is offered so that bass and kick agree, best first, and how they stand before. */
export interface Fit {
  readonly before: LineLock;
  /** How they stand and why, in words. */
  readonly why: string;
  /** What is offered, best first. */
  readonly proposals: readonly Proposal[];
  /** All that was rendered, what makes it worse too. */
  readonly tried: readonly Proposal[];
  /**
   * What stands against an answer, and what to change by hand, where none of them makes every hit add or
   * keeps it apart for less than 6 dB of the lows; else null.
   */
  readonly against: string | null;
}

/**
 * How far a fit has come: the share done, and what is offered so far, which changes only when something was
 * measured.
 */
export interface FitProgress {
  readonly done: number;
  readonly soFar: Fit | null;
}

/**
 * Rate at which proposals are rendered, from the last moment at which no note sounds: what stands below
 * Lock's frequency is within 0.03 dB of a whole render at 48 kHz on the demo's sounds, and there four times
 * sooner.
 */
const RATE_HZ = 24000;
/**
 * How a line stands for being bettered: two without a common phase, or kept apart, count as neither gained
 * nor lost.
 */
function standing({ worstSumGainDb, keptApart, oneWave, withoutPhase }: LineLock): number | null {
  if (worstSumGainDb === null) return keptApart + oneWave + withoutPhase > 0 ? 0 : null;
  return withoutPhase > 0 ? Math.min(0, worstSumGainDb) : worstSumGainDb;
}

function gainOf(before: LineLock, after: LineLock): number {
  const [was, is] = [standing(before), standing(after)];
  return was === null || is === null ? 0 : is - was;
}

/** Renders and measures drafts of one sound, and gathers what is found. */
export class Trials {
  readonly tried: Proposal[] = [];
  readonly kick: KickFigures;
  private readonly why: string;
  /** Layers as they are, for changes that leave them so. */
  private readonly cache: LayerCache = new Map();

  constructor(
    readonly document: SoundDocument,
    readonly before: LineLock,
    locks: readonly NoteLock[],
    private readonly base: MeasuredLine,
    private readonly options: { readonly sampleRateHz: number; readonly assets?: Assets },
  ) {
    this.kick = kickFigures(document, options.sampleRateHz, options.assets);
    this.why = whyWords(document, locks, before, this.kick.tail);
  }

  /** What is offered by now. */
  fit(ended: boolean): Fit {
    const { before, tried, document } = this;
    const proposals = ranked(before, tried);
    const answered =
      before.adds ||
      before.meetings === 0 ||
      proposals.some(({ after, takes }) => settles(after) && takes.lowsDb < MOST_LOWS_DB);
    return {
      before,
      why: this.why,
      proposals,
      tried: [...tried],
      against: ended && !answered ? againstWords(this.kick.tail, lowsRunFree(document)) : null,
    };
  }

  *measure({ steps, title, costs, document }: Draft, done: number): Generator<FitProgress, Proposal> {
    const { sampleRateHz, assets } = this.options;
    const same =
      document.layers === this.document.layers &&
      document.line === this.document.line &&
      document.lock === this.document.lock;
    const line = yield* quietly(
      measureLineSteps(document, { ...rendering(document, assets), cache: same ? this.cache : undefined }),
      done,
    );
    const after = lineLock(document, line.locks);
    const kick =
      document.kick === this.document.kick ? this.kick : kickFigures(document, sampleRateHz, assets);
    const takes = takesOf(this.document, document, this.base, line, { before: this.kick, after: kick });
    const proposal = {
      steps,
      id: steps.join('-'),
      title,
      document,
      costText: [...costs, ...takesWords(takes)].join('; '),
      takes,
      after,
      gainDb: gainOf(this.before, after),
      says: hitsWords(after),
      low: { kick: line.kick, bass: line.bass },
    };
    this.tried.push(proposal);
    yield { done, soFar: this.fit(false) };
    return proposal;
  }

  /** Measures drafts one after the other, from one share of the work to another. */
  *measureAll(drafts: readonly Draft[], from: number, to: number): Generator<FitProgress, void> {
    for (let d = 0; d < drafts.length; d++)
      yield* this.measure(drafts[d], from + ((to - from) * d) / drafts.length);
  }
}

/** How a proposal is rendered; what runs free is run for a whole round before. */
export const rendering = (document: SoundDocument, assets?: Assets) => ({
  sampleRateHz: RATE_HZ,
  assets,
  brief: !runsFree(document),
});

/** Steps that tell nothing but that they go on. */
export function* quietly<T>(steps: Generator<unknown, T>, done: number): Generator<FitProgress, T> {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    yield { done, soFar: null };
  }
}
