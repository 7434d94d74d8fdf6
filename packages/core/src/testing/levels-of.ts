import type { LoopRender } from '../engine/index.js';

const STRETCHES = 12;

/**
 * A fingerprint of a loop: RMS levels in dB of kick and bass in twelve equal stretches, and of their change
 * from sample to sample, which tells dull from bright.
 */
export function levelsOf({ kick, bass, frames }: LoopRender): number[] {
  const level = (samples: ArrayLike<number>, from: number, to: number) => {
    let sum = 0;
    for (let i = from; i < to; i++) sum += samples[i] ** 2;
    return Number((10 * Math.log10(Math.max(1e-9, sum / (to - from)))).toFixed(3));
  };
  return [kick.left, bass.left].flatMap((samples) => {
    const steps = Float64Array.from(samples, (x, i) => (i > 0 ? x - samples[i - 1] : 0));
    return [samples, steps].flatMap((each) =>
      Array.from({ length: STRETCHES }, (_, s) =>
        level(each, Math.floor((s * frames) / STRETCHES), Math.floor(((s + 1) * frames) / STRETCHES)),
      ),
    );
  });
}
