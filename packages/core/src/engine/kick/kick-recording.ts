import type { SoundDocument, WavKick } from '../../document/index.js';
import { resample } from '../../dsp/index.js';
import { atEngineRate, type Assets, type Recording } from '../base/recording.js';

/**
 * Greatest part of the ratio by which a recording is retuned: it is then met within a twentieth of a cent up
 * to an octave, and a third of one up to two.
 */
const FINEST = 1200;

/** The fraction nearest to a ratio whose parts are at most `FINEST`. */
export function fractionOf(ratio: number): { up: number; down: number } {
  let best = { up: 1, down: 1 };
  let least = Infinity;
  for (let down = 1; down <= FINEST; down++) {
    const up = Math.round(ratio * down);
    if (up < 1 || up > FINEST) continue;
    const error = Math.abs(Math.log(up / down / ratio));
    if (error < least - 1e-12) {
      least = error;
      best = { up, down };
    }
  }
  return best;
}

function prepare(recording: Recording, { startMs, endMs, fadeMs, retuneSt }: WavKick): Recording {
  const { sampleRateHz, channels } = recording;
  const from = Math.min(channels[0].length, Math.round((startMs / 1000) * sampleRateHz));
  const to = Math.min(channels[0].length, Math.round((endMs / 1000) * sampleRateHz));
  const trimmed = channels.map((channel) => {
    const part = channel.slice(from, Math.max(from, to));
    if (to >= channel.length) return part;
    const fade = Math.min(part.length, Math.round((fadeMs / 1000) * sampleRateHz));
    // Without corners at either end: a fade in the midst of a tail is not to be heard as one.
    for (let i = 0; i < fade; i++) part[part.length - 1 - i] *= (i / fade) ** 2 * (3 - (2 * i) / fade);
    return part;
  });
  if (retuneSt === 0) return { sampleRateHz, channels: trimmed };
  // Played so much faster, it has so many fewer frames.
  const { up, down } = fractionOf(2 ** (-retuneSt / 12));
  return {
    sampleRateHz,
    channels: trimmed.map((channel) => (channel.length === 0 ? channel : resample(channel, down, up))),
  };
}

const prepared = new WeakMap<Recording, Map<string, Recording>>();
/** Settings for which a recording is kept prepared: dragging a trim must not fill the memory. */
const KEPT = 6;

/** A recording trimmed and retuned at the engine's rate; made once for the same settings. */
export function preparedRecording(recording: Recording, wav: WavKick, sampleRateHz: number): Recording {
  const at = atEngineRate(recording, sampleRateHz);
  let kept = prepared.get(at);
  if (!kept) prepared.set(at, (kept = new Map<string, Recording>()));
  const key = `${wav.startMs} ${wav.endMs} ${wav.fadeMs} ${wav.retuneSt}`;
  let found = kept.get(key);
  if (!found) {
    if (kept.size >= KEPT) kept.clear();
    kept.set(key, (found = prepare(at, wav)));
  }
  return found;
}

/**
 * What a kick plays of recordings: itself, or the one of its click; null where it needs none, or the
 * recording is not there.
 */
export function kickRecordingOf(
  { kick }: SoundDocument,
  assets: Assets,
  sampleRateHz: number,
): Recording | null {
  if (kick.source === 'wav') {
    const found = kick.wav ? assets.get(kick.wav.asset) : undefined;
    return found ? preparedRecording(found, kick.wav!, sampleRateHz) : null;
  }
  const found =
    kick.made.click === 'sample' && kick.made.clickWav ? assets.get(kick.made.clickWav.asset) : undefined;
  return found ? atEngineRate(found, sampleRateHz) : null;
}
