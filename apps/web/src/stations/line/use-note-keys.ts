import type { KeyboardEvent } from 'react';
import { useClipboard } from './clipboard';
import { changeNotes, lengthenNotes, moveNotes, stepPitch } from './line-edits';
import { copied, duplicated, pasted } from './note-tools';
import type { SheetGestures } from './use-note-drag';

const OCTAVE = 12;
const VELOCITY_STEP = 4;
/** Ticks by which a note is nudged off the grid. */
const NUDGE_TICKS = 5;

/** The keys that work on a note in focus, and on all that are chosen with it. */
export function useNoteKeys({ geometry, notes, bars, gridTicks, chosen, onChoose, set }: SheetGestures) {
  /** Does what a key asks of the note with an index; false where it asks for nothing. */
  const act = (event: KeyboardEvent, index: number): boolean => {
    const mine = chosen.has(index) ? chosen : new Set([index]);
    const command = event.ctrlKey || event.metaKey;
    const across = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const up = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    const louder = { '+': 1, '=': 1, '-': -1 }[event.key];
    if (command && event.code === 'KeyA') {
      onChoose(new Set(notes.keys()));
      return true;
    }
    if (command && event.code === 'KeyC') {
      useClipboard.setState({ notes: copied(notes, mine) });
      return true;
    }
    if (command && (event.code === 'KeyV' || event.code === 'KeyD')) {
      const after = Math.max(...[...mine].map((i) => notes[i].tick + notes[i].ticks));
      const { notes: next, chosen: added } =
        event.code === 'KeyD'
          ? duplicated(notes, mine, gridTicks, bars)
          : pasted(notes, useClipboard.getState().notes, Math.ceil(after / gridTicks) * gridTicks, bars);
      if (added.size === 0) return true;
      set(event.code === 'KeyD' ? 'duplicate notes' : 'paste notes', next);
      onChoose(added);
      return true;
    }
    if (command) return false;
    if (event.altKey) {
      if (across === undefined) return false;
      set(
        'nudge notes',
        moveNotes(notes, mine, across * NUDGE_TICKS, (pitch) => pitch, bars),
        'nudge notes',
      );
      return true;
    }
    if (across !== undefined && event.shiftKey) {
      set('lengthen', lengthenNotes(notes, mine, across * gridTicks, gridTicks, bars), 'lengthen notes');
    } else if (across !== undefined) {
      set(
        'move notes',
        moveNotes(notes, mine, across * gridTicks, (pitch) => pitch, bars),
        'move notes',
      );
    } else if (up !== undefined) {
      const step = (pitch: number) =>
        event.shiftKey ? pitch + OCTAVE * up : stepPitch(geometry.rows, pitch, up);
      set('move notes', moveNotes(notes, mine, 0, step, bars), 'move notes');
    } else if (louder !== undefined) {
      const velocityOf = (velocity: number) => Math.min(127, Math.max(1, velocity + VELOCITY_STEP * louder));
      const next = changeNotes(notes, mine, ({ velocity }) => ({ velocity: velocityOf(velocity) }));
      set('velocity', next, 'velocity');
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      set(
        'delete notes',
        notes.filter((_note, i) => !mine.has(i)),
      );
      onChoose(new Set());
    } else if (event.code === 'KeyQ') {
      const accent = !notes[index].accent;
      set(
        'accent',
        changeNotes(notes, mine, () => ({ accent })),
      );
    } else if (event.code === 'KeyT') {
      const tie = !notes[index].tie;
      set(
        'tie',
        changeNotes(notes, mine, () => ({ tie })),
      );
    } else return false;
    return true;
  };

  return (event: KeyboardEvent, index: number) => {
    if (!act(event, index)) return;
    event.preventDefault();
    event.stopPropagation();
  };
}
