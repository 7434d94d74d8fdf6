import {
  layerJobSteps,
  spectraOf,
  toneOf,
  type CachedLayer,
  type LayerJob,
  type LoopSpectra,
  type Recording,
  type SoundDocument,
  type SpectraSignals,
  type ToneFigures,
  type ToneSignals,
} from '@abyssal/core';
import { expose, transfer } from 'comlink';
import { Breath } from './breath';
import type { SentAssets } from './render-types';

/** Renders single layers, and finds the spectra of what was rendered, beside the worker that measures. */
export class LayerRenderer {
  private readonly assets = new Map<string, Recording>();
  private readonly breath = new Breath();
  private wanted = 0;

  /** Takes recordings that sounds name from now on. */
  take(sent: SentAssets): void {
    for (const [hash, recording] of sent) this.assets.set(hash, recording);
  }

  /** Leaves off what is rendered, whatever it is. */
  leave(): void {
    this.wanted++;
  }

  /** Renders what is asked for of a layer; null where it was left off. */
  async render(document: SoundDocument, job: LayerJob, sampleRateHz: number): Promise<CachedLayer | null> {
    const mine = ++this.wanted;
    const steps = layerJobSteps(document, job, { sampleRateHz, assets: this.assets });
    const made = await this.breath.through(steps, () => mine === this.wanted);
    if (!made) return null;
    const { left, right } = made.value.entry.audio;
    return transfer(made.value, left === right ? [left.buffer] : [left.buffer, right.buffer]);
  }

  /** What is found of the tone of a loop. */
  tone(document: SoundDocument, signals: ToneSignals): ToneFigures {
    return toneOf(document, signals, this.assets);
  }

  /** The spectra of a loop. */
  spectra(document: SoundDocument, signals: SpectraSignals): LoopSpectra {
    return spectraOf(document, signals);
  }
}

expose(new LayerRenderer());
