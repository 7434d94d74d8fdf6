import type { SoundDocument } from '../../document/index.js';
import { toEnd } from '../../units/index.js';
import { MixWriter } from '../mix/mix-parts.js';
import { keepChains } from './kept-chains.js';
import { LoopKeeping } from './loop-keeping.js';
import { LAYERS_SHARE, renderLayers } from './loop-layers.js';
import { LoopMixing } from './loop-mixing.js';
import { planOf } from './loop-plan.js';
import type { LoopRender, RenderOptions } from './loop-render.js';
import { mostBetween, runLoop } from './run-loop.js';

/**
 * Renders a loop in steps, yielding the share done, so that a host can show progress and stop. The loop is
 * run twice and the second round is kept. The same document, rate and pass give the same samples on every host.
 */
export function* renderLoopSteps(
  written: SoundDocument,
  options: RenderOptions,
): Generator<number, LoopRender> {
  const { sampleRateHz, pass = 0, stems = 'shares', taped = null, chains = null, onPart } = options;
  const plan = planOf(written, options);
  const { document, events, assembly, heard, start, total } = plan;
  const { mix } = assembly;
  const tape = taped ? (mix.chainAt(taped)?.record(total) ?? null) : null;
  heard.over(start, total);
  const layers = yield* renderLayers(plan, options);
  const writer = onPart ? new MixWriter(mostBetween(sampleRateHz), mix.stereo) : null;
  if (writer) mix.writeTo(writer);
  const handOver = (last: boolean) => {
    const part = writer?.take(last);
    if (part) onPart!(part);
  };
  const keepWritten = chains
    ? keepChains(document, mix, chains, {
        pass,
        sampleRateHz,
        start,
        frames: total,
        taped,
      })
    : null;
  const mixing = new LoopMixing(
    plan,
    layers,
    options,
    (frames) => new LoopKeeping(document, mix, layers, frames, stems),
  );
  const steps = runLoop(events, sampleRateHz, start, total, mixing);
  for (let step = steps.next(); !step.done; step = steps.next()) {
    handOver(false);
    yield LAYERS_SHARE + (1 - LAYERS_SHARE) * step.value;
  }
  handOver(true);
  keepWritten?.();
  yield 1;
  return {
    ...mixing.finished().loop,
    sampleRateHz,
    moved: mixing.moved,
    tape: tape ?? layers.find((layer) => layer.tape)?.tape ?? null,
  };
}

/** Renders a loop at once; see `renderLoopSteps`. */
export function renderLoop(document: SoundDocument, options: RenderOptions): LoopRender {
  return toEnd(renderLoopSteps(document, options));
}
