export * from './pass.js';
export * from './verdict.js';
export * from './figures.js';
export * from './sounding.js';
