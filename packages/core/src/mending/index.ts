export { mendAllSteps, type Mended } from './mend-all.js';
export { mendSteps, type Changed, type Mend, type MendProgress, type Mends } from './mends.js';
export {
  quickStateSteps,
  wholeStateSteps,
  type MeasureOptions,
  type SoundState,
} from './base/sound-state.js';
export { spectralDistanceDb } from './distance.js';
