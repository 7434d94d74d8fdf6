import type { Recording } from '@abyssal/core';
import { wrap, type Remote } from 'comlink';
import type { LayerRenderer } from './layer.worker';
import type { RenderOne } from './layer-pool';

/** Most workers that render the layers of one sound, the one that measures among them. */
const MOST_WORKERS = 4;

/** Workers that render layers beside the one that measures, one a core; they are made when they are first asked for. */
export class Helpers {
  private readonly remotes: Remote<LayerRenderer>[] = [];

  constructor(private readonly sampleRateHz: number) {}

  /** As many as are of use for so many layers. */
  for(layers: number, assets: ReadonlyMap<string, Recording>): RenderOne[] {
    const most = Math.min(MOST_WORKERS, navigator.hardwareConcurrency, layers) - 1;
    while (this.remotes.length < most) {
      const remote = wrap<LayerRenderer>(
        new Worker(new URL('./layer.worker.ts', import.meta.url), { type: 'module' }),
      );
      void remote.take([...assets]);
      this.remotes.push(remote);
    }
    return this.remotes
      .slice(0, Math.max(0, most))
      .map((remote) => (document, job) => remote.render(document, job, this.sampleRateHz));
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
