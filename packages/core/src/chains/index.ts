export { matchedLevelDb, measureUnits, type MeasuredUnit, type UnitLevel } from './measure-units.js';
export { matchedChain, randomChain } from './random-chain.js';
