import { CHAIN_FORMAT, CHAIN_VERSION, type ChainFile, type GritUnit } from '../document/index.js';
import { runGrit, type GritRunOptions } from '../engine/index.js';
import { crestDb, measureLoudness } from '../measure/index.js';

/** How loud a signal is and how far its peak stands above its mean; null where it is silent. */
export interface UnitLevel {
  readonly loudnessLufs: number | null;
  readonly crestDb: number | null;
}

/** A unit with what goes into it and what comes out. */
export interface MeasuredUnit {
  readonly id: string;
  readonly before: UnitLevel;
  readonly after: UnitLevel;
}

const finite = (value: number) => (Number.isFinite(value) ? value : null);

/** How loud channels are, and their crest; one channel sounds on both sides. */
export function levelOf(channels: readonly Float32Array[], sampleRateHz: number): UnitLevel {
  const both = channels.length === 1 ? [channels[0], channels[0]] : channels;
  return {
    // Shorter than a momentary block nothing is loud.
    loudnessLufs: measureLoudness({ channels: both, sampleRateHz }).integrated.value,
    crestDb: finite(crestDb(channels)),
  };
}

const alone = (unit: GritUnit): ChainFile => ({
  format: CHAIN_FORMAT,
  formatVersion: CHAIN_VERSION,
  name: '',
  units: [unit],
  figures: null,
});

/** Runs audio through one unit. */
export const throughUnit = (unit: GritUnit, channels: readonly Float32Array[], options: GritRunOptions) =>
  runGrit(alone(unit), channels, options);

/** Runs audio, whose level is known, through one unit, and measures what comes out. */
export function measuredThrough(
  unit: GritUnit,
  channels: readonly Float32Array[],
  before: UnitLevel,
  options: GritRunOptions,
): { readonly out: readonly Float32Array[]; readonly measured: MeasuredUnit } {
  const out = throughUnit(unit, channels, options);
  return { out, measured: { id: unit.id, before, after: levelOf(out, options.sampleRateHz) } };
}

/**
 * Level and crest of every unit of a chain, in and out, over the audio that goes in: integrated loudness (ITU-R
 * BS.1770-5) and sample peak over RMS. A unit that is off changes nothing.
 */
export function measureUnits(
  units: readonly GritUnit[],
  channels: readonly Float32Array[],
  options: GritRunOptions,
): MeasuredUnit[] {
  let audio = channels;
  let before = levelOf(audio, options.sampleRateHz);
  return units.map((unit) => {
    const { out, measured } = measuredThrough(unit, audio, before, options);
    audio = out;
    before = measured.after;
    return measured;
  });
}

const LEAST_LEVEL_DB = -48;
const MOST_LEVEL_DB = 24;

/**
 * The level at which a unit is as loud behind it as in front of it, as it was measured; its own where nothing was
 * heard on either side.
 */
export function matchedLevelDb({ levelDb }: GritUnit, { before, after }: MeasuredUnit): number {
  if (before.loudnessLufs === null || after.loudnessLufs === null) return levelDb;
  const wanted = levelDb + before.loudnessLufs - after.loudnessLufs;
  return Number(Math.min(MOST_LEVEL_DB, Math.max(LEAST_LEVEL_DB, wanted)).toFixed(2));
}
