export * from './notes.js';
export * from './scales.js';
