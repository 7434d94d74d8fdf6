import type { Layer, SoundDocument } from '../../document/index.js';
import { lowestTone } from './lowest-tone.js';

/** Frequency of a tone as a multiple of the written note's. */
const ratioOf = ({ octave, semitones }: Layer['tones'][number]) => Math.pow(2, octave + semitones / 12);

/**
 * Cycles by which each tone of a layer starts further on for a degree of turn, which the Lock station sets in
 * degrees of the lowest tone.
 */
export function cyclesPerDegree(document: SoundDocument, layer: Layer): number[] {
  const lowest = ratioOf(lowestTone(document));
  return layer.tones.map((tone) => (tone.pitchIn === 'hertz' ? 0 : ratioOf(tone) / lowest / 360));
}

/**
 * Pitches that may be played: those of the line and of live notes, and the octaves of an arpeggio above them.
 */
const PITCHES = 128 + 4 * 12;

/** The turn of each pitch in degrees: that of all, and its own beside it. */
export function turnsByPitch({ lock }: SoundDocument): Float64Array {
  const turns = new Float64Array(PITCHES).fill(lock.turnDeg);
  for (const { pitch, turnDeg } of lock.turns) turns[pitch] += turnDeg;
  return turns;
}
