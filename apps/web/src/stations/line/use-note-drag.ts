import type { LineNote } from '@abyssal/core';
import { useDrag } from '@use-gesture/react';
import { useRef, useState, type RefObject } from 'react';
import { changeNotes, drawNote, lengthenNotes, moveNotes, stepPitch } from './line-edits';
import { rateFrom } from './note-rates';
import { presentNotes } from './set-notes';
import type { SheetGeometry } from './sheet-geometry';

/** Pixels at a note's end by which it is lengthened; of a short note, the last two fifths. */
const END_PX = 8;
const END_SHARE = 0.4;
/** Pixels up or down from one rate to the next. */
const RATE_PX = 10;

/** What the sheet's gestures need of it. */
export interface SheetGestures {
  readonly svg: RefObject<SVGSVGElement | null>;
  readonly geometry: SheetGeometry;
  readonly notes: LineNote[];
  readonly bars: number;
  readonly gridTicks: number;
  readonly chosen: ReadonlySet<number>;
  readonly onChoose: (chosen: ReadonlySet<number>) => void;
  /** Sets the notes as one step of undo; changes of one group are one step. */
  readonly set: (label: string, next: LineNote[], group?: string | null) => void;
}

/** A note being drawn: its place among the notes, where it begins, where the pointer went down. */
interface Drawn {
  readonly index: number;
  readonly tick: number;
  readonly from: number;
}

