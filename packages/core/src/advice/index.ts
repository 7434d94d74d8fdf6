export { fitOf, fitSteps, roseSteps, type Fit, type FitOptions } from './fit.js';
export { bestTurnFor, bestTurnsByPitch, constantRose, roseGainDb, rosesOf, type NoteRose, type Turn } from './rose.js';
export { lineLock, measureLine, type LineLock, type MeasuredLine } from './line-lock.js';
export { bestCommonNudge, type Nudge } from './common-nudge.js';
export { firstLook, type FirstLook } from './first-look.js';
export { turnedLowsSteps, type TurnedLows } from './turned-lows.js';
export { rootHz } from './drafts.js';
export { withTailAt, withTailTuned } from './tune-tail.js';
export type { Cost, Proposal } from './proposal.js';
