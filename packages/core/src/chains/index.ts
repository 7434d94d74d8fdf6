export * from './measure-units.js';
export * from './random-chain.js';
