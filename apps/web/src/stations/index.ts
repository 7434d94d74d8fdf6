import type { ComponentType } from 'react';
import { GritStation } from './grit/Grit';
import { GritDepth } from './grit/GritDepth';
import { GroundStation } from './ground/Ground';
import type { DepthPlot } from '../depth/depth-plot';
import { LayersStation } from './layers/Layers';
import { LayersDepth } from './layers/LayersDepth';
import { LineStation } from './line/Line';
import { LockStation } from './lock/Lock';
import { MotionStation } from './motion/Motion';
import { SoundingStation } from './sounding/Sounding';
import { SoundingDepth } from './sounding/SoundingDepth';

export interface StationEntry {
  readonly path: string;
  readonly name: string;
  readonly Station: ComponentType;
  /** What it brings to the depth chart. */
  readonly Depth?: ComponentType<DepthPlot>;
}

/** The stations of a sound, in the order in which people work. */
export const STATIONS: readonly StationEntry[] = [
  { path: 'ground', name: 'Ground', Station: GroundStation },
  { path: 'layers', name: 'Layers', Station: LayersStation, Depth: LayersDepth },
  { path: 'motion', name: 'Motion', Station: MotionStation },
  { path: 'grit', name: 'Grit', Station: GritStation, Depth: GritDepth },
  { path: 'line', name: 'Line', Station: LineStation },
  { path: 'lock', name: 'Lock', Station: LockStation },
  { path: 'sounding', name: 'Sounding', Station: SoundingStation, Depth: SoundingDepth },
];
