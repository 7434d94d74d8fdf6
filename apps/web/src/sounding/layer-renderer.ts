import {
  layerJobSteps,
  besideLookOf,
  followLoopSteps,
  toneOf,
  type CachedLayer,
  type LayerCache,
  type LayerJob,
  type LayerJobDone,
  type MixPart,
  type Recording,
  type SoundDocument,
  type BesideLook,
  type ToneFigures,
  type ToneSignals,
} from '@abyssal/core';
import { Breath } from './breath';
import { ComingMix } from './coming-mix';
import { copyOfLayer, handOver, samplesOfLayer } from './hand-over';
import type { SentAssets } from './render-types';

/** Renders single layers, and looks at a loop and its tone, beside the worker that measures. */
export class LayerRenderer {
  private readonly assets = new Map<string, Recording>();
  private readonly breath = new Breath();
  private wanted = 0;
  /** Layers that may be looked at, as they were rendered here or sent. */
  private readonly layers: LayerCache = new Map();
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

  /** Renders what is asked for of a layer, and keeps it where it may be looked at; null where it was left off. */
  async render(
    document: SoundDocument,
    job: LayerJob,
    sampleRateHz: number,
    keeps: boolean,
  ): Promise<LayerJobDone | null> {
    const mine = ++this.wanted;
    const steps = layerJobSteps(document, job, { sampleRateHz, assets: this.assets });
    const made = await this.breath.through(steps, () => mine === this.wanted);
    if (!made) return null;
    if (made.value.of === 'tone') return made.value;
    const layer = made.value.made;
    if (keeps) this.keep(layer);
    const given = keeps ? copyOfLayer(layer) : layer;
    return handOver({ of: 'layer', made: given }, samplesOfLayer(given));
  }

  /** Takes a layer that may be looked at. */
  keep({ name, entry }: CachedLayer): void {
    this.layers.set(name, entry);
  }

  /** What is found of the tone of a loop, or of the one that was looked at last. */
  async tone(document: SoundDocument, signals: ToneSignals | null): Promise<ToneFigures | null> {
    const loop = signals ?? (await this.coming?.loop());
    return loop ? toneOf(document, loop, this.assets) : null;
  }

  /**
   * What is found in the first loop of a sound beside its pass, with the stems from its layers, which are kept here by these
   * names, and its mix as it is handed over; null where it was left off.
   */
  async look(
    document: SoundDocument,
    names: readonly string[],
    sampleRateHz: number,
  ): Promise<BesideLook | null> {
    const mine = ++this.wanted;
    for (const name of this.layers.keys()) if (!names.includes(name)) this.layers.delete(name);
    const coming = (this.coming = new ComingMix());
    const steps = followLoopSteps(document, {
      sampleRateHz,
      assets: this.assets,
      cache: this.layers,
      follows: coming.reader,
    });
    const wanted = () => mine === this.wanted;
    const stems = await this.breath.through(steps, wanted, undefined, () => coming.enough());
    const loop = stems && (await coming.loop());
    return loop && wanted() ? besideLookOf(document, { ...loop, layers: stems.value.layers }) : null;
  }

  /** Takes the next part of the mix of the sound that was to be looked at last. */
  takePart(part: MixPart): void {
    this.coming?.give(part);
  }

  /** Takes all of its loop. */
  takeLoop(loop: ToneSignals): void {
    this.coming?.giveLoop(loop);
  }
}
