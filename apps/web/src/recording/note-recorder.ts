import { cleanNote, loopTicks, MOST_NOTES, type LineNote } from '@abyssal/core';
import { create } from 'zustand';
import { audio } from '../audio/audio-host';
import { onLiveNote } from '../audio/live';
import { PLACE } from '../audio/protocol';
import { edit, useDocumentStore } from '../state/document-store';
import { useView } from '../state/view-store';

interface NoteRecorderState {
  /** Whether what is played is written into the line while it runs. */
  readonly on: boolean;
  readonly way: 'replace' | 'overdub';
  readonly countIn: boolean;
  readonly click: boolean;
}

export const useNoteRecorder = create<NoteRecorderState>(() => ({
  on: false,
  way: 'overdub',
  countIn: true,
  click: true,
}));

const COUNT_IN_BEATS = 4;

/** A note that is held: where it began, in ticks, and how hard. */
interface Open {
  readonly tick: number;
  readonly velocity: number;
}

let open = new Map<number, Open>();
let done: LineNote[] = [];
/** Notes whose place the audio thread has not told yet, by their mark. */
const waiting = new Map<number, { readonly pitch: number; readonly velocity: number }>();
let last = 0;
let frame = 0;
let ignore: (() => void) | null = null;

const end = () => loopTicks(useDocumentStore.getState().document?.ground.bars ?? 1);

/** Ends a note that was held; what was held over the loop's end is cut there. */
function close(pitch: number, tick: number): void {
  const note = open.get(pitch);
  if (!note) return;
  open.delete(pitch);
  const until = tick > note.tick ? tick : end();
  done.push(
    cleanNote({ tick: note.tick, ticks: Math.max(1, until - note.tick), pitch, velocity: note.velocity }),
  );
}

function heard(mark: number, place: number): void {
  const note = waiting.get(mark);
  if (!note) return;
  waiting.delete(mark);
  const tick = Math.min(end() - 1, Math.round(place * end()));
  close(note.pitch, tick);
  if (note.velocity > 0) open.set(note.pitch, { tick, velocity: note.velocity });
}

/** Writes what was played in the round into the line: one step of undo. */
function commit(): void {
  for (const pitch of [...open.keys()]) close(pitch, 0);
  const played = done;
  done = [];
  open = new Map();
  if (played.length === 0) return;
  const { way } = useNoteRecorder.getState();
  edit(`recorded ${played.length} ${played.length === 1 ? 'note' : 'notes'}`, (draft) => {
    const kept = way === 'replace' ? [] : draft.line.notes;
    draft.line.notes = [...kept, ...played].slice(0, MOST_NOTES);
  });
}

function begin(): void {
  last = audio.shared.state[PLACE];
  const watch = () => {
    const place = audio.shared.state[PLACE];
    if (place < last - 0.5) commit();
    last = place;
    frame = requestAnimationFrame(watch);
  };
  frame = requestAnimationFrame(watch);
}

/** Begins to record: with the count-in and the click as they are set. */
export async function recordNotes(): Promise<void> {
  const { countIn, click } = useNoteRecorder.getState();
  useNoteRecorder.setState({ on: true });
  open = new Map();
  done = [];
  const unmark = audio.mark(heard);
  const unplayed = onLiveNote((pitch, velocity, mark) => {
    if (mark !== null) waiting.set(mark, { pitch, velocity });
  });
  const unviewed = useView.subscribe(({ playing }, before) => {
    if (!playing && before.playing) stopNotes();
  });
  ignore = () => {
    unmark();
    unplayed();
    unviewed();
  };
  audio.click(click);
  if (countIn) await audio.countIn(COUNT_IN_BEATS);
  else await audio.play();
  begin();
}

/** Ends the recording; the loop plays on. */
export function stopNotes(): void {
  if (!useNoteRecorder.getState().on) return;
  cancelAnimationFrame(frame);
  commit();
  ignore?.();
  ignore = null;
  audio.click(false);
  useNoteRecorder.setState({ on: false });
}
