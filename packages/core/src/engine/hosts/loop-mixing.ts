import { BLOCK } from '../../dsp/index.js';
import type { SoundDocument } from '../../document/index.js';
import type { Stereo } from '../base/recording.js';
import { keep, keepSum, seamFrames, silence, take, turnInto } from '../base/samples.js';
import type { LayerBlock } from '../mix/block.js';
import type { Mix } from '../mix/mix.js';
import type { Assembly } from './assembly.js';
import { Tracer, watchedInMix } from './moved.js';
import type { LayerRender } from './render-layer.js';
import type { LoopPlan } from './loop-plan.js';
import { DUCKING_FRAMES, type LoopRender, type RenderOptions } from './loop-render.js';
import type { Run } from './run-loop.js';

/** A layer as it was rendered by itself. */
export interface LayerAudio extends LayerRender {
  readonly id: string;
  readonly role: string;
}

/** Turns the ends of a loop's signals into `lead`, what was heard up to its start. */
function closeSeams(loop: LoopRender, lead: LoopRender): void {
  const signals = ({ kick, bass, all, bassBefore, backing, layers }: LoopRender) =>
    [kick, bass, all, ...(backing ? [backing] : []), ...layers]
      .flatMap(({ left, right }) => (right === left ? [left] : [left, right]))
      .concat(bassBefore);
  const before = signals(lead);
  signals(loop).forEach((signal, s) => {
    turnInto(signal, before[s]);
  });
}

/** What is written of a loop while it is mixed, silent as yet. */
function emptyLoop(
  document: SoundDocument,
  assembly: Assembly,
  layers: readonly LayerAudio[],
  frames: number,
  stereo: boolean,
  { sampleRateHz, stems = 'shares' }: RenderOptions,
): LoopRender {
  const { kick, backing } = assembly;
  const shared = stems === 'shares';
  return {
    sampleRateHz,
    frames,
    kick: silence(frames, kick.stereo),
    bass: silence(frames, stereo),
    all: silence(frames, stereo || kick.stereo),
    bassBefore: new Float32Array(frames),
    ducking: document.duck.on ? new Float32Array(Math.ceil(frames / DUCKING_FRAMES)).fill(1) : null,
    backing: backing.length > 0 ? silence(frames, true) : null,
    moved: [],
    tape: null,
    layers:
      stems === 'none'
        ? []
        : layers.map(({ id, left, right }) => ({
            id,
            ...silence(frames, left !== right || (stereo && shared)),
          })),
  };
}

/** Keeps both sides of a block, or the left one alone where they are one. */
function keepSides(
  left: Float64Array,
  right: Float64Array,
  from: number,
  frames: number,
  audio: Stereo,
  at: number,
): void {
  keep(left, from, frames, audio.left, at);
  if (audio.right !== audio.left) keep(right, from, frames, audio.right, at);
}

/**
 * Keeps what the mix has made of a step, the first `from` frames of which lie before the loop, as the loop's
 * samples from `at` on.
 */
function keepStep(mix: Mix, from: number, frames: number, out: LoopRender, at: number): void {
  keepSides(mix.kickLeft, mix.kickRight, from, frames, out.kick, at);
  keepSides(mix.bassLeft, mix.bassRight, from, frames, out.bass, at);
  keepSum(mix.kickLeft, mix.bassLeft, from, frames, out.all.left, at);
  if (out.all.right !== out.all.left) keepSum(mix.kickRight, mix.bassRight, from, frames, out.all.right, at);
  keep(mix.bassBefore, from, frames, out.bassBefore, at);
  // The gain is that of the bass as it goes in; it comes out so much later.
  if (out.ducking)
    out.ducking[Math.min(out.ducking.length - 1, Math.floor((at + from) / DUCKING_FRAMES))] = mix.ducking;
  if (out.backing) keepSides(mix.backLeft, mix.backRight, from, frames, out.backing, at);
  out.layers.forEach((layer, l) => {
    keepSides(mix.stems.taps[l].left, mix.stems.taps[l].right, from, frames, layer, at);
  });
}

/**
 * Mixes the layers of a loop as it runs, and keeps what sounds in its second round. A class, not functions made for each
 * render: what the machine makes of its steps once serves every render after it.
 */
export class LoopMixing implements Run {
  /** Frames that were mixed. */
  mixed = 0;
  private readonly blocks: readonly LayerBlock[];
  private readonly tracer: Tracer | null;
  private readonly out: LoopRender;
  /** What is heard up to the loop's start; a brief run has not settled there. */
  private readonly lead: LoopRender;
  private readonly seam: number;

  constructor(
    private readonly plan: LoopPlan,
    private readonly layers: readonly LayerAudio[],
    options: RenderOptions,
  ) {
    const { document, assembly, events } = plan;
    const { mix } = assembly;
    const loop = events.loopFrames;
    this.blocks = layers.map(({ role, left, right }) => {
      const block = new Float64Array(BLOCK);
      return { role, silent: false, left: block, right: right === left ? block : new Float64Array(BLOCK) };
    });
    this.tracer = options.traced ? new Tracer(watchedInMix(document, mix), loop) : null;
    this.out = emptyLoop(document, assembly, layers, loop, mix.stereo, options);
    this.seam = options.brief ? 0 : Math.min(loop, seamFrames(options.sampleRateHz));
    this.lead = emptyLoop(document, assembly, layers, this.seam, mix.stereo, options);
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
    if (from < frames) keepStep(mix, from, frames, this.out, at - first);
    if (from > 0 && at + frames > first - seam)
      keepStep(mix, Math.max(0, first - seam - at), Math.min(from, frames), this.lead, at - (first - seam));
    this.mixed = at + frames;
  }

  round(): void {
    this.plan.assembly.mix.comeRound();
  }

  /** The loop, once all of it was mixed. */
  finished(): LoopRender {
    const { out, lead, layers, tracer } = this;
    closeSeams(out, lead);
    const moved = tracer ? [...layers.flatMap((layer) => layer.moved), ...tracer.traces] : [];
    return { ...out, moved };
  }
}
