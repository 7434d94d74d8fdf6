import type { SoundDocument } from '../document/index.js';
import type { Assets } from '../engine/index.js';
import { cannotCancel, soundingHz, type NoteLock } from '../figures/index.js';
import { wrapDegrees } from '../lock/index.js';
import type { KickTail } from '../measure/index.js';
import { nearestNote } from '../music/index.js';
import type { Nudge } from './common-nudge.js';
import type { Draft } from './proposal.js';
import { signed } from '../units/index.js';
import { bestTurnFor, bestTurnsByPitch, type NoteRose } from './rose.js';
import { withTailTuned } from './tune-tail.js';

const tidy = (value: number, digits: number) => Number(value.toFixed(digits));
const isRose = (rose: NoteRose | null): rose is NoteRose => rose !== null;

/** Turns and retunings under these are not worth a click, a nudge over this is felt in the groove (from the design: 5 ms). */
const LEAST_TURN_DEG = 2;
const LEAST_CENTS = 3;
const GROOVE_MS = 5;
/** A tail within this of a note is one. */
const TAIL_IS_NOTE_CENTS = 15;

/** The bass turned by one angle. */
export function turnDraft(document: SoundDocument, roses: readonly (NoteRose | null)[]): Draft[] {
  const best = bestTurnFor(roses.filter(isRose));
  if (!best || Math.abs(best.turnDeg) < LEAST_TURN_DEG) return [];
  return [{
    id: 'turn', title: `Turn the bass by ${signed(best.turnDeg, 0)}°`, cost: 'nothing', costText: '',
    document: { ...document, lock: { ...document.lock, turnDeg: wrapDegrees(document.lock.turnDeg + best.turnDeg) } },
  }];
}

/** Every pitch with the start phase that suits it; null where a line has one pitch only. */
export function withTurnsByPitch(document: SoundDocument, locks: readonly NoteLock[], roses: readonly (NoteRose | null)[]): SoundDocument | null {
  const best = bestTurnsByPitch(locks, roses);
  if (best.size === 0) return null;
  const own = new Map(document.lock.turns.map(({ pitch, turnDeg }) => [pitch, turnDeg]));
  for (const [pitch, { turnDeg }] of best) own.set(pitch, wrapDegrees((own.get(pitch) ?? 0) + turnDeg));
  return { ...document, lock: { ...document.lock, turns: [...own].sort(([a], [b]) => a - b).filter(([, turnDeg]) => turnDeg !== 0).map(([pitch, turnDeg]) => ({ pitch, turnDeg })) } };
}

export function turnsDraft(document: SoundDocument, locks: readonly NoteLock[], roses: readonly (NoteRose | null)[]): Draft[] {
  const changed = withTurnsByPitch(document, locks, roses);
  if (!changed || new Set(locks.filter((_, n) => roses[n]).map(({ note }) => note.pitch)).size < 2) return [];
  return [{ id: 'turns', title: 'Give each pitch a start phase of its own', cost: 'nothing', costText: '', document: changed }];
}

/** The bass turned about. */
export function invertDraft(document: SoundDocument): Draft[] {
  return [{ id: 'invert', title: document.lock.invert ? 'Turn the polarity back' : 'Turn the polarity of the bass about', cost: 'nothing', costText: '', document: { ...document, lock: { ...document.lock, invert: !document.lock.invert } } }];
}

/** The whole bass moved in time. */
export function nudgeDraft(document: SoundDocument, nudge: Nudge | null): Draft[] {
  if (!nudge || Math.abs(nudge.nudgeMs) < 0.1 || document.kick.shared) return [];
  const nudgeMs = tidy(Math.max(-20, Math.min(20, document.lock.nudgeMs + nudge.nudgeMs)), 2);
  const felt = Math.abs(nudgeMs) > GROOVE_MS;
  return [{
    id: 'nudge', title: `Nudge the bass by ${signed(nudge.nudgeMs, 2)} ms`, cost: felt ? 'groove' : 'nothing', costText: felt ? `the bass comes ${Math.abs(nudgeMs).toFixed(1)} ms ${nudgeMs < 0 ? 'early' : 'late'}, which is felt` : '',
    document: { ...document, lock: { ...document.lock, nudgeMs } },
  }];
}

/** The pitch that most of the notes meeting the kick have, in hertz, in the octave nearest to the tail; null for none. */
export function rootHz(document: SoundDocument, locks: readonly NoteLock[], tailHz: number): number | null {
  const counts = new Map<number, number>();
  for (const { note, lock } of locks) {
    if ('sumGainDb' in lock || cannotCancel(lock.reason)) counts.set(note.pitch, (counts.get(note.pitch) ?? 0) + note.ticks);
  }
  const [most] = [...counts].sort(([pa, a], [pb, b]) => b - a || pa - pb);
  if (!most) return null;
  const hz = soundingHz(document, most[0]);
  return hz * 2 ** Math.round(Math.log2(tailHz / hz));
}

