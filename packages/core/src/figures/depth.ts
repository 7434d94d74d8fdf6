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

/** Levels by depth of a rendered loop. */
export function depthOf({ sampleRateHz, kick, bass, backing, layers }: DepthSignals): DepthSpectra {
  const levels = ({ left, right }: Stereo) => depthSpectrum(middle([left, right]), sampleRateHz, true);
  const depth = { kick: levels(kick), bass: levels(bass), backing: backing && levels(backing) };
  return {
    ...depth,
    layers: layers.map((layer) => ({ id: layer.id, levels: levels(layer) })),
    masked: depth.backing && maskedShare(depth.bass, depth.backing),
  };
}
