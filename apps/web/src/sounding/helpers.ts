import {
  firstLayers,
  type MixPart,
  type Recording,
  type SoundDocument,
  type SoundingOptions,
  type BesideLook,
  type ToneFigures,
  type ToneSignals,
} from '@abyssal/core';
import { transfer, wrap, type Remote } from 'comlink';
import type { LayerRenderer } from './layer.worker';
import type { RenderOne } from './layer-pool';

/** Most workers that render the layers of one sound, the one that measures among them. */
const MOST_WORKERS = 4;

/** What is looked for beside, and where it is given the mix that it follows. */
export interface LookBeside {
  /** Null where it fails or is left off. */
  readonly found: Promise<BesideLook | null>;
  readonly onPart: (part: MixPart) => void;
}

/** Workers that render layers and look at stems and tone beside the one that measures, one a core; they are made when they are first asked for. */
export class Helpers {
  private readonly remotes: Remote<LayerRenderer>[] = [];

  constructor(private readonly sampleRateHz: number) {}

  /** As many as are of use for so many layers. */
  for(layers: number, assets: ReadonlyMap<string, Recording>): RenderOne[] {
    return this.upTo(layers - 1, assets).map(
      (remote) => (document, job) => remote.render(document, job, this.sampleRateHz),
    );
  }

  /**
   * Has the first loop of a sound looked at with its stems, of the layers that `options` hold and the mix that is handed over; null where
   * there is no core to spare.
   */
  look(document: SoundDocument, options: SoundingOptions): LookBeside | null {
    const [remote] = this.upTo(1, options.assets ?? new Map());
    if (!remote) return null;
    return {
      found: remote.look(document, firstLayers(document, options), this.sampleRateHz).catch(() => null),
      onPart: (part) => {
        const { left, right, gains } = part;
        const buffers = [left, ...(right === left ? [] : [right]), ...(gains ? [gains] : [])];
        void remote.takePart(
          transfer(
            part,
            buffers.map(({ buffer }) => buffer),
          ),
        );
      },
    };
  }

  /** What is found of the tone of a loop; null where there is no core to spare. */
  async tone(
    document: SoundDocument,
    { sampleRateHz, frames, kick, bass, backing, moved }: ToneSignals,
    assets: ReadonlyMap<string, Recording>,
  ): Promise<ToneFigures | null> {
    const [remote] = this.upTo(1, assets);
    // What a loop has beyond these would be copied for nothing.
    const signals = { sampleRateHz, frames, kick, bass, backing, moved };
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
