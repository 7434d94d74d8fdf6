import { cleanBand, dropDangling, MOST_BANDS, type Band, type SoundDocument } from '@abyssal/core';
import { freeId } from './free-id';

/** Two crossovers stand at least this far apart. */
export const LEAST_APART = 2 ** (1 / 3);
const LOWEST_HZ = 40;
const HIGHEST_HZ = 16000;
/** Where a band that reaches to the surface is parted first. */
const TOP_HZ = 6400;

/** Why no band can be added; null where one can. */
export const noBand = ({ grit }: SoundDocument): string | null =>
  grit.bands.length + (grit.cleanPath.on ? 1 : 0) >= MOST_BANDS
    ? `There are ${MOST_BANDS} bands with the clean path, as many as a sound takes.`
    : null;

/** Between which frequencies a band lies, and up to where for the topmost. */
function ends({ grit }: SoundDocument, index: number): [number, number] {
  const { bands, cleanPath } = grit;
  return [
    index === 0 ? (cleanPath.on ? cleanPath.frequencyHz : LOWEST_HZ) : bands[index].fromHz,
    index + 1 < bands.length ? bands[index + 1].fromHz : TOP_HZ,
  ];
}

/** Parts a band in its middle: the new one begins empty above it. Gives the new band's id. */
export function partBand(draft: SoundDocument, index: number): string {
  const { bands } = draft.grit;
  const [from, to] = ends(draft, index);
  const id = freeId(bands, (n) => `band-${n}`);
  const { levelDb, widthPct }: Pick<Band, 'levelDb' | 'widthPct'> = bands[index];
  const fromHz = Number(Math.max(from * LEAST_APART, Math.sqrt(from * to)).toPrecision(2));
  bands.splice(index + 1, 0, cleanBand({ id, fromHz, levelDb, widthPct }));
  return id;
}

/** Takes a band out; the one below it, or above it for the lowest, reaches over its place. */
export function removeBand(draft: SoundDocument, id: string): void {
  draft.grit.bands = draft.grit.bands.filter((band) => band.id !== id);
  dropDangling(draft);
}

/** Between which frequencies the lower end of a band may be set; `-1` is the upper end of the clean path. */
export function roomFor({ grit }: SoundDocument, index: number): [number, number] {
  const { bands, cleanPath } = grit;
  const below = index > 1 ? bands[index - 1].fromHz : cleanPath.on ? cleanPath.frequencyHz : LOWEST_HZ;
  const above = index + 1 < bands.length ? bands[index + 1].fromHz / LEAST_APART : HIGHEST_HZ;
  return [Math.min(above, index > 1 || cleanPath.on ? below * LEAST_APART : below), above];
}

/** Sets where a band begins, held between its neighbours. */
export function setFrom(draft: SoundDocument, index: number, hz: number): void {
  const [least, most] = roomFor(draft, index);
  draft.grit.bands[index].fromHz = Math.min(most, Math.max(least, hz));
}

/** Sets the upper end of the clean path, held below the first crossover above it. */
export function setCleanPath(draft: SoundDocument, hz: number): void {
  const { bands, cleanPath } = draft.grit;
  const most = bands.length > 1 ? bands[1].fromHz / LEAST_APART : Infinity;
  cleanPath.frequencyHz = Math.max(LOWEST_HZ, Math.min(most, hz));
}

/** Switches the clean path; one more band below the others needs room. */
export function toggleCleanPath(draft: SoundDocument): string | null {
  const { cleanPath, bands } = draft.grit;
  if (!cleanPath.on && bands.length >= MOST_BANDS)
    return `There are ${MOST_BANDS} bands already. Remove one, then the clean path has room.`;
  cleanPath.on = !cleanPath.on;
  if (cleanPath.on) setCleanPath(draft, cleanPath.frequencyHz);
  return null;
}
