import type { SoundDocument } from '../../document/index.js';
import type { Stereo } from '../base/recording.js';
import { keep, keepSum, silence } from '../base/samples.js';
import type { Mix, Stems } from '../mix/mix.js';
import type { LayerRender } from './render-layer.js';
import { DUCKING_FRAMES, type LoopRender, type LoopStems } from './loop-render.js';

/** A layer as it was rendered by itself. */
export interface LayerAudio extends LayerRender {
  readonly id: string;
  readonly role: string;
}

/** Keeps of a mix, step by step, what is wanted of a stretch of its loop. */
export interface Keeping {
  /** Keeps what the mix has made of a step, from its frame `from` on, as the samples from `at` on. */
  keep(mix: Mix, from: number, frames: number, at: number): void;
  /** All that is kept. */
  readonly signals: readonly Float32Array[];
}

const sides = ({ left, right }: Stereo) => (right === left ? [left] : [left, right]);

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

/** Keeps the stems of a loop. */
export class StemKeeping implements Keeping {
  readonly layers: LoopStems['layers'];

  /** @param shared whether each is a share of the bass, which may have two sides where its layer has one. */
  constructor(mix: Mix, layers: readonly LayerAudio[], frames: number, shared: boolean) {
    this.layers = layers.map(({ id, left, right }) => ({
      id,
      ...silence(frames, left !== right || (mix.stereo && shared)),
    }));
  }

  get signals(): Float32Array[] {
    return this.layers.flatMap(sides);
  }

  keep({ stems }: Mix, from: number, frames: number, at: number): void {
    const { layers } = this;
    for (let l = 0; l < layers.length; l++)
      keepSides(stems.taps[l].left, stems.taps[l].right, from, frames, layers[l], at);
  }
}

/** Keeps all of a loop, with its stems where they are wanted. */
export class LoopKeeping implements Keeping {
  readonly loop: Omit<LoopRender, 'sampleRateHz' | 'moved' | 'tape'>;
  private readonly stems: StemKeeping;

  constructor(
    document: SoundDocument,
    mix: Mix,
    layers: readonly LayerAudio[],
    frames: number,
    stems: Stems,
  ) {
    const { stereo, kickStereo } = mix;
    this.stems = new StemKeeping(mix, stems === 'none' ? [] : layers, frames, stems === 'shares');
    this.loop = {
      frames,
      kick: silence(frames, kickStereo),
      bass: silence(frames, stereo),
      all: silence(frames, stereo || kickStereo),
      bassBefore: new Float32Array(frames),
      ducking: document.duck.on ? new Float32Array(Math.ceil(frames / DUCKING_FRAMES)).fill(1) : null,
      backing: mix.hasBacking ? silence(frames, true) : null,
      layers: this.stems.layers,
    };
  }

  get signals(): Float32Array[] {
    const { kick, bass, all, bassBefore, backing } = this.loop;
    return [kick, bass, all, ...(backing ? [backing] : [])]
      .flatMap(sides)
      .concat(bassBefore, this.stems.signals);
  }

  keep(mix: Mix, from: number, frames: number, at: number): void {
    const { kick, bass, all, bassBefore, ducking, backing } = this.loop;
    keepSides(mix.kickLeft, mix.kickRight, from, frames, kick, at);
    keepSides(mix.bassLeft, mix.bassRight, from, frames, bass, at);
    keepSum(mix.kickLeft, mix.bassLeft, from, frames, all.left, at);
    if (all.right !== all.left) keepSum(mix.kickRight, mix.bassRight, from, frames, all.right, at);
    keep(mix.bassBefore, from, frames, bassBefore, at);
    // The gain is that of the bass as it goes in; it comes out so much later.
    if (ducking)
      ducking[Math.min(ducking.length - 1, Math.floor((at + from) / DUCKING_FRAMES))] = mix.ducking;
    if (backing) keepSides(mix.backLeft, mix.backRight, from, frames, backing, at);
    this.stems.keep(mix, from, frames, at);
  }
}
