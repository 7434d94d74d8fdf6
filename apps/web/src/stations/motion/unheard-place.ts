import { bandName, chainsOf, unitById, unitName, type SoundDocument } from '@abyssal/core';

/** Why nothing of a band is heard, in a sentence; null where it is. */
function whyBandUnheard(document: SoundDocument, id: string): string | null {
  const index = document.grit.bands.findIndex((band) => band.id === id);
  return index >= 0 && !document.grit.bands[index].on
    ? `The band ${bandName(document, index)} is muted.`
    : null;
}

/**
 * Why nothing that moves a number of a unit or a band is heard where that stands, in a sentence; null where it is, and
 * for other numbers.
 */
export function whyPlaceUnheard(document: SoundDocument, target: string): string | null {
  const [part, id, field] = target.split('.');
  if (part === 'bands') return whyBandUnheard(document, id);
  const found = part === 'units' ? unitById(document, id) : null;
  if (!found) return null;
  const { unit, place } = found;
  const { units } = chainsOf(document).find((chain) => chain.units.includes(unit))!;
  const name = unitName(units, unit);
  if (!unit.on) return `${name} is off.`;
  const dry =
    unit.wetPct === 0 && !document.links.some((link) => link.on && link.target === `units.${id}.wetPct`);
  if (dry && field !== 'wetPct') return `Nothing of ${name} is heard: its wet share is 0 %.`;
  if (place.in === 'clean path') {
    const { on, alone } = document.grit.cleanPath;
    if (!on) return 'The clean path is off.';
    return alone ? 'The clean path is left alone.' : null;
  }
  return place.in === 'band' ? whyBandUnheard(document, place.id) : null;
}
