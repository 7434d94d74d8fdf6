import type { LineNote, SoundDocument } from '../document/index.js';
import { bassNudgeMs, lowestTone, swung } from '../engine/index.js';
import { lowPeak, measureLock, SILENCE, type Lock, type LowBand, type NoLock } from '../lock/index.js';
import { noteToHz } from '../music/index.js';
import { loopTicks } from '../units/index.js';

/**
 * A note meets the kick where the kick stands within 12 dB of its own peak for a period of the bass: what rings on from an earlier hit
 * does not count, nor what the zero-phase filters spread before the next one.
 */
const KICK_SOUNDS = 10 ** (-12 / 20);
/** A bass that stands so much under its own peak while a kick sounds counts as kept apart. */
const APART = 10 ** (-20 / 20);
/** The reason of a lock that is none because no kick sounds for a period of the note. */
export const NOT_MET = 'no kick meets this note';
/** The reason of a lock that is none because ducking keeps the two apart on purpose; such a note holds. */
export const KEPT_APART = 'kept apart';
/** The reason of a lock that is none because bass and kick are one wave; such a note holds too. */
export const ONE_WAVE = 'one oscillator for both: there is nothing to cancel';
/** Whether a reason says that kick and bass cannot cancel. */
export const cannotCancel = (reason: string) => reason === KEPT_APART || reason === ONE_WAVE;
/** Length of a kick for the overlap: while its low band stands within 40 dB of its peak; and how near to the bass it meets it. */
const SOUNDS = 10 ** (-40 / 20);
const MEETS = 10 ** (-12 / 20);

/** Fundamental of a note as its lowest layer plays it, in hertz. */
export function soundingHz(document: SoundDocument, pitch: number): number {
  const lowest = lowestTone(document);
  return lowest.pitchIn === 'hertz' ? lowest.fixedHz : noteToHz(pitch + 12 * lowest.octave + lowest.semitones, document.ground.a4Hz);
}

/** Where a note of the line stands in a low band, in frames, and the period of its fundamental in seconds. */
export interface NoteStretch { readonly from: number; readonly to: number; readonly periodS: number }

/** Where the notes of a line stand in low bands of a loop. */
export function noteStretches(document: SoundDocument, frames: number, rateHz: number): NoteStretch[] {
  const perTick = frames / loopTicks(document.ground.bars);
  const nudge = (bassNudgeMs(document) / 1000) * rateHz;
  return document.line.notes.map(({ tick, ticks, pitch }) => ({
    from: Math.max(0, Math.round(tick * perTick + nudge)),
    to: Math.min(frames, Math.round((tick + ticks) * perTick + nudge)),
    periodS: 1 / soundingHz(document, pitch),
  }));
}

/** Whether the kick sounds for at least one period of a note. */
export function meetsKick(kick: LowBand, kickPeak: number, { from, to, periodS }: NoteStretch): boolean {
  if (kickPeak <= SILENCE) return false;
  let count = 0;
  for (let i = from; i < to; i++) if (Math.hypot(kick.re[i], kick.im[i]) >= kickPeak * KICK_SOUNDS) count++;
  return count >= periodS * kick.rateHz;
}

/** Whether the bass is gone while the kick sounds: 20 dB or more under its own peak in the loop wherever the kick counts as sounding. */
function keptApart(kick: LowBand, bass: LowBand, kickPeak: number, bassPeak: number, { from, to }: NoteStretch): boolean {
  for (let i = from; i < to; i++) {
    if (Math.hypot(kick.re[i], kick.im[i]) >= kickPeak * KICK_SOUNDS && Math.hypot(bass.re[i], bass.im[i]) > bassPeak * APART) return false;
  }
  return true;
}

/** How a note of the line stands to the kick. */
export interface NoteLock {
  readonly note: LineNote;
  readonly lock: Lock | NoLock;
  /** Share of the bass's low energy while the kick lasts that meets the kick within 12 dB of it, 0 to 1; null where they do not meet. */
  readonly overlap: number | null;
}

function overlapOf(kick: LowBand, bass: LowBand, kickPeak: number, { from, to }: NoteStretch): number | null {
  let all = 0;
  let met = 0;
  for (let i = from; i < to; i++) {
    const k = Math.hypot(kick.re[i], kick.im[i]);
    if (k < kickPeak * SOUNDS) continue;
    const b = Math.hypot(bass.re[i], bass.im[i]);
    all += b * b;
    if (k >= b * MEETS) met += b * b;
  }
  return all > 0 ? met / all : null;
}

/** Measures the lock of every note of a line in the low bands of its rendered loop. */
export function lockNotes(document: SoundDocument, kick: LowBand, bass: LowBand): NoteLock[] {
  const kickPeak = lowPeak(kick);
  const bassPeak = lowPeak(bass);
  const stretches = noteStretches(document, bass.re.length, bass.rateHz);
  const { kick: { on, shared, hits, swingPct } } = document;
  return document.line.notes.map((note, n) => {
    const stretch = stretches[n];
    if (on && shared && hits.some(({ tick }) => swung(tick, swingPct) >= note.tick - 1 && swung(tick, swingPct) < note.tick + note.ticks)) return { note, lock: { reason: ONE_WAVE }, overlap: null };
    if (!meetsKick(kick, kickPeak, stretch)) return { note, lock: { reason: NOT_MET }, overlap: null };
    const apart = document.duck.on && document.duck.hard && keptApart(kick, bass, kickPeak, bassPeak, stretch);
    const lock = apart ? { reason: KEPT_APART } : measureLock(kick, bass, stretch.from, stretch.to, stretch.periodS);
    return { note, lock, overlap: overlapOf(kick, bass, kickPeak, stretch) };
  });
}
