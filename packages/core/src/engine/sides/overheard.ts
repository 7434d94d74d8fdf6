import type { SoundDocument } from '../../document/index.js';
import { BLOCK } from '../../dsp/index.js';
import { unitKindOf, type GritUnit } from '../../kinds/units/index.js';
import type { Assets } from '../base/recording.js';
import { EarlyPlayers, KICK_SIDE } from './early-players.js';

/** The names of what those units that are on listen to beside what goes through them. */
export const heardByUnits = (units: readonly GritUnit[]): string[] => [
  ...new Set(units.flatMap((unit) => (unit.on ? (unitKindOf(unit.kind).hears?.(unit) ?? []) : []))),
];

/** What units listen to beside the bass: the kick and the backing parts at the level at which they are heard, in mono. */
export class Overheard extends EarlyPlayers {
  private readonly blocks = new Map<string, Float64Array>();
  private readonly kickBlock = new Float64Array(BLOCK);
  private readonly partBlocks: readonly Float64Array[];

  constructor(document: SoundDocument, names: readonly string[], sampleRateHz: number, assets: Assets) {
    super(document, names, sampleRateHz, assets);
    if (this.kick) this.blocks.set(KICK_SIDE, this.kickBlock);
    this.partBlocks = this.parts.map((part) => new Float64Array(part ? BLOCK : 0));
    this.parts.forEach((part, i) => {
      if (part) this.blocks.set(document.backing[i].id, this.partBlocks[i]);
    });
  }

  /** The block of one that is listened to; null for anybody else. */
  block(name: string): Float64Array | null {
    return this.blocks.get(name) ?? null;
  }

  /** Plays the next `frames` (at most `BLOCK`) into the blocks. */
  render(frames: number): void {
    const { kick, kickBlock, kickGain, parts, partBlocks } = this;
    if (kick) {
      kick.render(frames);
      mono(kick.left, kick.right, kick.silent, kickGain, kickBlock, frames);
    }
    for (let p = 0; p < parts.length; p++) {
      const part = parts[p];
      if (!part) continue;
      part.render(frames);
      mono(part.left, part.right, part.silent, UNITY, partBlocks[p], frames);
    }
  }
}

const UNITY = Float64Array.of(1);

function mono(
  left: Float64Array,
  right: Float64Array,
  silent: boolean,
  gain: Float64Array,
  to: Float64Array,
  frames: number,
): void {
  const half = 0.5 * gain[0];
  if (silent) for (let i = 0; i < frames; i++) to[i] = 0;
  else for (let i = 0; i < frames; i++) to[i] = half * (left[i] + right[i]);
}
