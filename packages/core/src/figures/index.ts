export * from './depth.js';
export { lowSumGainDb, pitchTold, toldOf, type Told } from './told.js';
export * from './passes/meetings.js';
export * from './passes/note-lock.js';
export { NO_LOCK_WORDS } from './passes/no-lock-words.js';
export * from './passes/no-phase-words.js';
export * from './passes/note-levels.js';
export * from './passes/pass.js';
export * from './passes/systems-by-notes.js';
export * from './passes/verdict.js';
export * from './passes/line-lock.js';
export * from './figures.js';
export * from './kinds/index.js';
export type { FigureSpec, HeardPass, WholePass } from './kinds/spec.js';
export {
  firstLayers,
  keepJob,
  layerJobs,
  layerJobSteps,
  type LayerJob,
  type LayerJobDone,
} from './layer-jobs.js';
export * from './sounding.js';
export { kickFigures, type KickFigures, type KickMemory } from './kick-figures.js';
export {
  isSoundingFile,
  measuredText,
  soundingFile,
  type SoundingFile,
  type SoundingParts,
} from './sounding-file.js';
export { soundingCsv } from './sounding-csv.js';
export { besideLookOf, type BesideLook } from './beside-look.js';
export type { ToneCache } from './tone-alone.js';
export { lookOf, type LoopLook } from './tone/look.js';
export {
  toneOf,
  type BandAgainstKick,
  type NoteTone,
  type ToneFigures,
  type ToneSignals,
} from './tone/tone-of.js';
export { losing } from './kinds/heard.js';
export { wobbleOff } from './kinds/wobbles.js';
