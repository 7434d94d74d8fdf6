const NAMES = ['C', 'C♯', 'D', 'D♯', 'E', 'F', 'F♯', 'G', 'G♯', 'A', 'A♯', 'B'] as const;
const STEPS: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** Frequency in hertz of a MIDI note number, equal temperament: a4·2^((n−69)/12) (MIDI 1.0). */
export function noteToHz(note: number, a4Hz = 440): number {
  return a4Hz * Math.pow(2, (note - 69) / 12);
}

/** MIDI note number, with its fraction, of a frequency in hertz above 0. */
export function hzToNote(hz: number, a4Hz = 440): number {
  return 69 + 12 * Math.log2(hz / a4Hz);
}

/** Name of a MIDI note number; 60 is C4, 29 is F1. */
export function noteName(note: number): string {
  const n = Math.round(note);
  return `${NAMES[((n % 12) + 12) % 12]}${Math.floor(n / 12) - 1}`;
}

/** Name of a pitch class, 0 (C) to 11 (B). */
export function pitchClassName(pitchClass: number): string {
  return NAMES[((pitchClass % 12) + 12) % 12];
}

/** MIDI note number of a name such as `F1`, `G#4`, `B♭0`; null when the text is no note name. */
export function parseNote(text: string): number | null {
  const match = /^([A-Ga-g])([#♯b♭]?)(-?\d{1,2})$/.exec(text.trim());
  if (!match) return null;
  const shift = match[2] === '' ? 0 : match[2] === '#' || match[2] === '♯' ? 1 : -1;
  return STEPS[match[1].toUpperCase()] + shift + 12 * (Number(match[3]) + 1);
}

/** The nearest note to a frequency and how far the frequency stands from it, in cents (−50 to 50). */
export function nearestNote(hz: number, a4Hz = 440): { note: number; name: string; cents: number } {
  const exact = hzToNote(hz, a4Hz);
  const note = Math.round(exact);
  return { note, name: noteName(note), cents: 100 * (exact - note) };
}
