import type { SoundDocument } from '../document/index.js';
import { BLOCK } from './chunk.js';
import { Ducker, duckGain } from './duck.js';
import { DuckStage } from './duck-stage.js';
import { DUCK, eventList } from './events.js';
import { backingRecordings } from './backing-player.js';
import { followsLevel } from './instrument.js';
import { kickRecordingOf } from './kick/kick-recording.js';
import { KICK_DELAY } from './mix.js';
import type { Assets } from './recording.js';
import { SideChain } from './side-chain.js';

/** A loop of a bass as it was ducked, and the gain of the ducking every block. */
export interface Ducked { readonly bass: Float32Array; readonly gains: Float32Array }

/**
 * Ducks a loop of a bass that was rendered without ducking, in mono, as the engine would on lows or a filter: for trying many settings upon one render. Hard ducking is left to the engine: it
 * measures the kick first. Run twice round; the second is kept.
 */
export function duckAlone(document: SoundDocument, bass: ArrayLike<number>, sampleRateHz: number, assets: Assets = new Map()): Ducked {
  const events = eventList(document, sampleRateHz);
  const loop = events.loopFrames;
  const side = followsLevel(document) ? new SideChain(document, kickRecordingOf(document, assets, sampleRateHz), backingRecordings(document, assets, sampleRateHz), sampleRateHz) : null;
  const ducker = new Ducker(document.duck, sampleRateHz);
  const stage = new DuckStage(document.duck, sampleRateHz);
  const block = new Float64Array(BLOCK);
  const out = new Float32Array(loop);
  const gains = new Float32Array(Math.ceil(loop / BLOCK)).fill(1);
  for (let round = 0; round < 2; round++) {
    let event = 0;
    for (let at = 0; at < loop;) {
      for (; event < events.frame.length && events.frame[event] <= at; event++) {
        if (events.type[event] !== DUCK) continue;
        side?.begin(events.velocity[event]);
        ducker.hit();
      }
      let next = event;
      while (next < events.frame.length && events.type[next] !== DUCK) next++;
      const until = next < events.frame.length ? Math.max(at + 1, events.frame[next]) : loop;
      const frames = Math.min(until - at, loop - at, BLOCK);
      side?.render(frames);
      if (side) ducker.follow(side.left, side.right, side.silent, frames);
      ducker.step(frames);
      // The bass comes out of the clip so much later than its notes begin, and is ducked after it.
      for (let i = 0; i < frames; i++) block[i] = bass[(at + i - KICK_DELAY + loop) % loop];
      stage.process(block, block, false, frames, ducker.share);
      for (let i = 0; i < frames; i++) out[(at + i - KICK_DELAY + loop) % loop] = block[i];
      gains[Math.floor(at / BLOCK)] = duckGain(document.duck, ducker.share[0]);
      at += frames;
    }
  }
  return { bass: out, gains };
}
