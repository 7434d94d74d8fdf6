import { cleanNote, loopTicks, type LineNote } from '@abyssal/core';

/** Notes are told apart by their place in the list; edits return a new list and never leave the loop. */
export type Notes = readonly LineNote[];

const clamp = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));

export const LOWEST_PITCH = 12;
export const HIGHEST_PITCH = 96;

/** Moves notes by ticks and to other pitches; all of them or none go beyond the loop. */
export function moveNotes(notes: Notes, chosen: ReadonlySet<number>, ticks: number, pitchOf: (pitch: number) => number, bars: number): LineNote[] {
  const end = loopTicks(bars);
  const mine = notes.filter((_note, i) => chosen.has(i));
  const by = clamp(ticks, -Math.min(...mine.map(({ tick }) => tick)), end - Math.max(...mine.map((note) => note.tick + note.ticks)));
  return notes.map((note, i) => (chosen.has(i) ? { ...note, tick: note.tick + by, pitch: clamp(pitchOf(note.pitch), LOWEST_PITCH, HIGHEST_PITCH) } : note));
}

/** Makes notes longer or shorter by ticks, at least `least` long. */
export function lengthenNotes(notes: Notes, chosen: ReadonlySet<number>, ticks: number, least: number, bars: number): LineNote[] {
  const end = loopTicks(bars);
  return notes.map((note, i) => (chosen.has(i) ? { ...note, ticks: clamp(note.ticks + ticks, Math.min(least, note.ticks), end - note.tick) } : note));
}

export function changeNotes(notes: Notes, chosen: ReadonlySet<number>, change: (note: LineNote) => Partial<LineNote>): LineNote[] {
  return notes.map((note, i) => (chosen.has(i) ? { ...note, ...change(note) } : note));
}

/** Draws a note; it takes the loop's end at the latest. */
export function drawNote(notes: Notes, tick: number, pitch: number, ticks: number, bars: number): LineNote[] {
  return [...notes, cleanNote({ tick, pitch, ticks: Math.max(1, Math.min(ticks, loopTicks(bars) - tick)) })];
}

/** The next pitch among the rows in a direction; stays where there is none. */
export function stepPitch(rows: readonly number[], pitch: number, steps: number): number {
  const sorted = [...new Set([...rows, pitch])].sort((a, b) => a - b);
  return sorted[clamp(sorted.indexOf(pitch) + steps, 0, sorted.length - 1)];
}
