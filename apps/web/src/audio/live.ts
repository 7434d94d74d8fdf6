import { KEY_NAMES, scaleNotes, type SoundDocument } from '@abyssal/core';
import { create } from 'zustand';
import { audio } from './audio-host';

/** Keys by their place on the keyboard, deep row first: each is the next degree of the scale. */
const DEEP_ROW = ['KeyZ', 'KeyX', 'KeyC', 'KeyV', 'KeyB', 'KeyN', 'KeyM', 'Comma', 'Period', 'Slash'];
const NEXT_ROW = ['KeyA', 'KeyS', 'KeyD', 'KeyF', 'KeyG', 'KeyH', 'KeyJ', 'KeyK', 'KeyL', 'Semicolon'];
const LOWEST = 24;
const EVEN = 100;
const ACCENT = 127;

/**
 * Notes of the two rows of keys: the scale from the lowest root at or above C1, the second row an octave up.
 */
export function keyNotes({ key, scale }: SoundDocument['ground']): ReadonlyMap<string, number> {
  const root = LOWEST + KEY_NAMES.indexOf(key);
  const from = (row: readonly string[], low: number) => {
    const notes = scaleNotes(key, scale, low, low + 36);
    return row.map((code, i) => [code, notes[i]] as const);
  };
  return new Map([...from(DEEP_ROW, root), ...from(NEXT_ROW, root + 12)]);
}

/** Notes that are held now, by keys, pads or controllers. */
export const useHeldNotes = create<{ readonly notes: ReadonlySet<number> }>(() => ({ notes: new Set() }));

type NoteListener = (note: number, velocity: number, mark: number | null) => void;
const listeners = new Set<NoteListener>();

/** Has every live note told, with the number under which the audio thread says where it was heard. */
export function onLiveNote(listener: NoteListener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Plays a live note and keeps in mind that it is held; velocity 0 ends it. */
export function playNote(note: number, velocity: number): void {
  audio.note(note, velocity, (mark) => {
    for (const listener of listeners) listener(note, velocity, mark);
  });
  useHeldNotes.setState(({ notes }) => {
    const next = new Set(notes);
    if (velocity > 0) next.add(note);
    else next.delete(note);
    return { notes: next };
  });
}

const held = new Map<string, number>();

/** A key goes down; returns whether it is a note. */
export function keyDown(code: string, accent: boolean, ground: SoundDocument['ground']): boolean {
  const note = keyNotes(ground).get(code);
  if (note === undefined) return false;
  if (!held.has(code)) {
    held.set(code, note);
    playNote(note, accent ? ACCENT : EVEN);
  }
  return true;
}

export function keyUp(code: string): void {
  const note = held.get(code);
  if (note === undefined) return;
  held.delete(code);
  playNote(note, 0);
}

/** Lets go of every key, for a page that loses the keyboard. */
export function allKeysUp(): void {
  for (const code of [...held.keys()]) keyUp(code);
}
