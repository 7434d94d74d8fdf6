import { BLOCK, STEP } from '../../dsp/index.js';
import type { SoundDocument } from '../../document/index.js';
import { toEnd } from '../../units/index.js';
import type { Assets } from '../base/recording.js';
import { listenedOf, Listening } from '../mix/listening.js';
import type { Heard } from '../movers/heard.js';
import { tellListening } from './assembly.js';
import type { EventList } from './events.js';
import { runLoop } from './run-loop.js';

/** All steps of a render, one after the other, and where each block begins among them. */
interface AllHeard {
  readonly levels: Float64Array;
  readonly strikes: Uint8Array;
  readonly starts: readonly number[];
}

/** What was heard before, block by block, for one that runs along. */
export class HeardBlocks implements Heard {
  readonly first = new Int32Array(1);
  levels: Float64Array = new Float64Array(0);
  strikes: Uint8Array = new Uint8Array(0);
  private starts: readonly number[] | null = null;
  private block = 0;

  constructor(
    private readonly track: HeardTrack,
    readonly listened: Int32Array,
  ) {}

  /** Goes to the next block. */
  next(): void {
    this.starts ??= this.take();
    this.first[0] = this.starts[this.block++];
  }

  private take(): readonly number[] {
    const { levels, strikes, starts } = this.track.all;
    this.levels = levels;
    this.strikes = strikes;
    return starts;
  }
}

/**
 * What movers hear over a render, heard once for all layers and the mix. Whoever reads it must run the same
 * events over the same frames.
 */
export class HeardTrack {
  private made: AllHeard | null = null;
  private start = 0;
  private total = 0;
  private readonly listened: Int32Array;

  constructor(
    private readonly document: SoundDocument,
    private readonly events: EventList,
    private readonly options: { readonly sampleRateHz: number; readonly assets: Assets },
  ) {
    this.listened = listenedOf(document);
  }

  /** Says over how many frames the events are run, and from where in the loop. */
  over(start: number, total: number): void {
    this.start = start;
    this.total = total;
  }

  /** Another that runs along; null where no mover listens. */
  blocksFor(): HeardBlocks | null {
    return this.listened.length > 0 ? new HeardBlocks(this, this.listened) : null;
  }

  get all(): AllHeard {
    return (this.made ??= this.make());
  }

  private make(): AllHeard {
    const { document, events, listened, start, total } = this;
    const { sampleRateHz, assets } = this.options;
    const listening = new Listening(document, sampleRateHz, assets);
    const starts: number[] = [];
    // Events cut blocks, and each piece may end in a step that is not whole.
    const most =
      Math.ceil(total / STEP) + (Math.ceil(total / events.loopFrames) + 1) * (events.frame.length + 1);
    const levels = new Float64Array((most + Math.ceil(total / BLOCK)) * listened.length);
    const strikes = new Uint8Array(levels.length);
    let step = 0;
    toEnd(
      runLoop(events, sampleRateHz, start, total, {
        event: (index) => {
          tellListening(listening, events, index);
        },
        step: (_at, frames) => {
          listening.render(frames);
          starts.push(step);
          const to = Math.ceil(frames / STEP) * listened.length;
          for (let i = 0, at = step * listened.length; i < to; i++, at++) {
            levels[at] = listening.levels[i];
            strikes[at] = listening.strikes[i];
          }
          step += Math.ceil(frames / STEP);
        },
      }),
    );
    return { starts, levels, strikes };
  }
}
