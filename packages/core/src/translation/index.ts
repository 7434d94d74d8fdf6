export { densitiesOf, equalLoudnessDb, hearingThresholdDb, noiseWithinDb } from './hearing.js';
export { harmonicsOf, loudestStretch, type FoundHarmonics, type Harmonics } from './harmonics.js';
export { listen, type Heard, type HeardHarmonic, type Listening } from './listen.js';
export { responseDb } from './response.js';
export { OCTAVES_HZ, SYSTEMS, type PlaybackSystem, type ResponsePart } from './systems.js';
