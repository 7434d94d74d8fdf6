import { unitKindOf, type GritUnit } from '../kinds/units/index.js';
import type { UnitPlace, WithUnits } from './units.js';

const hertz = (hz: number) =>
  hz < 1000 ? `${Math.round(hz)} Hz` : `${Number((hz / 1000).toPrecision(3))} kHz`;

/** Where a band lies, in words: "300 Hz to 1.6 kHz". */
export function bandName({ grit }: Pick<WithUnits, 'grit'>, index: number): string {
  const { bands, cleanPath } = grit;
  const from = index === 0 ? (cleanPath.on ? cleanPath.frequencyHz : null) : bands[index].fromHz;
  const to = index + 1 < bands.length ? bands[index + 1].fromHz : null;
  if (from === null && to === null) return 'all of it';
  if (from === null) return `below ${hertz(to!)}`;
  return to === null ? `above ${hertz(from)}` : `${hertz(from)} to ${hertz(to)}`;
}

/** A chain's place, in words. */
export function placeName(document: WithUnits, place: UnitPlace): string {
  switch (place.in) {
    case 'layer':
      return document.layers.find(({ id }) => id === place.id)?.name ?? place.id;
    case 'clean path':
      return 'Clean path';
    case 'band':
      return bandName(
        document,
        document.grit.bands.findIndex(({ id }) => id === place.id),
      );
    case 'after':
      return 'After the sum';
  }
}

/** A unit's name, with its number where its chain has several of the kind: "Tube", "Tube 2". */
export function unitName(units: readonly GritUnit[], unit: GritUnit): string {
  const alike = units.filter(({ kind }) => kind === unit.kind);
  const { label } = unitKindOf(unit.kind);
  return alike.length > 1 ? `${label} ${alike.indexOf(unit) + 1}` : label;
}
