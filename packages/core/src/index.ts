export * from './units/index.js';
export * from './music/index.js';
export * from './document/index.js';
export * from './engine/index.js';
export { shapeAt, filterMagnitude, resample } from './dsp/index.js';