/** The kick's tail tuned to the line's root. */
export function retuneDraft(document: SoundDocument, locks: readonly NoteLock[], tail: KickTail | null, sampleRateHz: number, assets?: Assets): Draft[] {
  if (!tail?.steady) return [];
  const hz = rootHz(document, locks, tail.hz);
  if (hz === null || Math.abs(1200 * Math.log2(hz / tail.hz)) < LEAST_CENTS) return [];
  const changed = withTailTuned(document, tail.hz, hz, sampleRateHz, assets);
  const cents = 1200 * Math.log2(hz / tail.hz);
  const { name } = nearestNote(hz, document.ground.a4Hz);
  return changed ? [{ id: 'retune', title: `Tune the kick’s tail to ${name}`, cost: 'kick', costText: `the kick moves by ${signed(cents, 0)} ct`, document: changed }] : [];
}

/** The line moved so that its root stands on the kick's tail; only where the tail is a note. */
export function lineDraft(document: SoundDocument, locks: readonly NoteLock[], tail: KickTail | null): Draft[] {
  if (!tail?.steady || Math.abs(tail.cents) > TAIL_IS_NOTE_CENTS) return [];
  const hz = rootHz(document, locks, tail.hz);
  if (hz === null) return [];
  const semitones = Math.round(12 * Math.log2(tail.hz / hz));
  const { notes } = document.line;
  if (semitones === 0 || notes.some(({ pitch }) => pitch + semitones < 0 || pitch + semitones > 96)) return [];
  return [{
    id: 'line', title: `Move the line by ${signed(semitones, 0)} semitones to the kick’s tail`, cost: 'key', costText: 'the line is in another key',
    document: { ...document, line: { notes: notes.map((note) => ({ ...note, pitch: note.pitch + semitones })) } },
  }];
}

/** A kick that is over sooner: it then meets the notes whose phase it does not share for less long. */
export function shortenDraft(document: SoundDocument, lengthS: number | null): Draft[] {
  const { kick } = document;
  if (lengthS === null || lengthS < 0.12) return [];
  const to = Math.round(600 * lengthS);
  const costText = `the kick’s tail ends after ${to} ms instead of ${Math.round(1000 * lengthS)}`;
  if (kick.source === 'wav') return kick.wav ? [{ id: 'shorten', title: 'Shorten the kick’s tail', cost: 'kick', costText, document: { ...document, kick: { ...kick, wav: { ...kick.wav, endMs: Math.round(kick.wav.startMs + to) } } } }] : [];
  const { holdMs, decayMs } = kick.made;
  return [{ id: 'shorten', title: 'Shorten the kick’s tail', cost: 'kick', costText, document: { ...document, kick: { ...kick, made: { ...kick.made, holdMs: Math.round(0.6 * holdMs), decayMs: Math.max(20, Math.round(0.6 * decayMs)) } } } }];
}

/** The bass's own oscillator carries the kick's drop: one wave, one phase. */
export function sharedDraft(document: SoundDocument): Draft[] {
  return document.kick.shared ? [] : [{ id: 'shared', title: 'One oscillator for both', cost: 'kick', costText: 'the bass itself makes the kick’s drop, and the kick lends what lies above', document: { ...document, kick: { ...document.kick, shared: true } } }];
}

/** Nothing of the bass below 120 Hz while the kick sounds. */
export function duckDraft(document: SoundDocument): Draft[] {
  if (document.duck.on && document.duck.hard) return [];
  return [{ id: 'duck', title: 'Duck the lows hard under the kick', cost: 'level', costText: 'while the kick sounds there is no bass below 120 Hz', document: { ...document, duck: { ...document.duck, on: true, hard: true, by: 'beats', from: 'kick' } } }];
}

/** Sub an octave up: its weight lies at the second harmonic of what it was, over a kick that is all sub. */
export function octaveDraft(document: SoundDocument): Draft[] {
  const layers = document.layers.map((layer) => (layer.role === 'sub' && layer.on ? { ...layer, tones: layer.tones.map((tone) => (tone.on && tone.octave < 4 ? { ...tone, octave: tone.octave + 1 } : tone)) } : layer));
  return document.layers.some(({ role, on }) => role === 'sub' && on) ? [{ id: 'octave', title: 'Move the weight of the bass to its second harmonic', cost: 'tone', costText: 'Sub plays an octave higher', document: { ...document, layers } }] : [];
}

/** The bass brought to the middle of where it is to stand against the kick. */
export function levelDraft(document: SoundDocument, bassToKickDb: number | null): Draft[] {
  const { bassToKickMinDb: min, bassToKickMaxDb: max } = document.targets;
  if (bassToKickDb === null || (bassToKickDb >= min && bassToKickDb <= max)) return [];
  const by = Math.round(10 * ((min + max) / 2 - bassToKickDb)) / 10;
  const levelDb = Math.max(-24, Math.min(12, tidy(document.output.levelDb + by, 1)));
  return [{ id: 'level', title: `${by > 0 ? 'Raise' : 'Lower'} the bass by ${Math.abs(by).toFixed(1)} dB`, cost: 'nothing', costText: `it stood ${Math.abs(bassToKickDb).toFixed(1)} dB ${bassToKickDb < 0 ? 'under' : 'over'} the kick`, document: { ...document, output: { ...document.output, levelDb } } }];
}

