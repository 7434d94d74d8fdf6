export * from './decibels.js';
export * from './beats.js';
