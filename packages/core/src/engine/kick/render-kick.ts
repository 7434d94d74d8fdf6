import type { SoundDocument } from '../../document/index.js';
import { dbToGain } from '../../units/index.js';
import { BLOCK } from '../chunk.js';
import type { Assets, Stereo } from '../recording.js';
import { kickRecordingOf } from './kick-recording.js';
import { KickPlayer } from './kick-player.js';

/** One hit of the kick alone at full velocity, from its first to its last sample, with its levels; at most 20 s. */
export function renderKick(document: SoundDocument, sampleRateHz: number, assets: Assets = new Map()): Stereo {
  const { kick } = document;
  const recording = kickRecordingOf(document, assets, sampleRateHz);
  const longest = 20 * sampleRateHz;
  const length = kick.source === 'wav'
    ? Math.min(longest, recording?.channels[0].length ?? 0)
    : Math.ceil((Math.min(kick.made.lengthMs, Math.max(kick.made.holdMs + kick.made.decayMs, kick.made.clickMs)) / 1000) * sampleRateHz);
  const player = new KickPlayer(kick, recording, sampleRateHz, document.seed, 0);
  const left = new Float32Array(length);
  const right = player.stereo ? new Float32Array(length) : left;
  const gain = dbToGain(kick.levelDb + (kick.source === 'wav' && kick.wav ? kick.wav.gainDb : 0));
  player.hit(127);
  for (let at = 0; at < length; at += BLOCK) {
    const frames = Math.min(BLOCK, length - at);
    player.render(frames);
    if (player.silent) break;
    for (let i = 0; i < frames; i++) {
      left[at + i] = gain * player.left[i];
      if (player.stereo) right[at + i] = gain * player.right[i];
    }
  }
  return { left, right };
}
