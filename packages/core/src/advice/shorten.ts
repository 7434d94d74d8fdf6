import type { SoundDocument } from '../document/index.js';
import { hitTicks } from '../engine/index.js';
import { loopTicks, ticksRound, ticksToSeconds } from '../units/index.js';

/** Share of a shortened recording over which it fades. */
const FADES = 0.5;
/** A kick shorter than this, in ms, is left as it is. */
const SHORTEST_MS = 60;

/**
 * The kick ended after so many ms where it lasted `lengthS`; null where that is no shorter by a tenth, or
 * there is none. A made kick is drawn together, a recording fades out over its second half.
 */
export function withKickLength(
  document: SoundDocument,
  lengthS: number | null,
  toMs: number,
): SoundDocument | null {
  const { kick } = document;
  if (lengthS === null || toMs < SHORTEST_MS || toMs > 900 * lengthS) return null;
  if (kick.source === 'wav') {
    if (!kick.wav) return null;
    // What is trimmed is the recording as it came: retuned it lasts longer or less long.
    const ms = Math.round(toMs * 2 ** (kick.wav.retuneSt / 12));
    return {
      ...document,
      kick: {
        ...kick,
        wav: {
          ...kick.wav,
          endMs: Math.min(kick.wav.endMs, kick.wav.startMs + ms),
          fadeMs: Math.round(Math.max(kick.wav.fadeMs, FADES * ms)),
        },
      },
    };
  }
  const share = toMs / (1000 * lengthS);
  const { holdMs, decayMs } = kick.made;
  return {
    ...document,
    kick: {
      ...kick,
      made: {
        ...kick.made,
        holdMs: Math.round(share * holdMs),
        decayMs: Math.max(20, Math.round(share * decayMs)),
      },
    },
  };
}

/**
 * How long the kick may last, in ms, to be over by the next note that begins after any hit; half of the way
 * to the next hit where a note is held on.
 */
export function roomForKickMs({ kick, line, ground }: SoundDocument): number {
  const loop = loopTicks(ground.bars);
  const hits = hitTicks(kick);
  const after = (from: number, ticks: readonly number[]) =>
    Math.min(loop, ...ticks.map((tick) => ticksRound(from, tick, loop)).filter((gap) => gap > 1));
  const rooms = hits.map((hit) => {
    const toHit = after(hit, hits);
    const toNote = after(
      hit,
      line.notes.map(({ tick }) => tick),
    );
    return toNote < 0.95 * toHit ? toNote : toHit / 2;
  });
  return 1000 * ticksToSeconds(Math.min(loop, ...rooms), ground.tempoBpm);
}
