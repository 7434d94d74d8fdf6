import { KEY_NAMES, scaleNotes, type SoundDocument } from '@abyssal/core';
import { create } from 'zustand';
import { tell } from '../state/view-store';
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

/** Plays a live note and keeps in mind that it is held; velocity 0 ends it. */
function play(note: number, velocity: number): void {
  audio.note(note, velocity);
  useHeldNotes.setState(({ notes }) => {
    const next = new Set(notes);
    if (velocity > 0) next.add(note);
    else next.delete(note);
    return { notes: next };
  });
}

/**
 * Handles a message of a MIDI controller, real or simulated: note on and note off (MIDI 1.0); others are left
 * alone.
 */
export function takeMidi(bytes: ArrayLike<number>): void {
  const kind = bytes[0] & 0xf0;
  if (kind === 0x90) play(bytes[1], bytes[2]);
  else if (kind === 0x80) play(bytes[1], 0);
}

const held = new Map<string, number>();

/** A key goes down; returns whether it is a note. */
export function keyDown(code: string, accent: boolean, ground: SoundDocument['ground']): boolean {
  const note = keyNotes(ground).get(code);
  if (note === undefined) return false;
  if (!held.has(code)) {
    held.set(code, note);
    play(note, accent ? ACCENT : EVEN);
  }
  return true;
}

export function keyUp(code: string): void {
  const note = held.get(code);
  if (note === undefined) return;
  held.delete(code);
  play(note, 0);
}

/** Lets go of every key, for a page that loses the keyboard. */
export function allKeysUp(): void {
  for (const code of [...held.keys()]) keyUp(code);
}

let access: MIDIAccess | null = null;

/** Listens to every controller that the browser knows, now and later. Returns their names. */
export async function listenToControllers(): Promise<string[]> {
  if (!('requestMIDIAccess' in navigator)) {
    tell('This browser has no Web MIDI; play from the computer keyboard or the simulated controller.');
    return [];
  }
  try {
    access ??= await navigator.requestMIDIAccess();
  } catch {
    tell('The browser did not allow MIDI. Allow it for this page in the browser’s settings, then try again.');
    return [];
  }
  const bind = () => {
    access?.inputs.forEach((input) => {
      input.onmidimessage = (event) => {
        if (event.data) takeMidi(event.data);
      };
    });
  };
  access.onstatechange = bind;
  bind();
  return [...access.inputs.values()].map((input) => input.name ?? 'controller');
}
