import {
  cleanLayer,
  cleanSource,
  dropDangling,
  MOST_LINKS,
  sourceName,
  type Layer,
  type Link,
  type SoundDocument,
  type Tone,
  type ToneKind,
} from '@abyssal/core';
import { freeId } from '../../state/free-id';
import { addUnits } from '../../state/unit-edits';

/**
 * What a tone of a kind was when it was last one, by layer and tone: changing the kind and back loses nothing
 * while the sound is open.
 */
const left = new Map<string, Tone['source']>();

/**
 * A tone of another kind: pitch, level, copies and phase stay; what the kind had when it was left comes back.
 */
export function withKind(tone: Tone, kind: ToneKind, key: string): Tone {
  if (tone.source.kind === kind) return tone;
  left.set(`${key} ${tone.source.kind}`, tone.source);
  return { ...tone, source: left.get(`${key} ${kind}`) ?? cleanSource(kind) };
}

/** An id for a new layer: its role's own, else with a number. */
const layerId = (layers: readonly Layer[], role: Layer['role']) =>
  freeId(layers, (n) => (n === 1 ? role : `${role}-${n}`));

/** A layer added above the others of its depth; knocks go on top. */
export function newLayer(layers: readonly Layer[], role: Layer['role']): Layer {
  const id = layerId(layers, role);
  const number = id.slice(role.length + 1);
  return cleanLayer(role, {
    id,
    name: `${role[0].toUpperCase()}${role.slice(1)}${number ? ` ${number}` : ''}`,
  });
}

/** A layer as another of the sound's: with an id of its own. Its links go with it where they are given. */
export function addCopy(draft: SoundDocument, layer: Layer, links: readonly Link[] = []): string {
  const id = layerId(draft.layers, layer.role);
  draft.layers.push({ ...structuredClone(layer), id, chain: [] });
  const units = addUnits(draft, { in: 'layer', id }, layer.chain);
  for (const link of links) {
    if (draft.links.length >= MOST_LINKS || sourceName(draft, link.mover) === null) continue;
    draft.links.push({
      ...link,
      id: freeId(draft.links, (n) => `link-${n}`),
      target: targetIn(id, link.target, units),
    });
  }
  return id;
}

/** A target within a layer, or of one of its units, as it is in a copy of the layer. */
function targetIn(layerId: string, target: string, units: ReadonlyMap<string, string>): string {
  const [part, id, ...field] = target.split('.');
  const own = part === 'units' ? units.get(id) : undefined;
  return own === undefined ? `layers.${layerId}.${target}` : ['units', own, ...field].join('.');
}

/** The links of a layer, their targets within it; those of its units as they are. */
export function linksOf(document: SoundDocument, layerId: string) {
  const start = `layers.${layerId}.`;
  const units = document.layers.find(({ id }) => id === layerId)?.chain.map(({ id }) => `units.${id}.`) ?? [];
  return document.links
    .filter(({ target }) => target.startsWith(start) || units.some((unit) => target.startsWith(unit)))
    .map((link) => ({
      ...link,
      target: link.target.startsWith(start) ? link.target.slice(start.length) : link.target,
    }));
}

/** Moves a layer to another place among the layers. */
export function moveLayer<T>(layers: readonly T[], from: number, to: number): T[] {
  const out = [...layers];
  const [moved] = out.splice(from, 1);
  out.splice(Math.max(0, Math.min(out.length, to)), 0, moved);
  return out;
}

/** Takes a layer out, and what points into it. */
export function removeLayer(draft: SoundDocument, index: number): void {
  draft.layers.splice(index, 1);
  dropDangling(draft);
}
