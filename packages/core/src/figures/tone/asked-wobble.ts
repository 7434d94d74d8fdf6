import { fromPosition, parameter, type LineNote, type SoundDocument } from '../../document/index.js';
import { TRACE_FRAMES, type LoopRender, type Trace } from '../../engine/index.js';
import { wobbleHz, type MoverOf } from '../../kinds/movers/index.js';
import { nearestDivision } from '../../units/index.js';

type Wobble = MoverOf<'wobble'>;

/** Whether a mover carries anything. */
const carries = ({ links, movers }: SoundDocument, id: string) =>
  movers.some((mover) => mover.id === id && mover.on) &&
  links.some(({ mover, on, reachPct, fromPct }) => on && mover === id && (reachPct !== 0 || fromPct !== 0));

/** The middle of what a moved number stood at over a stretch. */
function middleOf({ values }: Trace, from: number, to: number): number {
  const part = values
    .slice(Math.floor(from / TRACE_FRAMES), Math.max(1, Math.ceil(to / TRACE_FRAMES)))
    .sort();
  return part[part.length >> 1] ?? 0;
}

/** Cycles a second that a wobble is asked for over a stretch of the loop, in frames; 0 where it is held still. */
function askedOf(
  { ground: { tempoBpm } }: SoundDocument,
  wobble: Wobble,
  note: LineNote,
  moved: readonly Trace[],
  from: number,
  to: number,
): number {
  if (wobble.byNote && note.wobbleBeats !== null)
    return note.wobbleBeats === 0 ? 0 : tempoBpm / 60 / note.wobbleBeats;
  const field = wobble.rateIn === 'hertz' ? 'rateHz' : 'rateBeats';
  const trace = moved.find(({ id }) => id === `movers.${wobble.id}.${field}`);
  if (!trace) return wobbleHz(wobble, tempoBpm);
  const value = fromPosition(parameter(`movers.*.wobble.${field}`), middleOf(trace, from, to));
  if (field === 'rateHz') return value;
  return tempoBpm / 60 / (wobble.keepsBeat ? nearestDivision(value) : value);
}

/** The rates in hertz at which wobbles that carry something are asked to move a note, each once, slowest first. */
export function askedWobbles(
  document: SoundDocument,
  note: LineNote,
  { moved }: Pick<LoopRender, 'moved'>,
  from: number,
  to: number,
): number[] {
  const rates = document.movers.flatMap((mover) =>
    mover.kind === 'wobble' && carries(document, mover.id)
      ? [askedOf(document, mover, note, moved, from, to)]
      : [],
  );
  return [...new Set(rates.filter((hz) => hz > 0))].sort((a, b) => a - b);
}
