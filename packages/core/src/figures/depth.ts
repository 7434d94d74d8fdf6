import type { LoopRender, Stereo } from '../engine/index.js';
import { depthSpectrum, maskedShare, middle } from '../measure/index.js';

/** Mean levels by depth in dB, at `DEPTH_BANDS_HZ`. */
export interface DepthSpectra {
  readonly kick: Float64Array;
  readonly bass: Float64Array;
  /** The backing parts together; null where there is none. */
  readonly backing: Float64Array | null;
  readonly layers: readonly { readonly id: string; readonly levels: Float64Array }[];
  /** Share of the bass's energy that the backing parts mask, 0 to 1; null where there is none of either. */
  readonly masked: number | null;
}

/** What of a rendered loop is looked at by depth. */
export type DepthSignals = Pick<LoopRender, 'sampleRateHz' | 'kick' | 'bass' | 'backing' | 'layers'>;

const levelsOf = ({ left, right }: Stereo, sampleRateHz: number) =>
  depthSpectrum(middle([left, right]), sampleRateHz, true);

/** Levels by depth of a loop that was rendered with its stems. */
export function depthOf({ sampleRateHz, kick, bass, backing, layers }: DepthSignals): DepthSpectra {
  const levels = levelsOf(bass, sampleRateHz);
  const behind = backing && levelsOf(backing, sampleRateHz);
  return {
    kick: levelsOf(kick, sampleRateHz),
    bass: levels,
    backing: behind,
    layers: layers.map((layer) => ({ id: layer.id, levels: levelsOf(layer, sampleRateHz) })),
    masked: behind && maskedShare(levels, behind),
  };
}
