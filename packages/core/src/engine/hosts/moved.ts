import { bankOf, MACRO_IDS, resolveTarget, type SoundDocument } from '../../document/index.js';
import type { LayerPlayer } from '../layer/layer-player.js';
import type { Mix } from '../mix/mix.js';

/** Frames between two values of a trace. */
export const TRACE_FRAMES = 128;

/** Where something stands over a loop, 0 to 1, a value every `TRACE_FRAMES` from the loop's start on. */
export interface Trace {
  /** The target that means it; of a mover or macro its id. */
  readonly id: string;
  readonly values: Float32Array;
}

/** What links and lanes of a document move, each once: targets in order of the links, then of the lanes. */
export function movedTargets({ links, lanes }: Pick<SoundDocument, 'links' | 'lanes'>): string[] {
  return [
    ...new Set([
      ...links.flatMap(({ on, target }) => (on ? [target] : [])),
      ...lanes.flatMap(({ on, target }) => (on ? [target] : [])),
    ]),
  ];
}

/** All that moves by itself in a document, by id: its movers, then its macros. */
export const movingIds = ({ movers }: Pick<SoundDocument, 'movers'>): string[] => [
  ...movers.map(({ id }) => id),
  ...MACRO_IDS,
];

/** A number under way: the places of a bank, and which of them it is. */
export interface Watched {
  readonly id: string;
  readonly places: Float64Array;
  readonly slot: number;
}

/** What of a layer is moved. */
export function watchedIn(document: SoundDocument, player: LayerPlayer): Watched[] {
  return movedTargets(document).flatMap((id): Watched[] => {
    const found = resolveTarget(document, id);
    if (!found || bankOf(document, found) !== player.id) return [];
    const slot = player.slotOf(document, id);
    return slot < 0 ? [] : [{ id, places: player.bank.place, slot }];
  });
}

/** What of the mix is moved, the numbers of movers and macros that are, and all that moves by itself. */
export function watchedInMix(document: SoundDocument, mix: Mix): Watched[] {
  return [
    ...movedTargets(document).flatMap((id): Watched[] => {
      const found = resolveTarget(document, id);
      const bank = found && bankOf(document, found);
      // A number of a layer is watched there.
      if (!found || typeof bank === 'string') return [];
      const slot = bank === null ? mix.slotOf(document, id) : mix.movers.slotOf(document, id);
      const places = bank === null ? mix.bank.place : mix.movers.places;
      return slot < 0 ? [] : [{ id, places, slot }];
    }),
    ...movingIds(document).map((id, slot) => ({ id, places: mix.movers.value, slot })),
  ];
}

/** Takes down where things stand as a loop runs; each round writes over the one before. */
export class Tracer {
  readonly traces: readonly Trace[];

  constructor(
    private readonly watched: readonly Watched[],
    private readonly loopFrames: number,
  ) {
    const count = Math.max(1, Math.ceil(loopFrames / TRACE_FRAMES));
    this.traces = watched.map(({ id }) => ({ id, values: new Float32Array(count) }));
  }

  /** The step that began at a place of the loop is over. */
  take(place: number): void {
    const at = Math.floor((place % this.loopFrames) / TRACE_FRAMES);
    const { watched, traces } = this;
    for (let w = 0; w < watched.length; w++) traces[w].values[at] = watched[w].places[watched[w].slot];
  }
}
