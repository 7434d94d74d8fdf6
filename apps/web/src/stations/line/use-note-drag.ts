import type { LineNote } from '@abyssal/core';
import { useDrag } from '@use-gesture/react';
import { useRef, type RefObject } from 'react';
import { useDocumentStore } from '../../state/document-store';
import { drawNote, lengthenNotes, moveNotes, stepPitch } from './line-edits';
import type { SheetGeometry } from './sheet-geometry';

/** Pixels at a note's end by which it is lengthened; of a short note, the last two fifths. */
const END_PX = 8;
const END_SHARE = 0.4;

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

/** Notes being dragged: as they were, which of them, and whether by their end. */
interface Dragged {
  readonly notes: LineNote[];
  readonly mine: ReadonlySet<number>;
  readonly atEnd: boolean;
}

/** Drags on the sheet: on the rows they draw a note, on a note they move or lengthen it, and all that are chosen with it. */
export function useNoteDrag({ svg, geometry, notes, bars, gridTicks, chosen, onChoose, set }: SheetGestures) {
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
    const present = useDocumentStore.getState().document!.line.notes;
    const ticks = Math.max(gridTicks, snap(here) - tick);
    const next = lengthenNotes(present, new Set([index]), ticks - present[index].ticks, gridTicks, bars);
    set('draw note', next, `draw ${present.length}`);
    lastTicks.current = ticks;
  };

  const draw = useDrag(
    ({ first, last, initial, xy: [x], memo, event }) => {
      event.preventDefault();
      if (first) return begin(initial[0], initial[1]);
      const drawn = memo as Drawn | null;
      if (!drawn) return null;
      stretch(drawn, x);
      if (last) svg.current?.querySelector<SVGElement>(`[data-note="${drawn.index}"]`)?.focus();
      return drawn;
    },
    { pointer: { keys: false } },
  );

  const grab = (index: number, clientX: number, more: boolean): Dragged => {
    const alone = new Set(more ? [...chosen, index] : [index]);
    const mine = chosen.has(index) ? chosen : alone;
    onChoose(mine);
    const from = xOf(notes[index].tick);
    const end = xOf(notes[index].tick + notes[index].ticks);
    const x = clientX - svg.current!.getBoundingClientRect().left;
    return { notes, mine, atEnd: x > Math.max(end - END_PX, end - END_SHARE * (end - from)) };
  };

  const drag = (index: number, dragged: Dragged, dx: number, dy: number) => {
    const ticks = snap((dx / plot) * total);
    if (dragged.atEnd) {
      set('lengthen', lengthenNotes(dragged.notes, dragged.mine, ticks, gridTicks, bars), 'lengthen notes');
      lastTicks.current = Math.max(gridTicks, dragged.notes[index].ticks + ticks);
      return;
    }
    const up = Math.round(-dy / rowHeight);
    const next = moveNotes(dragged.notes, dragged.mine, ticks, (pitch) => stepPitch(rows, pitch, up), bars);
    set('move notes', next, 'move notes');
  };

  const dragNote = useDrag(
    ({ first, args: [index], xy: [x], movement: [dx, dy], memo, event, tap }) => {
      event.preventDefault();
      event.stopPropagation();
      if (first) return grab(index as number, x, event.shiftKey);
      if (!tap) drag(index as number, memo as Dragged, dx, dy);
      return memo as Dragged;
    },
    { pointer: { keys: false }, filterTaps: true },
  );

  /** Adds a note after the last, as long as the last that was set by hand. */
  const addAfter = (pitch: number) => {
    const end = Math.max(0, ...notes.map((note) => note.tick + note.ticks));
    add(end < total ? snap(end) % total : 0, pitch, lastTicks.current ?? gridTicks, null);
  };

  return { draw, dragNote, addAfter };
}
