import type { GritUnit } from '../kinds/units/index.js';
import type { SoundDocument } from './shape.js';

/** Where a unit stands: in the chain of a layer, of the clean path, of a band, or behind the sum. */
export type UnitPlace =
  | { readonly in: 'layer'; readonly id: string }
  | { readonly in: 'clean path' }
  | { readonly in: 'band'; readonly id: string }
  | { readonly in: 'after' };

/** What of a document holds units. */
export type WithUnits = Pick<SoundDocument, 'layers' | 'grit'>;

/** A chain of a document with where it stands. */
export interface PlacedChain {
  readonly place: UnitPlace;
  readonly units: readonly GritUnit[];
}

/** Every chain of a document: those of the layers, then those of grit from the deepest up. */
export function chainsOf({ layers, grit }: WithUnits): PlacedChain[] {
  return [
    ...layers.map(({ id, chain }): PlacedChain => ({ place: { in: 'layer', id }, units: chain })),
    { place: { in: 'clean path' }, units: grit.cleanPath.units },
    ...grit.bands.map(({ id, units }): PlacedChain => ({ place: { in: 'band', id }, units })),
    { place: { in: 'after' }, units: grit.after },
  ];
}

/** Where a chain stands in the document, as keys and places from its top. */
export function chainKeys({ layers, grit }: WithUnits, place: UnitPlace): readonly (string | number)[] {
  switch (place.in) {
    case 'layer':
      return ['layers', layers.findIndex(({ id }) => id === place.id), 'chain'];
    case 'clean path':
      return ['grit', 'cleanPath', 'units'];
    case 'band':
      return ['grit', 'bands', grit.bands.findIndex(({ id }) => id === place.id), 'units'];
    case 'after':
      return ['grit', 'after'];
  }
}

/** The same as a path in words of validation, such as `grit.bands[1].units`. */
export const chainPath = (document: WithUnits, place: UnitPlace): string =>
  chainKeys(document, place)
    .map((key, k) => (typeof key === 'number' ? `[${key}]` : k === 0 ? key : `.${key}`))
    .join('');

/** A unit by its id, with where it stands; null where there is none. */
export function unitById(document: WithUnits, id: string): { unit: GritUnit; place: UnitPlace } | null {
  for (const { place, units } of chainsOf(document)) {
    const unit = units.find((each) => each.id === id);
    if (unit) return { unit, place };
  }
  return null;
}

/** A document with each of its units as `change` has it; the same chains where nothing changed. */
export function withUnits<D extends WithUnits>(document: D, change: (unit: GritUnit) => GritUnit): D {
  const chain = (units: GritUnit[]): GritUnit[] => {
    const changed = units.map(change);
    return changed.every((unit, u) => unit === units[u]) ? units : changed;
  };
  const layers = document.layers.map((layer) => {
    const units = chain(layer.chain);
    return units === layer.chain ? layer : { ...layer, chain: units };
  });
  const { cleanPath, bands, after } = document.grit;
  return {
    ...document,
    layers,
    grit: {
      ...document.grit,
      cleanPath: { ...cleanPath, units: chain(cleanPath.units) },
      bands: bands.map((band) => ({ ...band, units: chain(band.units) })),
      after: chain(after),
    },
  };
}
