import type { SoundDocument } from '../document/index.js';
import { slackWater } from './slack-water.js';
import { trenchGrowl } from './trench-growl.js';

export { slackWater, trenchGrowl };

/** The sounds of the demo record, in the order in which they are loaded. */
export function demoSounds(): SoundDocument[] {
  return [slackWater(), trenchGrowl()];
}
