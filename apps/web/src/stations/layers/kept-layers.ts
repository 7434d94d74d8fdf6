import { cleanLayer, dropDangling, findLayerProblems, type Layer } from '@abyssal/core';
import { fetchPartAs, keepInLibrary } from '../../parts/kept-parts';
import { edit } from '../../state/document-store';
import { addUnits } from '../../state/unit-edits';
import { tell } from '../../state/view-store';

/** Keeps a layer in the library under its name, and remembers under which id. */
export async function keepLayer(layer: Layer, index: number): Promise<void> {
  const id = await keepInLibrary('layer', layer.name, { ...layer, kept: '' });
  edit(`keep ${layer.name}`, (draft) => {
    if (draft.layers[index]?.id === layer.id) draft.layers[index].kept = id;
  });
  tell(`${layer.name} is kept in the library.`);
}

/** A layer of the library. */
export async function fetchKept(id: string): Promise<Layer> {
  return { ...(await fetchPartAs<Layer>(id, findLayerProblems)), kept: id };
}

/** What a layer was before it was exchanged for its kept state, so that a second press brings it back. */
const before = new Map<string, Layer>();

/** Puts the kept state in the layer's place, or back what was there: both are undo steps. */
export async function swapWithKept(layer: Layer, index: number): Promise<void> {
  const mine = before.get(layer.id);
  before.delete(layer.id);
  const next = mine ?? (await fetchKept(layer.kept));
  if (!mine) before.set(layer.id, layer);
  edit(mine ? `${layer.name} as it was` : `${layer.name} as it was kept`, (draft) => {
    if (draft.layers[index]?.id !== layer.id) return;
    draft.layers[index] = { ...structuredClone(next), id: layer.id, kept: layer.kept, chain: [] };
    addUnits(draft, { in: 'layer', id: layer.id }, next.chain);
    dropDangling(draft);
  });
  tell(mine ? `${layer.name} is as you had it.` : `${layer.name} is as it was kept; press again for yours.`);
}

/** A layer from clean, under its own name. */
export function cleanAgain(layer: Layer, index: number): void {
  edit(`${layer.name} clean`, (draft) => {
    draft.layers[index] = cleanLayer(layer.role, { id: layer.id, name: layer.name, kept: layer.kept });
    dropDangling(draft);
  });
}
