import type { Duck, SoundDocument } from '../document/index.js';
import { duckAlone, duckGains, hitTicks, renderLoop, runsFree, type Assets } from '../engine/index.js';
import { ADDS_DB, everyMeetingAdds } from '../figures/index.js';
import { lowBand, type LowBand } from '../lock/index.js';
import { middle } from '../measure/index.js';
import { loopTicks, ticksToSeconds } from '../units/index.js';
import { LOW_RATE_HZ } from './turned-lows.js';

/**
 * Ducking on the lows alone, from a clean start: as deep as it is set where fundamentals are, and no higher;
 * down and back fast enough for a kick, slowly enough for a sub.
 */
const LOWS: Omit<Duck, 'on' | 'by'> = {
  from: 'kick',
  acts: 'low',
  curve: 'exponential',
  hard: false,
  amountDb: 40,
  belowHz: 90,
  attackMs: 4,
  holdMs: 0,
  returnMs: 25,
  bend: 0,
  lookAheadMs: 6,
  thresholdDb: -24,
  ratio: 20,
};
const DEEPEST_DB = 40;
/** Thresholds between which is looked, dB; steps in which threshold, hold and depth are found. */
const THRESHOLDS_DB = [-50, 0] as const;
const STEPS = { thresholdDb: 1, holdMs: 6, amountDb: 1 };
const LONGEST_HOLD_MS = 500;
/** By this share a hold is made longer than it must be at the deepest: it then need not go so deep. */
const LONGER = 0.12;
/** Most steps by which what the bisection found is made harsher. */
const MOST_HARSHER = 6;
/** The bass counts as held down while it stands so much lower or more, as a gain. */
const DOWN = 0.5;

/** A bass without ducking, in mono and below Lock's frequency, and the kick below it. */
export interface Unducked {
  readonly bass: Float32Array;
  readonly low: LowBand;
  readonly kick: LowBand;
}

/** Renders what ducking is to be tried on. */
export function unduckedOf(document: SoundDocument, assets?: Assets): Unducked {
  const { kick, bass } = renderLoop(
    { ...document, duck: { ...document.duck, on: false } },
    { sampleRateHz: LOW_RATE_HZ, assets, stems: 'none', brief: !runsFree(document) },
  );
  const low = (audio: Float32Array) => lowBand(audio, LOW_RATE_HZ, document.lock.belowHz, true);
  const mono = middle([bass.left, bass.right]);
  return { bass: mono, low: low(mono), kick: low(middle([kick.left, kick.right])) };
}

/** A sound with ducking that was found, and for what share of the time it holds the bass down. */
export interface FoundDuck {
  readonly document: SoundDocument;
  readonly downShare: number;
}

/**
 * The least of the steps from `least` to `most` that does, by bisection; null where not even the most does.
 * What does is taken to go on doing so.
 */
function* leastThat(
  least: number,
  most: number,
  step: number,
  does: (value: number) => boolean,
): Generator<void, number | null> {
  let low = -1;
  let high = Math.ceil((most - least) / step);
  const value = (k: number) => Math.min(most, least + k * step);
  if (!does(value(high))) return null;
  while (high - low > 1) {
    yield;
    const middle = Math.floor((low + high) / 2);
    if (does(value(middle))) high = middle;
    else low = middle;
  }
  return value(high);
}

/** Time between the two hits that come closest upon each other, in ms. */
function closestHitsMs({ kick, ground }: SoundDocument): number {
  const loop = loopTicks(ground.bars);
  const ticks = hitTicks(kick).sort((a, b) => a - b);
  const gaps = ticks
    .map((tick, i) => (i === 0 ? tick + loop - ticks[ticks.length - 1] : tick - ticks[i - 1]))
    .filter((gap) => gap > 1);
  return 1000 * ticksToSeconds(Math.min(loop, ...gaps), ground.tempoBpm);
}

/**
 * Settings that are tried, and what they are made to be one step harsher: longer or deeper than what the
 * bisection found.
 */
type Tried = Pick<Duck, 'thresholdDb' | 'holdMs' | 'amountDb'>;

