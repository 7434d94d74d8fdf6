import { asBuilt, type SoundDocument } from '../../document/index.js';
import type { Recording } from '../base/recording.js';
import { kickFrames } from '../kick/render-kick.js';
import { isStereo } from '../layer/layer-sides.js';
import { STEMS_SETTLE_S } from '../mix/stem-taps.js';
import { Assembly, seedOf } from './assembly.js';
import { briefStart } from './brief-start.js';
import { eventList, noteMarks, type EventList } from './events.js';
import { HeardTrack, type HeardBlocks } from './heard-track.js';
import type { RenderOptions } from './loop-render.js';

/** What a loop is rendered from: its parts, and the stretch over which they run. */
export interface LoopPlan {
  readonly document: SoundDocument;
  readonly events: EventList;
  readonly assembly: Assembly;
  readonly heard: HeardTrack;
  readonly track: HeardBlocks | null;
  /** Where the first round begins, the frames before the loop that is kept, and all of them. */
  readonly start: number;
  readonly first: number;
  readonly total: number;
  /** Frames before the stems begin to settle. */
  readonly stemsFrom: number;
}

/** Where the first round begins; the kick's recording is asked for only where it matters. */
export function startOf(
  document: SoundDocument,
  events: EventList,
  { sampleRateHz, brief = false }: RenderOptions,
  recording: () => Recording | null,
): number {
  return brief
    ? briefStart(document, events, kickFrames(document.kick, recording(), sampleRateHz), sampleRateHz)
    : 0;
}

/** What a loop of a sound is rendered from with these options. */
export function planOf(written: SoundDocument, options: RenderOptions): LoopPlan {
  const document = asBuilt(written);
  const { sampleRateHz, assets = new Map(), pass = 0, stems = 'shares', traced = false } = options;
  const events = eventList(document, sampleRateHz);
  const stereo = document.layers.some((layer) => isStereo(document, layer));
  const heard = new HeardTrack(document, events, { sampleRateHz, assets });
  const track = heard.blocksFor();
  const assembly = new Assembly(document, {
    sampleRateHz,
    seed: seedOf(document, pass),
    assets,
    stems,
    stereo,
    heard: track,
    watched: traced,
  });
  assembly.mix.takeMarks(noteMarks(events));
  const start = startOf(document, events, options, () => assembly.kickRecording);
  const first = events.loopFrames - start + assembly.mix.latencyFrames;
  const total = first + events.loopFrames;
  const stemsFrom = first - STEMS_SETTLE_S * sampleRateHz;
  return { document, events, assembly, heard, track, start, first, total, stemsFrom };
}
