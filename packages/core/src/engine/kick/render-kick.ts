import { BLOCK } from '../../dsp/index.js';
import type { Kick, SoundDocument } from '../../document/index.js';
import { dbToGain } from '../../units/index.js';
import type { Assets, Recording, Stereo } from '../base/recording.js';
import { kickRecordingOf } from './kick-recording.js';
import { KickPlayer } from './kick-player.js';

/** Frames that one hit of a kick lasts, with its click; `recording` is its own at the sample rate. */
export function kickFrames(
  { source, made }: Kick,
  recording: Recording | null,
  sampleRateHz: number,
): number {
  if (source === 'wav') return recording?.channels[0].length ?? 0;
  return Math.ceil(
    (Math.min(made.lengthMs, Math.max(made.holdMs + made.decayMs, made.clickMs)) / 1000) * sampleRateHz,
  );
}

/**
 * One hit of the kick alone at full velocity, from its first to its last sample, with its levels; at most 20
 * s.
 */
export function renderKick(
  document: SoundDocument,
  sampleRateHz: number,
  assets: Assets = new Map(),
): Stereo {
  const { kick } = document;
  const recording = kickRecordingOf(document, assets, sampleRateHz);
  const length = Math.min(20 * sampleRateHz, kickFrames(kick, recording, sampleRateHz));
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
