export {
  densitiesOf,
  equalLoudnessDb,
  hearingThresholdDb,
  noiseDensityDb,
  noiseWithinDb,
} from './hearing.js';
export { harmonicsOfNote, type FoundHarmonics, type Harmonics } from './harmonics.js';
export { HIGHEST_OF_PAIR, listen, type Heard, type HeardHarmonic, type Listening } from './listen.js';
export { responseOfImpulse } from './impulse.js';
export { responseDb } from './response.js';
export { OCTAVES_HZ, SYSTEMS, type PlaybackSystem, type ResponsePart } from './systems.js';
export { matters, ownSystem, systemsOf } from './systems-of.js';
