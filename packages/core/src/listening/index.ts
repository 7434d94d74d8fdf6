export { matchedGainDb } from './matched-gain.js';
export { THROUGH_BLOCK, throughSystem, type Through } from './through.js';
export { ThroughStage, type ThroughWays } from './through-stage.js';
