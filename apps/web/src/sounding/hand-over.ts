import type { CachedLayer, Stereo, ToneSignals } from '@abyssal/core';
import { transfer } from 'comlink';

/**
 * A message to another worker with which these samples go over: they are gone here. What is to stay is copied first, which
 * takes a part of the time in which its samples would be written into the message and read out of it.
 */
export function handOver<T>(message: T, samples: readonly (Float32Array | Float64Array | null)[]): T {
  const buffers = samples.flatMap((each) => (each ? [each.buffer as ArrayBuffer] : []));
  return transfer(message, [...new Set(buffers)]);
}

function copyOf({ left, right }: Stereo): Stereo {
  const copy = left.slice();
  return { left: copy, right: right === left ? copy : right.slice() };
}

const sides = ({ left, right }: Stereo) => [left, right];

/** A layer to be handed over by one who keeps it as well. */
export const copyOfLayer = ({ name, entry: { key, audio } }: CachedLayer): CachedLayer => ({
  name,
  entry: { key, audio: { ...audio, ...copyOf(audio) } },
});

/** The samples of a layer. */
export const samplesOfLayer = ({ entry }: CachedLayer): Float32Array[] => sides(entry.audio);

/** A copy of a loop that goes over to another worker: what it has beyond what is looked at there stays here. */
export function loopToHandOver({
  sampleRateHz,
  frames,
  kick,
  bass,
  backing,
  moved,
}: ToneSignals): ToneSignals {
  const loop = {
    sampleRateHz,
    frames,
    kick: copyOf(kick),
    bass: copyOf(bass),
    backing: backing && copyOf(backing),
    moved,
  };
  return handOver(loop, [
    ...sides(loop.kick),
    ...sides(loop.bass),
    ...(loop.backing ? sides(loop.backing) : []),
  ]);
}
