import {
  numbersOfUnit,
  type ChainFile,
  type GritUnit,
  type UnitKind,
  type UnitOf,
} from '../document/index.js';
import type { UnitHears, UnitStart } from '../kinds/units/index.js';
import { runGrit } from '../engine/hosts/grit-run.js';
import { readChainFile } from '../formats/chain-file.js';
import { RATE } from './signals.js';

type Channels = readonly ArrayLike<number>[];
const channelsOf = (signal: ArrayLike<number> | Channels): Channels =>
  typeof signal[0] === 'number' ? [signal as ArrayLike<number>] : (signal as Channels);

export interface ThroughOptions {
  readonly rate?: number;
  readonly tempoBpm?: number;
  readonly seed?: number;
}

/** What comes of one or two channels through units that are given as a chain file has them. */
export function through(
  signal: ArrayLike<number> | Channels,
  units: readonly object[],
  { rate = RATE, tempoBpm = 140, seed = 1 }: ThroughOptions = {},
): Float32Array[] {
  const chain = readChainFile(JSON.stringify({ format: 'abyssal.chain', formatVersion: 1, units }));
  return runGrit(chain, channelsOf(signal), { sampleRateHz: rate, tempoBpm, seed });
}

/** The same through bands. */
export function throughBands(
  signal: ArrayLike<number> | Channels,
  section: object,
  { rate = RATE, seed = 1 }: ThroughOptions = {},
): Float32Array[] {
  const grit = readChainFile(JSON.stringify({ format: 'abyssal.grit', formatVersion: 1, ...section }));
  return runGrit(grit, channelsOf(signal), { sampleRateHz: rate, seed });
}

/** A unit as a chain file has it, whole. */
export function unitOf<K extends UnitKind>(kind: K, settings: object = {}): UnitOf<K> {
  const chain = readChainFile(
    JSON.stringify({ format: 'abyssal.chain', formatVersion: 1, units: [{ kind, ...settings }] }),
  ) as ChainFile;
  return chain.units[0] as UnitOf<K>;
}

/** The numbers of a unit as its runner reads them. */
export const numbersFor = (unit: GritUnit) => Float64Array.from(numbersOfUnit(unit), ({ value }) => value);

/** What a unit is set going with by itself, in mono, hearing what it is given. */
export const aloneWith = (hears: Partial<UnitHears> = {}): UnitStart => ({
  sampleRateHz: RATE,
  seed: 1,
  stereo: false,
  hears: {
    hz: new Float64Array(1),
    tempo: Float64Array.of(140),
    ahead: Float64Array.of(Infinity),
    side: () => null,
    ...hears,
  },
});

/** The middle of two channels. */
export const middleOf = ([left, right = left]: Channels) =>
  Float64Array.from(left, (x, i) => (x + right[i]) / 2);
export const rmsOf = (signal: ArrayLike<number>) => {
  let sum = 0;
  for (let i = 0; i < signal.length; i++) sum += signal[i] ** 2;
  return Math.sqrt(sum / signal.length);
};
