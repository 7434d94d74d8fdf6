import type { SoundDocument, UnitPlace } from '../../document/index.js';
import type { Mix } from '../mix/mix.js';
import { ChainRun } from '../units/chain-run.js';
import { chainKeys } from './rebuild-keys.js';

/** What a chain of grit gave over a whole run. */
export interface KeptChain {
  /** What of the document it depends on, and how it was rendered. */
  readonly key: string;
  readonly made: string;
  readonly sides: readonly Float64Array[];
}

/**
 * What chains gave in renders before, kept from one render to the next, so that units whose input and numbers did not
 * change need not be run again.
 */
export type ChainCache = Map<string, KeptChain>;

/** The most that a cache holds, in bytes; what goes beyond it is run again each time. */
const MOST_BYTES = 128 * 2 ** 20;

const placeName = (place: UnitPlace) => (place.in === 'band' ? `band ${place.id}` : place.in);

const bytesOf = ({ sides }: KeptChain) => sides.reduce((sum, side) => sum + side.byteLength, 0);

/** How a run is made. */
export interface RunMade {
  readonly pass: number;
  readonly sampleRateHz: number;
  /** Where in the loop it begins, and its frames. */
  readonly start: number;
  readonly frames: number;
  /** The chain that must run because it is written down unit by unit; null where there is none. */
  readonly taped: UnitPlace | null;
}

/** Where grit has chains. */
const placesOf = ({ grit }: SoundDocument): UnitPlace[] => [
  { in: 'clean path' },
  ...grit.bands.map(({ id }) => ({ in: 'band' as const, id })),
  { in: 'after' },
];

/**
 * Has the chains of a mix that is about to run played back from a cache where they did not change, and written down where
 * they did. What is returned puts these into the cache, once the run is through.
 */
export function keepChains(document: SoundDocument, mix: Mix, cache: ChainCache, run: RunMade): () => void {
  const written: { name: string; kept: KeptChain }[] = [];
  let bytes = [...cache.values()].reduce((sum, kept) => sum + bytesOf(kept), 0);
  const keyOf = chainKeys(document);
  const made = [run.sampleRateHz, run.start, run.frames, mix.stereo].join(' ');
  for (const place of placesOf(document)) {
    const chain = mix.chainAt(place);
    if (!chain || chain.empty || (run.taped && placeName(run.taped) === placeName(place))) continue;
    const name = `${placeName(place)} ${run.pass}`;
    const key = keyOf(place);
    const before = cache.get(name);
    if (before?.key === key && before.made === made) {
      chain.follow(new ChainRun(before.sides, true));
      continue;
    }
    const needs = (chain.stereo ? 2 : 1) * run.frames * Float64Array.BYTES_PER_ELEMENT;
    bytes += needs - (before ? bytesOf(before) : 0);
    if (bytes > MOST_BYTES) {
      cache.delete(name);
      bytes -= needs;
      continue;
    }
    const sides = Array.from({ length: chain.stereo ? 2 : 1 }, () => new Float64Array(run.frames));
    chain.follow(new ChainRun(sides, false));
    written.push({ name, kept: { key, made, sides } });
  }
  return () => {
    for (const { name, kept } of written) cache.set(name, kept);
  };
}