/** A frame that chooses the notes in it, in pixels of the sheet. */
export interface Marquee {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** Notes being dragged: as they were, which of them, whether by their end, or by their wobble’s rate. */
interface Dragged {
  readonly index: number;
  readonly byRate: boolean;
  readonly notes: LineNote[];
  readonly mine: ReadonlySet<number>;
  readonly atEnd: boolean;
}

/** The place among the notes of the one that an element of the sheet belongs to. */
export const noteOf = (target: EventTarget | null): number =>
  Number((target as Element).closest('[data-note]')!.getAttribute('data-note'));

/** Drags on the sheet: on the rows they draw a note, on a note they move or lengthen it, and all that are chosen with it. */
export function useNoteDrag({ svg, geometry, notes, bars, gridTicks, chosen, onChoose, set }: SheetGestures) {
  const [marquee, setMarquee] = useState<Marquee | null>(null);
  /** Length last set by hand; until one was, a note is a step of the grid. */
  const lastTicks = useRef<number | null>(null);
  const { rows, rowHeight, total, plot, xOf } = geometry;
  const snap = (tick: number) => Math.round(tick / gridTicks) * gridTicks;
  const placeOf = (clientX: number, clientY: number) => {
    const box = svg.current!.getBoundingClientRect();
    return geometry.placeOf(clientX - box.left, clientY - box.top);
  };
  /** Length of a note that is drawn: the one last set, but it ends where the next one of its row begins. */
  const lengthAt = (tick: number, pitch: number) => {
    const after = notes.filter((note) => note.pitch === pitch && note.tick > tick);
    const next = Math.min(...after.map((note) => note.tick), total);
    return Math.min(lastTicks.current ?? gridTicks, next - tick);
  };
  const add = (tick: number, pitch: number, ticks: number, group: string | null) => {
    const next = drawNote(notes, tick, pitch, ticks, bars);
    set('draw note', next, group);
    onChoose(new Set([next.length - 1]));
    return next.length - 1;
  };

  const begin = (clientX: number, clientY: number): Drawn | null => {
    const at = placeOf(clientX, clientY);
    const tick = Math.floor(at.tick / gridTicks) * gridTicks;
    if (at.tick < 0 || tick >= total) return null;
    const index = add(tick, at.pitch, lengthAt(tick, at.pitch), `draw ${notes.length + 1}`);
    return { index, tick, from: at.tick };
  };

  const stretch = ({ index, tick, from }: Drawn, clientX: number) => {
    const here = placeOf(clientX, 0).tick;
    if (Math.abs(here - from) <= gridTicks / 2) return;
    const present = presentNotes();
    const ticks = Math.max(gridTicks, snap(here) - tick);
    const next = lengthenNotes(present, new Set([index]), ticks - present[index].ticks, gridTicks, bars);
    set('draw note', next, `draw ${present.length}`);
    lastTicks.current = ticks;
  };

  /** Chooses the notes that a frame from one place to another meets, beside those of `before`. */
  const enclose = (
    from: readonly [number, number],
    to: readonly [number, number],
    before: ReadonlySet<number>,
  ) => {
    const box = svg.current!.getBoundingClientRect();
    const [x0, x1] = [from[0] - box.left, to[0] - box.left].sort((a, b) => a - b);
    const [y0, y1] = [from[1] - box.top, to[1] - box.top].sort((a, b) => a - b);
    setMarquee({ x0, y0, x1, y1 });
    const met = notes.flatMap((note, i) => {
      const y = geometry.yOf(note.pitch);
      const meets = xOf(note.tick) < x1 && xOf(note.tick + note.ticks) > x0 && y < y1 && y + rowHeight > y0;
      return meets ? [i] : [];
    });
    onChoose(new Set([...before, ...met]));
  };

  const draw = useDrag(
    ({ first, last, initial, xy, xy: [x], memo, event, shiftKey }) => {
      event.preventDefault();
      if (first && shiftKey) return { before: chosen };
      if (memo && typeof memo === 'object' && 'before' in memo) {
        enclose(initial, xy, (memo as { before: ReadonlySet<number> }).before);
        if (last) setMarquee(null);
        return memo as { before: ReadonlySet<number> };
      }
      if (first) return begin(initial[0], initial[1]);
      const drawn = memo as Drawn | null;
      if (!drawn) return null;
      stretch(drawn, x);
      if (last) svg.current?.querySelector<SVGElement>(`[data-note="${drawn.index}"]`)?.focus();
      return drawn;
    },
    { pointer: { keys: false } },
  );

  const grab = (index: number, clientX: number, more: boolean, byRate: boolean): Dragged => {
    const alone = new Set(more ? [...chosen, index] : [index]);
    const mine = chosen.has(index) ? chosen : alone;
    onChoose(mine);
    const from = xOf(notes[index].tick);
    const end = xOf(notes[index].tick + notes[index].ticks);
    const x = clientX - svg.current!.getBoundingClientRect().left;
    return { index, notes, mine, byRate, atEnd: x > Math.max(end - END_PX, end - END_SHARE * (end - from)) };
  };

  const drag = (dragged: Dragged, dx: number, dy: number) => {
    if (dragged.byRate) {
      const next = changeNotes(dragged.notes, dragged.mine, ({ wobbleBeats }) => ({
        wobbleBeats: rateFrom(wobbleBeats, Math.round(-dy / RATE_PX)),
      }));
      set('wobble rate', next, 'wobble rate');
      return;
    }
    const ticks = snap((dx / plot) * total);
    if (dragged.atEnd) {
      set('lengthen', lengthenNotes(dragged.notes, dragged.mine, ticks, gridTicks, bars), 'lengthen notes');
      lastTicks.current = Math.max(gridTicks, dragged.notes[dragged.index].ticks + ticks);
      return;
    }
    const up = Math.round(-dy / rowHeight);
    const next = moveNotes(dragged.notes, dragged.mine, ticks, (pitch) => stepPitch(rows, pitch, up), bars);
    set('move notes', next, 'move notes');
  };

  // One for all notes, of which there may be many: it asks the event for its note.
  const dragNotes = useDrag(
    ({ first, xy: [x], movement: [dx, dy], memo, event, tap, altKey }) => {
      event.preventDefault();
      event.stopPropagation();
      if (first) return grab(noteOf(event.target), x, event.shiftKey, altKey);
      if (!tap) drag(memo as Dragged, dx, dy);
      return memo as Dragged;
    },
    { pointer: { keys: false }, filterTaps: true },
  );

  /** Adds a note after the last, as long as the last that was set by hand. */
  const addAfter = (pitch: number) => {
    const end = Math.max(0, ...notes.map((note) => note.tick + note.ticks));
    add(end < total ? snap(end) % total : 0, pitch, lastTicks.current ?? gridTicks, null);
  };

  return { draw, dragNotes, addAfter, marquee };
}
