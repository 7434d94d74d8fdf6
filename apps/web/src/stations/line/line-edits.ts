import {
  cleanNote,
  HIGHEST_NOTE,
  inScale,
  KEY_NAMES,
  loopTicks,
  type KeyName,
  type LineNote,
  type ScaleName,
} from '@abyssal/core';

/** Notes are told apart by their place in the list; edits return a new list and never leave the loop. */
export type Notes = readonly LineNote[];

const clamp = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));

export const LOWEST_PITCH = 12;

/** Moves notes by ticks and to other pitches; all of them or none go beyond the loop. */
export function moveNotes(
  notes: Notes,
  chosen: ReadonlySet<number>,
  ticks: number,
  pitchOf: (pitch: number) => number,
  bars: number,
): LineNote[] {
  const end = loopTicks(bars);
  const mine = notes.filter((_note, i) => chosen.has(i));
  const by = clamp(
    ticks,
    -Math.min(...mine.map(({ tick }) => tick)),
    end - Math.max(...mine.map((note) => note.tick + note.ticks)),
  );
  return notes.map((note, i) =>
    chosen.has(i)
      ? { ...note, tick: note.tick + by, pitch: clamp(pitchOf(note.pitch), LOWEST_PITCH, HIGHEST_NOTE) }
      : note,
  );
}

/** Makes notes longer or shorter by ticks, at least `least` long. */
export function lengthenNotes(
  notes: Notes,
  chosen: ReadonlySet<number>,
  ticks: number,
  least: number,
  bars: number,
): LineNote[] {
  const end = loopTicks(bars);
  return notes.map((note, i) =>
    chosen.has(i)
      ? { ...note, ticks: clamp(note.ticks + ticks, Math.min(least, note.ticks), end - note.tick) }
      : note,
  );
}

export function changeNotes(
  notes: Notes,
  chosen: ReadonlySet<number>,
  change: (note: LineNote) => Partial<LineNote>,
): LineNote[] {
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

/** Semitones from one key to another, the shorter way: −5 to 6. */
export function semitonesBetween(from: KeyName, to: KeyName): number {
  const up = (KEY_NAMES.indexOf(to) - KEY_NAMES.indexOf(from) + 12) % 12;
  return up > 6 ? up - 12 : up;
}

/** Moves every note by semitones; one that would leave the range goes an octave back. */
export function transposeNotes(notes: Notes, semitones: number): LineNote[] {
  const within = (pitch: number) =>
    pitch < LOWEST_PITCH ? pitch + 12 : pitch > HIGHEST_NOTE ? pitch - 12 : pitch;
  return notes.map((note) => ({ ...note, pitch: within(note.pitch + semitones) }));
}

/** Moves every note outside a scale to the nearest note of it; of two as near to the deeper. */
export function foldNotes(notes: Notes, key: KeyName, scale: ScaleName): LineNote[] {
  const nearest = (pitch: number) => {
    for (let away = 0; away <= 12; away++)
      for (const to of [pitch - away, pitch + away])
        if (to >= LOWEST_PITCH && to <= HIGHEST_NOTE && inScale(to, key, scale)) return to;
    return pitch;
  };
  return notes.map((note) => ({ ...note, pitch: nearest(note.pitch) }));
}
