import { movedTargets, movingIds, type SoundDocument } from '@abyssal/core';
import { audio } from '../audio/audio-host';

let order: { readonly of: SoundDocument; readonly places: ReadonlyMap<string, number> } | null = null;

/** The place of what is moved, or of what moves, in the memory that the audio thread writes; −1 for none. */
export function movedPlace(document: SoundDocument, id: string): number {
  if (order?.of !== document) {
    const ids = [...movedTargets(document), ...movingIds(document)];
    order = { of: document, places: new Map(ids.map((each, i) => [each, i])) };
  }
  return order.places.get(id) ?? -1;
}

/** Where something stands now while the loop plays, 0 to 1; null where it is not moved. */
export function standsNow(document: SoundDocument, id: string): number | null {
  const place = movedPlace(document, id);
  const at = place < 0 ? NaN : audio.shared.moved[place];
  return Number.isFinite(at) ? at : null;
}
