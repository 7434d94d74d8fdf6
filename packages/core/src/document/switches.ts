import { placeName, unitName } from './unit-names.js';
import { chainsOf, unitById, withUnits } from './units.js';
import type { SoundDocument } from './shape.js';

/** What a macro may switch. */
export type Switched =
  | { readonly what: 'layer'; readonly layer: number }
  | { readonly what: 'filter'; readonly layer: number; readonly filter: number }
  | { readonly what: 'link'; readonly link: number }
  | { readonly what: 'unit'; readonly id: string };

/**
 * Reads what a macro switches: `layers.<id>.on`, `layers.<id>.filters.<place>.on`, `links.<id>.on` or
 * `units.<id>.on`; null where there is no such thing.
 */
export function switchedBy(
  document: Pick<SoundDocument, 'layers' | 'links' | 'grit'>,
  target: string,
): Switched | null {
  const { layers, links } = document;
  const unit = /^units\.([a-z0-9-]+)\.on$/.exec(target);
  if (unit) return unitById(document, unit[1]) ? { what: 'unit', id: unit[1] } : null;
  const match = /^(layers|links)\.([a-z0-9-]+)(?:\.filters\.([01]))?\.on$/.exec(target);
  if (!match) return null;
  const [, list, id, filter] = match;
  if (list === 'links') {
    const link = links.findIndex((each) => each.id === id);
    return link < 0 || filter !== undefined ? null : { what: 'link', link };
  }
  const layer = layers.findIndex((each) => each.id === id);
  if (layer < 0) return null;
  return filter === undefined ? { what: 'layer', layer } : { what: 'filter', layer, filter: Number(filter) };
}

/** All that the macros of a document may switch, with words for it. */
export function switchTargets(
  document: Pick<SoundDocument, 'layers' | 'links' | 'grit'>,
): { target: string; label: string }[] {
  return [
    ...document.layers.map(({ id, name }) => ({ target: `layers.${id}.on`, label: name })),
    ...document.layers.flatMap(({ id, name, filters }) =>
      filters.map((_, f) => ({ target: `layers.${id}.filters.${f}.on`, label: `${name} · filter ${f + 1}` })),
    ),
    ...chainsOf(document).flatMap(({ place, units }) =>
      units.map((unit) => ({
        target: `units.${unit.id}.on`,
        label: `${placeName(document, place)} · ${unitName(units, unit)}`,
      })),
    ),
  ];
}

/**
 * A document as it is built: all that a macro switches is there, whether it is on at the moment or not. The
 * same object where nothing is switched.
 */
export function asBuilt(document: SoundDocument): SoundDocument {
  const switched = document.macros.flatMap(({ switches }) =>
    switches.flatMap(({ target }) => switchedBy(document, target) ?? []),
  );
  if (switched.length === 0) return document;
  const layers = document.layers.map((layer, l) => {
    const mine = switched.filter(
      (each) => (each.what === 'layer' || each.what === 'filter') && each.layer === l,
    );
    if (mine.length === 0) return layer;
    return {
      ...layer,
      on: layer.on || mine.some(({ what }) => what === 'layer'),
      filters: layer.filters.map((filter, f) =>
        mine.some((each) => each.what === 'filter' && each.filter === f) ? { ...filter, on: true } : filter,
      ),
    };
  });
  const units = switched.flatMap((each) => (each.what === 'unit' ? [each.id] : []));
  const built = {
    ...document,
    layers,
    links: document.links.map((link, l) =>
      switched.some((each) => each.what === 'link' && each.link === l) ? { ...link, on: true } : link,
    ),
  };
  return units.length === 0
    ? built
    : withUnits(built, (unit) => (units.includes(unit.id) && !unit.on ? { ...unit, on: true } : unit));
}
