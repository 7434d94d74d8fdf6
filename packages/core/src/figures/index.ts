export { lowSumGainDb, pitchTold, toldOf, type Told } from './told.js';
export * from './note-lock.js';
export * from './note-levels.js';
export * from './pass.js';
export * from './verdict.js';
export * from './figures.js';
export * from './sounding.js';
