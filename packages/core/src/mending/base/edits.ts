import {
  chainsOf,
  cleanUnit,
  MOST_LAYER_UNITS,
  MOST_UNITS,
  type GritUnit,
  type Layer,
  type SoundDocument,
  type UnitKind,
  type UnitOf,
} from '../../document/index.js';

/** A sound with one layer changed. */
export const withLayer = (
  sound: SoundDocument,
  id: string,
  change: (layer: Layer) => Layer,
): SoundDocument => ({
  ...sound,
  layers: sound.layers.map((layer) => (layer.id === id ? change(layer) : layer)),
});

/** A unit from clean under an id that no other unit of the sound has. */
export function freshUnit<K extends UnitKind>(
  sound: SoundDocument,
  kind: K,
  patch: Partial<UnitOf<K>>,
): UnitOf<K> {
  const taken = new Set(chainsOf(sound).flatMap(({ units }) => units.map(({ id }) => id)));
  const base = kind.replace(/ /g, '-');
  let n = 1;
  while (taken.has(`${base}-${n}`)) n++;
  return cleanUnit(kind, { ...patch, id: `${base}-${n}` });
}

/** A sound with a unit at the end of the chain after the sum; the sound as it is where that is full. */
export function withUnitAfter<K extends UnitKind>(
  sound: SoundDocument,
  kind: K,
  patch: Partial<UnitOf<K>>,
): SoundDocument {
  const { after } = sound.grit;
  if (after.length >= MOST_UNITS) return sound;
  const unit = freshUnit(sound, kind, patch) as GritUnit;
  return { ...sound, grit: { ...sound.grit, after: [...after, unit] } };
}

/** A sound with a unit at the end of a layer's own chain; the sound as it is where that is full. */
export function withUnitOn<K extends UnitKind>(
  sound: SoundDocument,
  layerId: string,
  kind: K,
  patch: Partial<UnitOf<K>>,
): SoundDocument {
  const unit = freshUnit(sound, kind, patch) as GritUnit;
  return withLayer(sound, layerId, (layer) =>
    layer.chain.length >= MOST_LAYER_UNITS ? layer : { ...layer, chain: [...layer.chain, unit] },
  );
}

/** Rounded as it is typed. */
export const tidy = (value: number, digits = 1) => Number(value.toFixed(digits));
