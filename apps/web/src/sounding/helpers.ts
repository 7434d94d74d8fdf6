import type {
  LoopSpectra,
  Recording,
  SoundDocument,
  SpectraSignals,
  ToneFigures,
  ToneSignals,
} from '@abyssal/core';
import { wrap, type Remote } from 'comlink';
import type { LayerRenderer } from './layer.worker';
import type { RenderOne } from './layer-pool';

/** Most workers that render the layers of one sound, the one that measures among them. */
const MOST_WORKERS = 4;

/** Workers that render layers and find spectra beside the one that measures, one a core; they are made when they are first asked for. */
export class Helpers {
  private readonly remotes: Remote<LayerRenderer>[] = [];

  constructor(private readonly sampleRateHz: number) {}

  /** As many as are of use for so many layers. */
  for(layers: number, assets: ReadonlyMap<string, Recording>): RenderOne[] {
    return this.upTo(layers - 1, assets).map(
      (remote) => (document, job) => remote.render(document, job, this.sampleRateHz),
    );
  }

  /** The spectra of a loop; null where there is no core to spare. */
  async spectra(
    document: SoundDocument,
    signals: SpectraSignals,
    assets: ReadonlyMap<string, Recording>,
  ): Promise<LoopSpectra | null> {
    const [remote] = this.upTo(1, assets);
    return remote ? await remote.spectra(document, signals) : null;
  }

  /** What is found of the tone of a loop; null where there is no core to spare. */
  async tone(
    document: SoundDocument,
    signals: ToneSignals,
    assets: ReadonlyMap<string, Recording>,
  ): Promise<ToneFigures | null> {
    const [remote] = this.upTo(1, assets);
    return remote ? await remote.tone(document, signals) : null;
  }

  private upTo(count: number, assets: ReadonlyMap<string, Recording>): Remote<LayerRenderer>[] {
    const most = Math.max(0, Math.min(MOST_WORKERS, navigator.hardwareConcurrency, count + 1) - 1);
    while (this.remotes.length < most) {
      const remote = wrap<LayerRenderer>(
        new Worker(new URL('./layer.worker.ts', import.meta.url), { type: 'module' }),
      );
      void remote.take([...assets]);
      this.remotes.push(remote);
    }
    return this.remotes.slice(0, most);
  }

  /** Gives a recording to those there are. */
  take(hash: string, recording: Recording): void {
    for (const remote of this.remotes) void remote.take([[hash, recording]]);
  }

  /** They leave off what they render. */
  leave(): void {
    for (const remote of this.remotes) void remote.leave();
  }
}
