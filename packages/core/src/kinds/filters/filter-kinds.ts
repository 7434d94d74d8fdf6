import type { FilterMode } from './filter-shape.js';
import {
  combMagnitude,
  HALF_BAND_ROUND_TRIP,
  ladderMagnitude,
  stateMagnitude,
  vowelMagnitude,
  type FilterSetting,
  type SectionMode,
} from '../../dsp/index.js';
import { CombCore } from './comb-core.js';
import type { FilterKind } from './filter-core.js';
import { LadderCore } from './ladder-core.js';
import { RingCore } from './ring-core.js';
import { StateCore } from './state-core.js';
import { VowelCore } from './vowel-core.js';

/** A mode that there is in both forms. */
const inBothForms = (mode: SectionMode): FilterKind => ({
  make: ({ form, slope }, sampleRateHz) =>
    form === 'ladder'
      ? new LadderCore(mode, slope, sampleRateHz)
      : new StateCore(mode, slope, false, sampleRateHz),
  lateFrames: 0,
  magnitude: (filter, hz, sampleRateHz) =>
    (filter.form === 'ladder' ? ladderMagnitude : stateMagnitude)(mode, filter, hz, sampleRateHz),
});

const comb = (negative: boolean): FilterKind => ({
  make: () => new CombCore(negative),
  lateFrames: 0,
  magnitude: (filter, hz) => combMagnitude(negative, filter, hz),
});

/** The kinds of filter. */
export const FILTER_KINDS = {
  low: inBothForms('low'),
  high: inBothForms('high'),
  band: inBothForms('band'),
  'band clipped': {
    make: ({ slope }, sampleRateHz) => new StateCore('band', slope, true, sampleRateHz),
    lateFrames: 0,
    magnitude: (filter, hz, sampleRateHz) => stateMagnitude('band', filter, hz, sampleRateHz),
  },
  notch: inBothForms('notch'),
  comb: comb(false),
  'comb negative': comb(true),
  vowel: {
    make: (_form, sampleRateHz) => new VowelCore(sampleRateHz),
    lateFrames: 0,
    magnitude: vowelMagnitude,
  },
  ring: {
    make: (_form, sampleRateHz) => new RingCore(sampleRateHz),
    lateFrames: HALF_BAND_ROUND_TRIP,
    magnitude: null,
  },
} satisfies Record<FilterMode, FilterKind>;

/** The kind of a filter. */
export const kindOf = (mode: FilterMode): FilterKind => FILTER_KINDS[mode];

/**
 * Magnitude of a layer's filter at a frequency, without drive, level and what loudness does to it. Null for a
 * kind that has no transfer function, as the ring.
 */
export function filterMagnitude(
  filter: FilterSetting & { readonly mode: FilterMode },
  hz: number,
  sampleRateHz: number,
): number | null {
  return kindOf(filter.mode).magnitude?.(filter, hz, sampleRateHz) ?? null;
}
