/** Scales as semitones above the key, in rising order. */
export const SCALES = {
  minor: [0, 2, 3, 5, 7, 8, 10],
  major: [0, 2, 4, 5, 7, 9, 11],
  'harmonic minor': [0, 2, 3, 5, 7, 8, 11],
  dorian: [0, 2, 3, 5, 7, 9, 10],
  phrygian: [0, 1, 3, 5, 7, 8, 10],
  'minor pentatonic': [0, 3, 5, 7, 10],
  chromatic: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11],
} as const;

export type ScaleName = keyof typeof SCALES;
export const SCALE_NAMES = Object.keys(SCALES) as [ScaleName, ...ScaleName[]];

/** Keys by name; the index is the pitch class. */
export const KEY_NAMES = ['C', 'C♯', 'D', 'D♯', 'E', 'F', 'F♯', 'G', 'G♯', 'A', 'A♯', 'B'] as const;
export type KeyName = (typeof KEY_NAMES)[number];

/** Whether a MIDI note belongs to a scale on a key. */
export function inScale(note: number, key: KeyName, scale: ScaleName): boolean {
  const degree = (((note - KEY_NAMES.indexOf(key)) % 12) + 12) % 12;
  return (SCALES[scale] as readonly number[]).includes(degree);
}

/** The notes of a scale from `low` to `high` inclusive, rising. */
export function scaleNotes(key: KeyName, scale: ScaleName, low: number, high: number): number[] {
  const notes: number[] = [];
  for (let note = low; note <= high; note++) if (inScale(note, key, scale)) notes.push(note);
  return notes;
}

const FLATS: Readonly<Record<string, KeyName>> = {
  DB: 'C♯',
  EB: 'D♯',
  GB: 'F♯',
  AB: 'G♯',
  BB: 'A♯',
  CB: 'B',
  FB: 'E',
};

/**
 * The key that a text names, as sounds have it: “c minor” is `C minor`, “Gb dorian” is `F♯ dorian`. Null
 * where it is none.
 */
export function parseKey(text: string): string | null {
  const match = /^([a-g])(#|♯|b|♭)?\s+([a-z ]+)$/i.exec(text.trim());
  if (!match) return null;
  const letter = match[1].toUpperCase();
  const sign = match[2]?.toLowerCase();
  const flat = sign === 'b' || sign === '♭';
  const name = flat ? FLATS[`${letter}B`] : KEY_NAMES.find((key) => key === `${letter}${sign ? '♯' : ''}`);
  const scale = SCALE_NAMES.find((each) => each.toLowerCase() === match[3].toLowerCase());
  return name && scale ? `${name} ${scale}` : null;
}
