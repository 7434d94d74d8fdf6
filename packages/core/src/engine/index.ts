export { createEngine, Engine, type EngineOptions, type Monitor } from './hosts/engine.js';
export type { Frozen } from './hosts/instrument.js';
export { freezeKey, freezeSteps } from './hosts/render-layer.js';
export { lowsRunFree, runsFree } from './hosts/runs-free.js';
export {
  DUCKING_FRAMES,
  type LayerCache,
  type LoopRender,
  type LoopStems,
  type RenderOptions,
} from './hosts/loop-render.js';
export { cachePlaces, layersToRender, renderLayerSteps, type CachedLayer } from './hosts/loop-layers.js';
export { renderLoop, renderLoopSteps } from './hosts/render-loop.js';
export { followLoopSteps, type FollowOptions } from './hosts/follow-loop.js';
export { MixReader, type MixPart } from './mix/mix-parts.js';
export type { ChainCache } from './hosts/kept-chains.js';
export type { Stems } from './mix/mix.js';
export { runGrit, type GritRunOptions } from './hosts/grit-run.js';
export { renderBackingSteps } from './hosts/render-backing.js';
export { bassNudgeMs, hitTicks, lookAheadMs, playedVelocity, swung } from './hosts/events.js';
export { duckCurveDb, wantedReductionDb } from './mix/duck.js';
export { duckAlone, duckGains } from './hosts/duck-alone.js';
export { dropEndMs, dropHz, turnsBack } from './kick/drop.js';
export { hardHoldMs } from './kick/hard-hold.js';
export type { Assets, Recording, Stereo } from './base/recording.js';
export { lowestLayer, lowestTone } from './layer/lowest-tone.js';
export { actingTones } from './tones/interplay.js';
export { canCopy, playsPitch } from './tones/tone-set.js';
export { fmCycle } from './tones/fm-cycle.js';
export { drawnSpectra, treatmentOf } from './tones/tone-bank.js';
export { copyPlace } from './tones/copies.js';
export { renderKick } from './kick/render-kick.js';
export { movedTargets, movingIds, TRACE_FRAMES, type Trace } from './hosts/moved.js';
export { laneAt } from './movers/lanes.js';
