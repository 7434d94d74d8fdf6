import { BLOCK } from '../../dsp/index.js';
import { seamFrames, take, turnInto } from '../base/samples.js';
import type { LayerBlock } from '../mix/block.js';
import type { Keeping, LayerAudio } from './loop-keeping.js';
import type { LoopPlan } from './loop-plan.js';
import type { RenderOptions } from './loop-render.js';
import { Tracer, watchedInMix, type Trace } from './moved.js';
import type { Run } from './run-loop.js';

/** Turns the ends of a loop's signals into `lead`, what was heard up to its start. */
function closeSeams(loop: Keeping, lead: Keeping): void {
  const before = lead.signals;
  loop.signals.forEach((signal, s) => {
    turnInto(signal, before[s]);
  });
}

/**
 * Mixes the layers of a loop as it runs, and keeps what sounds in its second round. A class, not functions made for each
 * render: what the machine makes of its steps once serves every render after it.
 */
export class LoopMixing<K extends Keeping> implements Run {
  /** Frames that were mixed. */
  mixed = 0;
  private readonly blocks: readonly LayerBlock[];
  private readonly tracer: Tracer | null;
  private readonly out: K;
  /** What is heard up to the loop's start; a brief run has not settled there. */
  private readonly lead: K;
  private readonly seam: number;

  /** @param keeping makes what keeps so many frames. */
  constructor(
    private readonly plan: LoopPlan,
    private readonly layers: readonly LayerAudio[],
    { sampleRateHz, brief = false, traced = false }: RenderOptions,
    keeping: (frames: number) => K,
  ) {
    const { document, assembly, events } = plan;
    const loop = events.loopFrames;
    this.blocks = layers.map(({ role, left, right }) => {
      const block = new Float64Array(BLOCK);
      return { role, silent: false, left: block, right: right === left ? block : new Float64Array(BLOCK) };
    });
    this.tracer = traced ? new Tracer(watchedInMix(document, assembly.mix), loop) : null;
    this.out = keeping(loop);
    this.seam = brief ? 0 : Math.min(loop, seamFrames(sampleRateHz));
    this.lead = keeping(this.seam);
  }

  event(index: number): void {
    this.plan.assembly.event(this.plan.events, index);
  }

  step(at: number, frames: number, place: number): void {
    const { layers, blocks, seam } = this;
    const { assembly, track, first, stemsFrom } = this.plan;
    const { mix } = assembly;
    track?.next();
    mix.stems.ask(at >= stemsFrom);
    for (let l = 0; l < layers.length; l++) {
      const { left, right } = layers[l];
      take(left, at, blocks[l].left, frames);
      if (right !== left) take(right, at, blocks[l].right, frames);
    }
    assembly.render(blocks, frames, place);
    this.tracer?.take(place);
    const from = Math.max(0, first - at);
    if (from < frames) this.out.keep(mix, from, frames, at - first);
    if (from > 0 && at + frames > first - seam)
      this.lead.keep(mix, Math.max(0, first - seam - at), Math.min(from, frames), at - (first - seam));
    this.mixed = at + frames;
  }

  round(): void {
    this.plan.assembly.mix.comeRound();
  }

  /** The loop, once all of it was mixed. */
  finished(): K {
    closeSeams(this.out, this.lead);
    return this.out;
  }

  /** What moved in layers and mix, where that was traced. */
  get moved(): Trace[] {
    const { layers, tracer } = this;
    return tracer ? [...layers.flatMap((layer) => layer.moved), ...tracer.traces] : [];
  }
}
