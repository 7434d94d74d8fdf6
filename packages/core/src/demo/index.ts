import type { SoundDocument } from '../document/index.js';
import { bilgeDrone } from './bilge-drone.js';
import { demoChains } from './chains.js';
import { ebbDrift } from './ebb-drift.js';
import { hollowPier } from './hollow-pier.js';
import { keelPluck } from './keel-pluck.js';
import { mudLine } from './mud-line.js';
import { slackWater } from './slack-water.js';
import { sluiceTalker } from './sluice-talker.js';
import { trenchGrowl } from './trench-growl.js';

export {
  bilgeDrone,
  demoChains,
  ebbDrift,
  hollowPier,
  keelPluck,
  mudLine,
  slackWater,
  sluiceTalker,
  trenchGrowl,
};

/** The sounds of the demo record, in the order in which they are loaded. */
export function demoSounds(): SoundDocument[] {
  return [
    bilgeDrone(),
    keelPluck(),
    mudLine(),
    slackWater(),
    ebbDrift(),
    hollowPier(),
    sluiceTalker(),
    trenchGrowl(),
  ];
}
