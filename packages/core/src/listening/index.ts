export { matchedGainDb } from './matched-gain.js';
export { chanceOfRight } from './blind.js';
export { comparedLoopSteps, comparedRecording, type ComparedLoop } from './other-loop.js';
export { matchedGains, OtherStage, type MatchedGains, type OtherLoop } from './other-stage.js';
export { THROUGH_BLOCK, throughSystem, type Through } from './through.js';
export { ThroughStage, type ThroughWays } from './through-stage.js';
