export { createEngine, Engine, type EngineOptions, type Monitor } from './engine.js';
export { renderLoop, renderLoopSteps, runsFree, type LayerCache, type LoopRender, type RenderOptions, type Stereo } from './render-loop.js';
export { playedVelocity } from './events.js';
export { duckCurveDb } from './duck.js';
export { wobbleHz } from './mover-bank.js';
export type { Assets } from './instrument.js';
export type { KickRecording } from './kick-player.js';
export { renderKick } from './render-kick.js';
export { moverTraces, type MoverTrace } from './mover-trace.js';
