import type { SoundDocument } from '../../document/index.js';
import type { MixReader } from '../mix/mix-parts.js';
import { LAYERS_SHARE, renderLayers } from './loop-layers.js';
import { StemKeeping } from './loop-keeping.js';
import { LoopMixing } from './loop-mixing.js';
import { planOf } from './loop-plan.js';
import type { LoopStems, RenderOptions } from './loop-render.js';
import { mostBetween, runLoop } from './run-loop.js';

/** What the stems of a loop are rendered from where another host mixes it. */
export interface FollowOptions extends Pick<RenderOptions, 'sampleRateHz' | 'assets' | 'cache'> {
  /** What that host hands over. The next step is to be made only once it is `ready`. */
  readonly follows: MixReader;
}

/**
 * Renders the stems of a loop, each layer's share of the bass, and follows in grit and ceiling the mix of another host; in
 * steps that yield the share done. They are to the bit what `renderLoopSteps` gives with them.
 */
export function* followLoopSteps(
  written: SoundDocument,
  { follows, ...options }: FollowOptions,
): Generator<number, LoopStems> {
  const { sampleRateHz } = options;
  const plan = planOf(written, options);
  const { events, assembly, heard, start, total, stemsFrom } = plan;
  const { mix } = assembly;
  mix.follow(follows);
  const most = mostBetween(sampleRateHz);
  const lookAhead = (mixed: number) => {
    follows.needs = mixed + most > stemsFrom ? most : 0;
  };
  lookAhead(0);
  heard.over(start, total);
  const layers = yield* renderLayers(plan, options);
  const mixing = new LoopMixing(
    plan,
    layers,
    options,
    (frames) => new StemKeeping(mix, layers, frames, true),
  );
  const steps = runLoop(events, sampleRateHz, start, total, mixing);
  for (let step = steps.next(); !step.done; step = steps.next()) {
    lookAhead(mixing.mixed);
    yield LAYERS_SHARE + (1 - LAYERS_SHARE) * step.value;
  }
  return { sampleRateHz, frames: events.loopFrames, layers: mixing.finished().layers };
}
