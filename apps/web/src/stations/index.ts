import type { ComponentType } from 'react';
import { Ground } from './ground/Ground';
import { Layers } from './layers/Layers';
import { Line } from './line/Line';
import { Lock } from './lock/Lock';
import { Motion } from './motion/Motion';

/** The stations of a sound, in the order in which people work. */
export const STATIONS: readonly { readonly path: string; readonly name: string; readonly Station: ComponentType }[] = [
  { path: 'ground', name: 'Ground', Station: Ground },
  { path: 'layers', name: 'Layers', Station: Layers },
  { path: 'motion', name: 'Motion', Station: Motion },
  { path: 'line', name: 'Line', Station: Line },
  { path: 'lock', name: 'Lock', Station: Lock },
];
