export * from './low-band.js';
export * from './measure-lock.js';
export { type NoPhase } from './no-phase.js';
export * from './wrap-degrees.js';
