import {
  cleanFilter,
  cleanLayer,
  cleanSound,
  cleanTone,
  type Layer,
  type SoundDocument,
  type Tone,
} from '../document/index.js';
import { LayerPlayer } from '../engine/layer/layer-player.js';
import type { Assets } from '../engine/base/recording.js';

/**
 * A layer of the given tones (up to three) with nothing else in their way: no filter, no touch, a quick
 * attack.
 */
export function bareLayer(tones: readonly Partial<Tone>[], patch: Partial<Layer> = {}): Layer {
  const layer = cleanLayer('body');
  return {
    ...layer,
    levelDb: 0,
    tones: [0, 1, 2].map((t) => (tones[t] ? cleanTone({ on: true, ...tones[t] }) : cleanTone())),
    filters: [cleanFilter(), cleanFilter()],
    loudness: { ...layer.loudness, attackMs: 0.5, sustainPct: 100 },
    voice: { ...layer.voice, velocityPct: 0 },
    ...patch,
  };
}

export interface NoteOptions {
  readonly pitch?: number;
  readonly seconds?: number;
  readonly sampleRateHz?: number;
  readonly velocity?: number;
  /** When the note ends, in seconds; held to the end where it is not given. */
  readonly offAt?: number;
  readonly seed?: number;
  readonly assets?: Assets;
  readonly document?: Partial<SoundDocument>;
  /** Called between blocks with the time in seconds. */
  readonly between?: (player: LayerPlayer, timeS: number) => void;
}

/** Plays one note on a layer by itself. */
export function playNote(
  layer: Layer,
  {
    pitch = 36,
    seconds = 1,
    sampleRateHz = 48000,
    velocity = 127,
    offAt,
    seed = 1,
    assets = new Map(),
    document = {},
    between,
  }: NoteOptions = {},
) {
  const sound = { ...cleanSound(), layers: [layer], links: [], ...document };
  const player = new LayerPlayer(sound, sound.layers[0], { sampleRateHz, seed, assets });
  const frames = Math.round((seconds * sampleRateHz) / 64) * 64;
  const left = new Float64Array(frames);
  const right = new Float64Array(frames);
  player.noteOn(1, pitch, velocity, false);
  let held = true;
  for (let at = 0; at < frames; at += 64) {
    if (held && offAt !== undefined && at >= offAt * sampleRateHz) {
      player.noteOff(1);
      held = false;
    }
    between?.(player, at / sampleRateHz);
    player.render(64);
    if (player.silent) continue;
    left.set(player.left, at);
    right.set(player.right, at);
  }
  return { left, right, stereo: player.stereo };
}
