import type { Ground, SoundDocument } from '../../document/index.js';
import { loopFrames } from '../../units/index.js';
import type { RenderOptions } from './loop-render.js';
import { renderLoopSteps } from './render-loop.js';
import type { Stereo } from '../base/recording.js';

/**
 * One side of a loop of `bars` bars, as often as it takes to fill `rounds` of them; each round begins where
 * its bar does to the frame.
 */
function repeated(loop: Float32Array, rounds: number, frameOfRound: (round: number) => number): Float32Array {
  const out = new Float32Array(frameOfRound(rounds));
  for (let round = 0; round < rounds; round++) {
    const from = frameOfRound(round);
    // A round may be a frame longer than the loop: it then runs into itself.
    for (let i = from; i < frameOfRound(round + 1); i++) out[i] = loop[(i - from) % loop.length];
  }
  return out;
}

/**
 * The bass of a sound as a backing part of another: its loop at the tempo of that other one, as it sounds
 * beside its own kick (ducked and held under the ceiling) but without it, repeated until it is
 * at least as long. In steps that yield the share done.
 */
export function* renderBackingSteps(
  sound: SoundDocument,
  { tempoBpm, bars }: Pick<Ground, 'tempoBpm' | 'bars'>,
  options: Pick<RenderOptions, 'sampleRateHz' | 'assets'>,
): Generator<number, Stereo> {
  const loop = yield* renderLoopSteps(
    { ...sound, ground: { ...sound.ground, tempoBpm } },
    { ...options, stems: 'none' },
  );
  const rounds = Math.max(1, Math.ceil(bars / sound.ground.bars));
  const side = (samples: Float32Array) =>
    repeated(samples, rounds, (round) =>
      loopFrames(sound.ground.bars * round, tempoBpm, options.sampleRateHz),
    );
  return { left: side(loop.bass.left), right: side(loop.bass.right) };
}
