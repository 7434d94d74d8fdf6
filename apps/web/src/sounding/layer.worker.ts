import {
  layerJobSteps,
  besideLookSteps,
  toneOf,
  type CachedLayer,
  type LayerJob,
  type LayerJobDone,
  type MixPart,
  type Recording,
  type SoundDocument,
  type BesideLook,
  type ToneFigures,
  type ToneSignals,
} from '@abyssal/core';
import { expose, transfer } from 'comlink';
import { Breath } from './breath';
import { ComingMix } from './coming-mix';
import type { SentAssets } from './render-types';

/** Renders single layers, and looks at a loop and its tone, beside the worker that measures. */
export class LayerRenderer {
  private readonly assets = new Map<string, Recording>();
  private readonly breath = new Breath();
  private wanted = 0;
  /** What is mixed elsewhere, of the sound that was to be looked at last. */
  private coming: ComingMix | null = null;

  /** Takes recordings that sounds name from now on. */
  take(sent: SentAssets): void {
    for (const [hash, recording] of sent) this.assets.set(hash, recording);
  }

  /** Leaves off what is rendered, whatever it is. */
  leave(): void {
    this.wanted++;
    this.coming?.leave();
  }

  /** Renders what is asked for of a layer; null where it was left off. */
  async render(document: SoundDocument, job: LayerJob, sampleRateHz: number): Promise<LayerJobDone | null> {
    const mine = ++this.wanted;
    const steps = layerJobSteps(document, job, { sampleRateHz, assets: this.assets });
    const made = await this.breath.through(steps, () => mine === this.wanted);
    if (!made) return null;
    if (made.value.of === 'tone') return made.value;
    const { left, right } = made.value.made.entry.audio;
    return transfer(made.value, left === right ? [left.buffer] : [left.buffer, right.buffer]);
  }

  /** What is found of the tone of a loop. */
  tone(document: SoundDocument, signals: ToneSignals): ToneFigures {
    return toneOf(document, signals, this.assets);
  }

  /** What is found in the first loop of a sound, from its layers, and its mix as it is handed over; null where it was left off. */
  async look(
    document: SoundDocument,
    layers: readonly CachedLayer[],
    sampleRateHz: number,
  ): Promise<BesideLook | null> {
    const mine = ++this.wanted;
    const cache = new Map(layers.map(({ name, entry }) => [name, entry]));
    const coming = (this.coming = new ComingMix());
    const follows = coming.reader;
    const steps = besideLookSteps(document, { sampleRateHz, assets: this.assets, cache, follows });
    const found = await this.breath.through(
      steps,
      () => mine === this.wanted,
      undefined,
      () => coming.enough(),
    );
    return found && found.value;
  }

  /** Takes the next part of the mix of the sound that was to be looked at last. */
  takePart(part: MixPart): void {
    this.coming?.give(part);
  }
}

expose(new LayerRenderer());
