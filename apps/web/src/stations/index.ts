import type { ComponentType } from 'react';
import { GroundStation } from './ground/Ground';
import { LayersStation } from './layers/Layers';
import { LineStation } from './line/Line';
import { LockStation } from './lock/Lock';
import { MotionStation } from './motion/Motion';

/** The stations of a sound, in the order in which people work. */
export const STATIONS: readonly { readonly path: string; readonly name: string; readonly Station: ComponentType }[] = [
  { path: 'ground', name: 'Ground', Station: GroundStation },
  { path: 'layers', name: 'Layers', Station: LayersStation },
  { path: 'motion', name: 'Motion', Station: MotionStation },
  { path: 'line', name: 'Line', Station: LineStation },
  { path: 'lock', name: 'Lock', Station: LockStation },
];