/**
 * The gentlest ducking of the lows under the kick after which every meeting adds or is kept apart: by the
 * kick's level, as high a threshold and as little depth as will do, or by its beats, as short a
 * hold and as little depth. Both are found by bisection on the low band alone, lowered by the gain of the
 * ducking; what is found is tried on the render itself, and made harsher step by step until it does.
 * Null where it does not do at its deepest and longest.
 */
export function* duckSteps(
  document: SoundDocument,
  by: Duck['by'],
  { bass, low, kick }: Unducked,
  assets?: Assets,
): Generator<void, FoundDuck | null> {
  const withDuck = (duck: Partial<Tried>): SoundDocument => ({
    ...document,
    duck: { ...LOWS, ...duck, on: true, by },
  });
  const adds = (changed: SoundDocument, ducked: LowBand) => everyMeetingAdds(changed, kick, ducked, ADDS_DB);
  const does = (duck: Partial<Tried>) => {
    const changed = withDuck(duck);
    const gains = duckGains(changed, low.re.length, LOW_RATE_HZ, assets);
    return adds(changed, {
      ...low,
      re: low.re.map((x, i) => x * gains[i]),
      im: low.im.map((x, i) => x * gains[i]),
    });
  };
  const longestMs = Math.min(LONGEST_HOLD_MS, closestHitsMs(document) - LOWS.attackMs - LOWS.returnMs);
  const [lowestDb, highestDb] = THRESHOLDS_DB;
  let length: Pick<Tried, 'thresholdDb' | 'holdMs'>;
  if (by === 'level') {
    const under = yield* leastThat(-highestDb, -lowestDb, STEPS.thresholdDb, (db) =>
      does({ thresholdDb: -db }),
    );
    if (under === null) return null;
    length = { thresholdDb: Math.max(lowestDb, -under - STEPS.thresholdDb), holdMs: 0 };
  } else {
    const hold =
      longestMs <= 0
        ? null
        : yield* leastThat(0, longestMs, STEPS.holdMs, (holdMs) => does({ holdMs: Math.round(holdMs) }));
    if (hold === null) return null;
    length = {
      thresholdDb: LOWS.thresholdDb,
      holdMs: Math.round(Math.min(longestMs, hold + Math.max(STEPS.holdMs, LONGER * (hold + LOWS.attackMs)))),
    };
  }
  const depth = yield* leastThat(3, DEEPEST_DB, STEPS.amountDb, (amountDb) => does({ ...length, amountDb }));
  let settings: Tried = { ...length, amountDb: Math.min(DEEPEST_DB, (depth ?? DEEPEST_DB) + STEPS.amountDb) };
  const doesAlone = (tried: Tried) => {
    const changed = withDuck(tried);
    return adds(
      changed,
      lowBand(duckAlone(changed, bass, LOW_RATE_HZ, assets), LOW_RATE_HZ, document.lock.belowHz, true),
    );
  };
  for (let harsher = 0; harsher < MOST_HARSHER && !doesAlone(settings); harsher++) {
    yield;
    settings = {
      amountDb: Math.min(DEEPEST_DB, settings.amountDb + 2 * STEPS.amountDb),
      thresholdDb:
        by === 'level' ? Math.max(lowestDb, settings.thresholdDb - STEPS.thresholdDb) : settings.thresholdDb,
      holdMs:
        by === 'beats' ? Math.round(Math.min(longestMs, settings.holdMs + STEPS.holdMs)) : settings.holdMs,
    };
    // What was made longer need not go as deep as it was made beside that.
    for (
      let gentler = settings;
      doesAlone(gentler);
      gentler = { ...gentler, amountDb: gentler.amountDb - 2 * STEPS.amountDb }
    ) {
      settings = gentler;
      yield;
    }
  }
  const found = withDuck(settings);
  const gains = duckGains(found, low.re.length, LOW_RATE_HZ, assets);
  return {
    document: found,
    downShare: gains.reduce((count, gain) => count + (gain < DOWN ? 1 : 0), 0) / gains.length,
  };
}
