export * from './low-band.js';
export * from './measure-lock.js';
export * from './wrap-degrees.js';
