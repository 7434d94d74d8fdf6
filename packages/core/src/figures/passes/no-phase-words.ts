import { nearestNote } from '../../music/index.js';
import type { NoPhase } from '../../lock/index.js';
import { signed } from '../../units/index.js';

/** A pitch in words: its note, and by how many cents it lies off where that is one or more. */
export function pitchWords(hz: number, a4Hz = 440): string {
  const { name, cents } = nearestNote(hz, a4Hz);
  return Math.abs(cents) < 1 ? name : `${name} ${signed(cents, 0)} ct`;
}

/** How often two beat, in words. */
export function beatsWords(beatsHz: number): string {
  return `${beatsHz < 9.95 ? Number(beatsHz.toFixed(1)) : beatsHz.toFixed(0)} times a second`;
}

/** Why kick and bass have no common phase, in words. */
export function noPhaseWords({ cause, kickHz, bassHz, cents, beatsHz }: NoPhase, a4Hz = 440): string {
  if (cause === 'different pitches')
    return `different pitches: the kick at ${pitchWords(kickHz, a4Hz)}, the bass at ${pitchWords(bassHz, a4Hz)}, ${Math.abs(cents).toFixed(0)} ct apart; they beat ${beatsWords(beatsHz)}`;
  if (cause === 'still falling') return 'still falling: the kick’s pitch moves under this note';
  if (cause === 'gliding') return 'gliding: the bass’s pitch moves under the kick';
  return 'no pitch: kick or bass has none here';
}

/** The same of two that beat, as short as a figure wants it. */
export function beatingWords({ kickHz, bassHz, beatsHz }: NoPhase, a4Hz = 440): string {
  return `kick ${pitchWords(kickHz, a4Hz)}, bass ${pitchWords(bassHz, a4Hz)}: they beat ${beatsWords(beatsHz)}`;
}
