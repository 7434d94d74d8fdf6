import {
  firstLayers,
  type CachedLayer,
  type MixPart,
  type Recording,
  type SoundDocument,
  type SoundingOptions,
  type BesideLook,
  type ToneFigures,
  type ToneSignals,
} from '@abyssal/core';
import type { Remote } from 'comlink';
import { copyOfLayer, handOver, loopToHandOver, samplesOfLayer } from './hand-over';
import type { LayerRenderer } from './layer-renderer';
import type { RenderOne } from './layer-pool';

/** Most workers that render the layers of one sound, the one that measures among them. */
const MOST_WORKERS = 4;

/** What is looked for beside, and where it is given the mix that it follows. */
export interface LookBeside {
  /** Null where it fails or is left off. */
  readonly found: Promise<BesideLook | null>;
  readonly onPart: (part: MixPart) => void;
  /** And all of its loop, in which the tone is found too. */
  readonly onLoop: (loop: ToneSignals) => void;
}

/** Workers that render layers and look at stems and tone beside the one that measures, one a core; they are made when they are first asked for. */
export class Helpers {
  private readonly remotes: Remote<LayerRenderer>[] = [];
  /** The layers that the first of them has, for it is the one that looks: their keys by their names. */
  private readonly known = new Map<string, string>();

  /** @param make another worker, while there are fewer than `cores`. */
  constructor(
    private readonly sampleRateHz: number,
    private readonly cores: number,
    private readonly make: () => Remote<LayerRenderer>,
  ) {}

  /** As many as are of use for so many layers. */
  for(layers: number, assets: ReadonlyMap<string, Recording>): RenderOne[] {
    return this.upTo(layers - 1, assets).map((remote, r) => async (document, job) => {
      const keeps = r === 0 && job.pass === 0;
      const made = await remote.render(document, job, this.sampleRateHz, keeps);
      if (keeps && made?.of === 'layer') this.known.set(made.made.name, made.made.entry.key);
      return made;
    });
  }

  /** Lets the one that looks have a layer that it may be asked to look at, unless it has it. */
  send(layer: CachedLayer): void {
    const { name, entry } = layer;
    const remote = this.remotes.at(0);
    if (!remote || this.known.get(name) === entry.key) return;
    this.known.set(name, entry.key);
    const copy = copyOfLayer(layer);
    void remote.keep(handOver(copy, samplesOfLayer(copy)));
  }

  /**
   * Has the first loop of a sound looked at with its stems, of the layers that `options` hold and the mix that is handed over; null where
   * there is no core to spare.
   */
  look(document: SoundDocument, options: SoundingOptions): LookBeside | null {
    const [remote] = this.upTo(1, options.assets ?? new Map());
    if (!remote) return null;
    const layers = firstLayers(document, options);
    for (const layer of layers) this.send(layer);
    const names = layers.map(({ name }) => name);
    for (const name of this.known.keys()) if (!names.includes(name)) this.known.delete(name);
    return {
      found: remote.look(document, names, this.sampleRateHz).catch(() => null),
      onPart: (part) => {
        void remote.takePart(handOver(part, [part.left, part.right, part.gains]));
      },
      onLoop: (loop) => {
        void remote.takeLoop(loopToHandOver(loop));
      },
    };
  }

  /**
   * What is found of the tone of a loop, null standing for the one that was looked at last; null where there is no core to
   * spare.
   */
  async tone(
    document: SoundDocument,
    loop: ToneSignals | null,
    assets: ReadonlyMap<string, Recording>,
  ): Promise<ToneFigures | null> {
    const [remote] = this.upTo(1, assets);
    return remote ? await remote.tone(document, loop && loopToHandOver(loop)) : null;
  }

  private upTo(count: number, assets: ReadonlyMap<string, Recording>): Remote<LayerRenderer>[] {
    const most = Math.max(0, Math.min(MOST_WORKERS, this.cores, count + 1) - 1);
    while (this.remotes.length < most) {
      const remote = this.make();
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
