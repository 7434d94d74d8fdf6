export * from './decibels.js';
export * from './beats.js';
export * from './to-end.js';
export * from './number-text.js';
export * from './plain-text.js';
