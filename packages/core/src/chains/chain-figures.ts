import type { GritUnit, SoundDocument, UnitPlace } from '../document/index.js';
import { renderLoopSteps, type RenderOptions } from '../engine/index.js';
import { depthSpectrum, middle } from '../measure/index.js';
import { shareOf } from '../units/index.js';
import { levelOf, type MeasuredUnit, type UnitLevel } from './measure-units.js';

/** What lies so far under the loudest band is next to nothing. */
const HEARD_DB = 80;

/** A unit with what it does to the loop. */
export interface UnitFigures extends MeasuredUnit {
  /** By how many dB it raised each band of the depth chart; NaN where next to nothing goes in and comes out. */
  readonly changeDb: Float32Array;
}

/** What the units of a chain do to the loop. */
export interface ChainFigures {
  readonly place: UnitPlace;
  /** Those that are on, in order. */
  readonly units: readonly UnitFigures[];
  /** What goes into the chain, a whole loop of it. */
  readonly input: readonly Float32Array[];
}

/**
 * Renders a loop and measures what each unit of a chain does in it: level and crest in front of it and behind it, as
 * `measureUnits` has them, with all that moves it and with what it listens to. In steps that yield the share done;
 * layers in `options.cache` are not rendered again, but for the one whose own chain is asked for.
 */
export function* chainFigureSteps(
  document: SoundDocument,
  place: UnitPlace,
  options: RenderOptions,
): Generator<number, ChainFigures> {
  const steps = renderLoopSteps(document, { ...options, stems: 'none', taped: place });
  const { tape, frames, sampleRateHz } = yield* shareOf(steps, 0, 0.8);
  if (!tape) return { place, units: [], input: [new Float32Array(frames)] };
  const stages = tape.stages.map(([left, right]) => {
    const sides = [left.subarray(-frames), right.subarray(-frames)];
    return sides[0].every((x, i) => x === sides[1][i]) ? [sides[0]] : sides;
  });
  const levels: UnitLevel[] = [];
  const spectra: Float64Array[] = [];
  for (const stage of stages) {
    levels.push(levelOf(stage, sampleRateHz));
    spectra.push(depthSpectrum(middle(stage), sampleRateHz, true));
    yield 0.8 + (0.2 * levels.length) / stages.length;
  }
  return {
    place,
    units: tape.ids.map((id, u) => ({
      id,
      before: levels[u],
      after: levels[u + 1],
      changeDb: changeOf(spectra[u], spectra[u + 1]),
    })),
    input: stages[0],
  };
}

/** The change from one spectrum to another, where either is heard. */
function changeOf(before: Float64Array, after: Float64Array): Float32Array {
  let loudest = -Infinity;
  for (let b = 0; b < before.length; b++) loudest = Math.max(loudest, before[b], after[b]);
  return Float32Array.from(before, (level, b) =>
    Math.max(level, after[b]) < loudest - HEARD_DB ? NaN : after[b] - level,
  );
}

/** A unit as it is left out of a chain, its way as loud as it was with it: what a comparison at one level hears. */
export function leftOut<U extends GritUnit>(unit: U, { before, after }: MeasuredUnit): U {
  const change =
    before.loudnessLufs === null || after.loudnessLufs === null
      ? 0
      : after.loudnessLufs - before.loudnessLufs;
  return { ...unit, match: false, wetPct: 0, levelDb: Math.min(24, Math.max(-48, change)) };
}
