export { fitOf, fitSteps, type FitOptions } from './fit.js';
export type { Fit, FitProgress } from './trials.js';
export { hitsWords, whyWords } from './fit-words.js';
export {
  bestTurnFor,
  bestTurnOfLine,
  bestTurnsByPitch,
  constantRose,
  roseGainDb,
  rosesOf,
  roseSteps,
  turnable,
  type LineRoses,
  type Rose,
  type Turn,
} from './rose.js';
export { measureLine, type LineLows, type MeasuredLine } from './measured-line.js';
export { bestCommonNudge, type Nudge } from './common-nudge.js';
export { firstLook, type FirstLook } from './first-look.js';
export { turnedLowsSteps, type TurnedLows } from './turned-lows.js';
export { isWorth, settles } from './ranking.js';
export { GROOVE_MS, harshness, MOST_LOWS_DB, type Takes } from './takes.js';
export { withTailAt, withTailTuned } from './tune-tail.js';
export type { Proposal, Step } from './proposal.js';
