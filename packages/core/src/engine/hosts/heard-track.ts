import type { SoundDocument } from '../../document/index.js';
import { toEnd } from '../../units/index.js';
import { BLOCK, STEP } from '../base/chunk.js';
import type { Assets } from '../base/recording.js';
import { Listening, listensTo } from '../mix/listening.js';
import { LISTENED, type Heard } from '../movers/heard.js';
import { tellListening } from './assembly.js';
import type { EventList } from './events.js';
import { runLoop } from './run-loop.js';

const STEPS = BLOCK / STEP;

interface Blocks {
  readonly levels: Float64Array;
  readonly strikes: Uint8Array;
}

/** What was heard before, block by block, for one that runs along. */
export class HeardBlocks implements Heard {
  readonly levels = new Float64Array(STEPS * LISTENED);
  readonly strikes = new Uint8Array(STEPS * LISTENED);
  private block = 0;

  constructor(private readonly track: HeardTrack) {}

  /** Goes to the next block. */
  next(): void {
    const { levels, strikes } = this.track.blocks[this.block++];
    this.levels.set(levels);
    this.strikes.set(strikes);
  }
}

/**
 * What movers hear over a render, heard once for all layers and the mix. Whoever reads it must run the same
 * events over the same frames.
 */
export class HeardTrack {
  private made: Blocks[] | null = null;
  private start = 0;
  private total = 0;

  constructor(
    private readonly document: SoundDocument,
    private readonly events: EventList,
    private readonly options: { readonly sampleRateHz: number; readonly assets: Assets },
  ) {}

  /** Says over how many frames the events are run, and from where in the loop. */
  over(start: number, total: number): void {
    this.start = start;
    this.total = total;
  }

  /** Another that runs along; null where no mover listens. */
  blocksFor(): HeardBlocks | null {
    return listensTo(this.document).length > 0 ? new HeardBlocks(this) : null;
  }

  get blocks(): readonly Blocks[] {
    if (this.made) return this.made;
    const made: Blocks[] = [];
    const { sampleRateHz, assets } = this.options;
    const listening = new Listening(this.document, sampleRateHz, assets);
    toEnd(
      runLoop(this.events, sampleRateHz, this.start, this.total, {
        event: (index) => {
          tellListening(listening, this.events, index);
        },
        step: (_at, frames) => {
          listening.render(frames);
          made.push({ levels: listening.levels.slice(), strikes: listening.strikes.slice() });
        },
      }),
    );
    return (this.made = made);
  }
}
