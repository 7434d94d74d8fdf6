import {
  endsOf,
  formatValue,
  fromPosition,
  type Link,
  type Mover,
  type Parameter,
  type SoundDocument,
} from '@abyssal/core';
import { whyPlaceUnheard } from './unheard-place';

/** What a link cannot be heard for, in a sentence; null where it can. `at` is where its number stands, 0 to 1. */
export function whyUnheard(
  document: SoundDocument,
  link: Link,
  mover: Mover | null,
  {
    row,
    at,
    values,
    loudestHz,
  }: {
    readonly row: Parameter;
    readonly at: number;
    /** Where it stands over the loop; empty where it is not known. */
    readonly values: ArrayLike<number>;
    /** The highest frequency that sounds in its layer, in hertz; null where it is not known. */
    readonly loudestHz: number | null;
  },
): string | null {
  if (!link.on) return null;
  if (mover && !mover.on) return `${mover.name} is off.`;
  const place = whyPlaceUnheard(document, link.target);
  if (place) return place;
  if (mover?.kind === 'wobble' && mover.restart === 'free') {
    const seconds =
      mover.rateIn === 'hertz' ? 1 / mover.rateHz : (mover.rateBeats * 60) / document.ground.tempoBpm;
    const loop = (document.ground.bars * 4 * 60) / document.ground.tempoBpm;
    if (seconds > 1.001 * loop)
      return `${mover.name} takes longer than the loop: only a part of it is heard.`;
  }
  const ends = endsOf(link).map((end) => at + end);
  const low = Math.min(...ends);
  const high = Math.max(...ends);
  if (high <= 1e-6 || low >= 1 - 1e-6)
    return `It is at the ${low >= 1 - 1e-6 ? 'top' : 'bottom'} of its range already, ${formatValue(row, fromPosition(row, at))}.`;
  const cutoff = row.id.endsWith('.cutoffHz');
  if (cutoff && loudestHz !== null && values.length > 0) {
    let least = 1;
    for (let i = 0; i < values.length; i++) least = Math.min(least, values[i]);
    if (fromPosition(row, least) > 1.2 * loudestHz)
      return `The cutoff stays above all that sounds there, up to ${formatValue(row, loudestHz)}.`;
  }
  return null;
}
