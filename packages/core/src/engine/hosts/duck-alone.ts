import { BLOCK, STEP } from '../../dsp/index.js';
import type { SoundDocument } from '../../document/index.js';
import { backingRecordings } from '../backing/backing-player.js';
import { Ducker, duckGain } from '../mix/duck.js';
import { DuckStage } from '../mix/duck-stage.js';
import { DUCK, eventList } from './events.js';
import { kickRecordingOf } from '../kick/kick-recording.js';
import type { Assets } from '../base/recording.js';
import { followsLevel, SideChain } from '../mix/side-chain.js';

/**
 * Runs the ducking of a sound by itself over its loop, twice round, in blocks of at most `most` frames:
 * `step` is told where each begins, its length, and the share of the depth at its end.
 */
function runDucking(
  document: SoundDocument,
  sampleRateHz: number,
  assets: Assets,
  most: number,
  step: (at: number, frames: number, share: Float64Array) => void,
): void {
  const events = eventList(document, sampleRateHz);
  const loop = events.loopFrames;
  const begins = Array.from(events.frame.keys()).filter((e) => events.type[e] === DUCK);
  const side = followsLevel(document)
    ? new SideChain(
        document,
        kickRecordingOf(document, assets, sampleRateHz),
        backingRecordings(document, assets, sampleRateHz),
        sampleRateHz,
      )
    : null;
  const ducker = new Ducker(document.duck, sampleRateHz);
  for (let round = 0; round < 2; round++) {
    let next = 0;
    for (let at = 0; at < loop;) {
      for (; next < begins.length && events.frame[begins[next]] <= at; next++) {
        side?.begin(events.velocity[begins[next]]);
        ducker.hit();
      }
      const frames = Math.min(
        next < begins.length ? events.frame[begins[next]] - at : loop - at,
        loop - at,
        most,
      );
      side?.render(frames);
      if (side) ducker.follow(side.left, side.right, side.silent, frames);
      ducker.step(frames);
      step(at, frames, ducker.share);
      at += frames;
    }
  }
}

/**
 * The gain of a sound's ducking over its loop, whatever it acts on, as `count` values evenly spaced. Hard
 * ducking is left to the engine: it measures the kick first.
 */
export function duckGains(
  document: SoundDocument,
  count: number,
  sampleRateHz: number,
  assets: Assets = new Map(),
): Float32Array {
  const gains = new Float32Array(count);
  const { loopFrames } = eventList(document, sampleRateHz);
  runDucking(document, sampleRateHz, assets, STEP, (at, frames, share) => {
    const gain = duckGain(document.duck, share[0]);
    const from = Math.ceil((at * count) / loopFrames);
    const to = Math.ceil(((at + frames) * count) / loopFrames);
    for (let k = from; k < to; k++) gains[k] = gain;
  });
  return gains;
}

/**
 * Ducks a loop of a bass that was rendered without ducking, in mono, as the engine does on the lows: for
 * trying settings upon one render.
 */
export function duckAlone(
  document: SoundDocument,
  bass: ArrayLike<number>,
  sampleRateHz: number,
  assets: Assets = new Map(),
): Float32Array {
  const loop = bass.length;
  const stage = new DuckStage(document.duck, sampleRateHz);
  const block = new Float64Array(BLOCK);
  const out = new Float32Array(loop);
  runDucking(document, sampleRateHz, assets, BLOCK, (at, frames, share) => {
    for (let i = 0; i < frames; i++) block[i] = bass[at + i];
    stage.process(block, block, false, frames, share);
    for (let i = 0; i < frames; i++) out[at + i] = block[i];
  });
  return out;
}
