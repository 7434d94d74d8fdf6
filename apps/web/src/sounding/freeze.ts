import { freezeKey } from '@abyssal/core';
import { startFreeze, wasCancelled } from './bounce';
import { useDocumentStore } from '../state/document-store';
import { tell, tellError } from '../state/view-store';
import { audio } from '../audio/audio-host';
import { frozenIn, useFreezes } from '../audio/frozen-layers';

const without = <T>(map: ReadonlyMap<string, T>, id: string): Map<string, T> => {
  const rest = new Map(map);
  rest.delete(id);
  return rest;
};

/**
 * Renders a layer's loop and plays that back from then on, until the layer, or what it follows, is edited.
 */
export async function freeze(id: string): Promise<void> {
  const { document } = useDocumentStore.getState();
  if (!document || useFreezes.getState().making.has(id)) return;
  const { sampleRateHz } = audio;
  const key = freezeKey(document, id, sampleRateHz);
  const progress = (done: number) => {
    useFreezes.setState(({ making }) => ({ making: new Map(making).set(id, done) }));
  };
  progress(0);
  try {
    const stereo = await startFreeze(document, id, sampleRateHz, progress).result;
    useFreezes.setState(({ frozen, making }) => ({
      frozen: new Map(frozen).set(id, { key, sampleRateHz, stereo }),
      making: without(making, id),
    }));
    const now = useDocumentStore.getState().document;
    if (now && freezeKey(now, id, sampleRateHz) !== key) {
      thaw(id);
      tell('The layer was edited while it was freezing, so it still plays live. Freeze it again.');
    } else audio.refreeze();
  } catch (error) {
    useFreezes.setState(({ making }) => ({ making: without(making, id) }));
    if (!wasCancelled(error)) tellError(error);
  }
}

/** Lets a layer play itself again. */
export function thaw(id: string): void {
  useFreezes.setState(({ frozen }) => ({ frozen: without(frozen, id) }));
  audio.refreeze();
}

// An edit of a frozen layer thaws it; leaving the sound thaws all.
useDocumentStore.subscribe(({ document }, before) => {
  const { frozen } = useFreezes.getState();
  if (frozen.size === 0 || document === before.document) return;
  const kept = document ? frozenIn(document) : new Map<string, unknown>();
  for (const id of frozen.keys()) if (!kept.has(id)) thaw(id);
});
