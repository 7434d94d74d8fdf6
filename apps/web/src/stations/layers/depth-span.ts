import { DEPTH_BANDS_HZ, formatValue, parameter } from '@abyssal/core';

/** What lies further under a layer's strongest band is not counted to where it sounds, in dB. */
const WITHIN_DB = 24;
/** A layer whose strongest band is under this is silent, in dB. */
const SILENT_DB = -90;

/**
 * Where a layer sounds, as text: from its deepest to its shallowest band within 24 dB of its strongest.
 * `levels` are dB at `DEPTH_BANDS_HZ`.
 */
export function depthSpan(levels: ArrayLike<number> | undefined): string {
  if (!levels) return '';
  const all = Array.from(levels);
  const most = Math.max(...all);
  if (most < SILENT_DB) return 'silent';
  const heard = DEPTH_BANDS_HZ.filter((_, band) => all[band] > most - WITHIN_DB);
  const say = (hz: number) =>
    formatValue(parameter('layers.*.filters.*.cutoffHz'), Number(hz.toPrecision(2)));
  return `${say(heard[0])} – ${say(heard[heard.length - 1])}`;
}
