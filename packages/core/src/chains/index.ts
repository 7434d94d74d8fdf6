export { matchedLevelDb, measureUnits, type MeasuredUnit, type UnitLevel } from './measure-units.js';
export { matchedChain, randomChain } from './random-chain.js';
export { chainFigureSteps, leftOut, type ChainFigures, type UnitFigures } from './chain-figures.js';
