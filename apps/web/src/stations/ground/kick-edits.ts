import {
  BEATS_PER_BAR,
  KEY_NAMES,
  noteToHz,
  TICKS_PER_BEAT,
  withTailTuned,
  type Kick,
  type SoundDocument,
} from '@abyssal/core';

const EVEN = 108;

/** The root of the sound's key in the octave nearest to a frequency, in hertz. */
export function rootNear(document: SoundDocument, hz: number): number {
  const root = noteToHz(24 + KEY_NAMES.indexOf(document.ground.key), document.ground.a4Hz);
  return root * 2 ** Math.round(Math.log2(hz / root));
}

const RATE = 48000;

/**
 * The kick with its tail, found at `tailHz`, on the root of the key; null where that is too far. A made kick
 * is rendered on the way, a WAV is tuned by what is lacking.
 */
export function tailOnRoot(document: SoundDocument, tailHz: number): Kick | null {
  return withTailTuned(document, tailHz, rootNear(document, tailHz), RATE)?.kick ?? null;
}

/** Common ways in which a kick falls, as beats of one bar. */
export const STARTS: readonly { readonly name: string; readonly beats: readonly number[] }[] = [
  { name: 'every beat', beats: [0, 1, 2, 3] },
  { name: 'half-time', beats: [0] },
  { name: 'broken', beats: [0, 2.5] },
];

/** The hits of a common start over so many bars. */
export function startHits(beats: readonly number[], bars: number): Kick['hits'] {
  return Array.from({ length: bars }, (_, bar) =>
    beats.map((beat) => ({
      tick: Math.round((bar * BEATS_PER_BAR + beat) * TICKS_PER_BEAT),
      velocity: EVEN,
    })),
  ).flat();
}

/**
 * The frame nearest to `frame`, within `reach` frames, at which a signal passes through zero; `frame` itself
 * where it does not.
 */
export function nearestCrossing(signal: ArrayLike<number>, frame: number, reach: number): number {
  for (let d = 0; d <= reach; d++) {
    for (const at of [frame - d, frame + d]) {
      if (at < 1 || at >= signal.length) continue;
      if (signal[at] === 0 || signal[at - 1] * signal[at] < 0)
        return Math.abs(signal[at - 1]) < Math.abs(signal[at]) ? at - 1 : at;
    }
  }
  return Math.max(0, Math.min(signal.length, frame));
}
