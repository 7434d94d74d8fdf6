import { NoteMarks } from '../units/note-marks.js';
import type { Duck, Kick, LineNote, SoundDocument } from '../../document/index.js';
import { NO_RATE } from '../../kinds/movers/index.js';
import { loopFrames, loopTicks, ticksRound, ticksToSeconds } from '../../units/index.js';
import { carriedPitch } from '../layer/carry.js';
import { HARD_AHEAD_MS } from '../mix/duck.js';
import { dropEndMs } from '../kick/drop.js';
import { lowestTone } from '../layer/lowest-tone.js';

export const NOTE_OFF = 0;
export const NOTE_ON = 1;
export const KICK = 2;
/** A backing part begins. */
export const BACKING = 3;
/**
 * Ducking begins for a hit of the kick or for a backing part that is followed: before what it is for, by the
 * look-ahead.
 */
export const DUCK = 4;

/**
 * With one oscillator for both, the layers that carry the kick take up its drop: from its start, or, as a
 * note begins within it, from as many ms on as stand for the pitch.
 */
export const CARRY = 5;

/**
 * The layers whose phase begins anew with the kick as well do so; where a note begins there of its own they
 * have just begun.
 */
export const RESTART = 6;

/** Which layers a note is for: all, the ones that carry the kick, or all but those. */
export const FOR_ALL = 0;
export const FOR_CARRIERS = 1;
export const FOR_OTHERS = 2;
/** Notes that stand for the kick count from here, between those of the line and the live ones. */
const CARRIED_SOURCE = 9_000_000;

/** What happens in a loop, in order of time: columns of equal length. */
export interface EventList {
  readonly loopFrames: number;
  /** Frame in the loop. */
  readonly frame: Int32Array;
  /** `NOTE_OFF`, `NOTE_ON`, `KICK`, `BACKING`, `DUCK`, `CARRY` or `RESTART`. */
  readonly type: Uint8Array;
  /**
   * Which note of the line (on and off), by place and pitch; the number of the hit, or of the backing part.
   */
  readonly source: Int32Array;
  readonly pitch: Float64Array;
  readonly velocity: Float64Array;
  readonly tie: Uint8Array;
  /** `FOR_ALL`, `FOR_CARRIERS` or `FOR_OTHERS`. */
  readonly to: Uint8Array;
  /** Whether a note is an accent, its own wobble rate in beats, its number in the line; see `PLAYED_RATE`. */
  readonly accent: Uint8Array;
  readonly rate: Float64Array;
  readonly number: Int32Array;
}

/** The number of each note in the line, counted from 0 in order of time and pitch; a tied one has that before it. */
function numbersOf(notes: readonly LineNote[]): Int32Array {
  const order = Array.from(notes.keys()).sort(
    (a, b) => notes[a].tick - notes[b].tick || notes[a].pitch - notes[b].pitch,
  );
  const numbers = new Int32Array(notes.length);
  let next = -1;
  for (const i of order) {
    if (!notes[i].tie || next < 0) next++;
    numbers[i] = next;
  }
  return numbers;
}

/** Name of a note of the line for the engine: the same while the note stays where it is. */
export function noteSource(note: { tick: number; pitch: number }): number {
  return note.tick * 128 + note.pitch;
}

/** The velocity at which a note plays: an accent plays at 127 (common practice). */
export function playedVelocity(note: { velocity: number; accent: boolean }): number {
  return note.accent ? 127 : note.velocity;
}

/** Ticks of a sixteenth. */
const SIXTEENTH = 120;

/**
 * Where a hit falls with swing: the second of each pair of sixteenths is moved from 50 % of the pair to
 * `swingPct`.
 */
export function swung(tick: number, swingPct: number): number {
  return tick % (2 * SIXTEENTH) >= SIXTEENTH ? tick + ((swingPct - 50) / 100) * 2 * SIXTEENTH : tick;
}

/** Where every hit of a kick falls, in ticks, swing and all, in the order of its hits. */
export function hitTicks({ hits, swingPct }: Kick): number[] {
  return hits.map(({ tick }) => swung(tick, swingPct));
}

/**
 * By how much the notes of the line come later than written, in ms: the nudge; none with one oscillator for
 * both, where the bass is the kick and stands where that does.
 */
export function bassNudgeMs({ kick, lock }: SoundDocument): number {
  return kick.on && kick.shared ? 0 : lock.nudgeMs;
}

/** By how much ducking begins before what it is for, in ms; hard ducking is down when the kick begins. */
export function lookAheadMs({ on, hard, lookAheadMs: set }: Duck): number {
  return on ? (hard ? Math.max(set, HARD_AHEAD_MS) : set) : 0;
}

/** Whether any layer's phase begins anew with the kick. */
export function restartsWithKick({ layers }: SoundDocument): boolean {
  return layers.some(({ on, voice }) => on && voice.restart !== 'note');
}

/**
 * Notes that begin of their own while the kick's drop is on its way, and how many ms of it have passed by
 * then.
 */
function takenUp({ kick, line, ground }: SoundDocument): { note: LineNote; ms: number }[] {
  const loop = loopTicks(ground.bars);
  const end = dropEndMs(kick.made);
  return line.notes
    .filter(({ tie, carries }) => !tie && carries === 'both')
    .flatMap((note) => {
      // Since the hit before it, round the loop; a hit as the note begins is an event of its own.
      const since = Math.min(...hitTicks(kick).map((tick) => ticksRound(tick, note.tick, loop)));
      const ms = 1000 * ticksToSeconds(since, ground.tempoBpm);
      return since > 1 && since < loop - 1 && ms < end ? [{ note, ms }] : [];
    });
}

/**
 * The line and the kick as events of a loop at a sample rate. Notes are moved by the nudge and wrap round the
 * loop's end. Where
 * a note ends as the next one begins, the end comes first, unless the next one is tied: then the two overlap
 * and glide.
 */
export function eventList(document: SoundDocument, sampleRateHz: number): EventList {
  const frames = loopFrames(document.ground.bars, document.ground.tempoBpm, sampleRateHz);
  const perTick = frames / loopTicks(document.ground.bars);
  const nudge = Math.round((bassNudgeMs(document) / 1000) * sampleRateHz);
  const shift =
    document.kick.source === 'wav' && document.kick.wav
      ? Math.round((document.kick.wav.shiftMs / 1000) * sampleRateHz)
      : 0;
  const lookAhead = Math.round((lookAheadMs(document.duck) / 1000) * sampleRateHz);
  const shared = document.kick.on && document.kick.shared;
  const restarts = restartsWithKick(document);
  const { octave, semitones } = lowestTone(document);
  const kickPitch = carriedPitch(document, octave, semitones);
  const wrap = (frame: number) => ((frame % frames) + frames) % frames;
  type Row = {
    frame: number;
    type: number;
    source: number;
    pitch: number;
    velocity: number;
    tie: number;
    order: number;
    to?: number;
    accent?: number;
    rate?: number;
    number?: number;
  };
  const rows: Row[] = [];
  const numbers = numbersOf(document.line.notes);
  document.line.notes.forEach((note, n) => {
    const source = noteSource(note);
    const on = Math.round(note.tick * perTick) + nudge;
    // A note as long as the loop would end as it begins; it ends one control step before.
    const off = Math.min(Math.round((note.tick + note.ticks) * perTick) + nudge, on + frames - 16);
    const row = {
      source,
      pitch: note.pitch,
      velocity: playedVelocity(note),
      tie: note.tie ? 1 : 0,
      to: shared && note.carries === 'kick' ? FOR_OTHERS : FOR_ALL,
      accent: note.accent ? 1 : 0,
      rate: note.wobbleBeats ?? NO_RATE,
      number: numbers[n],
    };
    rows.push({ ...row, frame: wrap(on), type: NOTE_ON, order: note.tie ? 0 : 2 });
    rows.push({ ...row, frame: wrap(off), type: NOTE_OFF, order: 1 });
  });
  if (document.kick.on) {
    document.kick.hits.forEach((hit, source) => {
      const frame = Math.round(swung(hit.tick, document.kick.swingPct) * perTick) + shift;
      const row = { source, pitch: 0, velocity: hit.velocity, tie: 0 };
      rows.push({ ...row, frame: wrap(frame), type: KICK, order: 3 });
      // Where a note begins that is written at the hit: with the nudge, and without the kick's own shift.
      if (restarts)
        rows.push({
          ...row,
          frame: wrap(Math.round(swung(hit.tick, document.kick.swingPct) * perTick) + nudge),
          type: RESTART,
          order: 3,
        });
      if (shared) {
        const tick = swung(hit.tick, document.kick.swingPct);
        const over = document.line.notes.find(
          (note) => note.tick <= tick + 1 && note.tick + note.ticks > tick,
        );
        if (over?.carries !== 'bass') rows.push({ ...row, frame: wrap(frame), type: CARRY, order: 3 });
        if (!over || over.carries === 'kick') {
          const length = Math.min(
            frames - 16,
            Math.round(((document.kick.made.holdMs + document.kick.made.decayMs) / 1000) * sampleRateHz),
          );
          const own = { ...row, source: CARRIED_SOURCE + source, pitch: kickPitch, to: FOR_CARRIERS };
          rows.push(
            { ...own, frame: wrap(frame), type: NOTE_ON, order: 2 },
            { ...own, frame: wrap(frame + length), type: NOTE_OFF, order: 1 },
          );
        }
      }
      if (document.duck.on && document.duck.from === 'kick')
        rows.push({ ...row, frame: wrap(frame - lookAhead), type: DUCK, order: 4 });
    });
  }
  if (shared)
    rows.push(
      ...takenUp(document).map(({ note, ms }) => ({
        source: noteSource(note),
        pitch: ms,
        velocity: 127,
        tie: 0,
        frame: wrap(Math.round(note.tick * perTick)),
        type: CARRY,
        order: 3,
      })),
    );
  document.backing.forEach((part, source) => {
    if (!part.on) return;
    const frame = Math.round(part.startTick * perTick);
    const row = { source, pitch: 0, velocity: 127, tie: 0 };
    rows.push({ ...row, frame: wrap(frame), type: BACKING, order: 3 });
    if (document.duck.on && document.duck.from === part.id)
      rows.push({ ...row, frame: wrap(frame - lookAhead), type: DUCK, order: 4 });
  });
  rows.sort((a, b) => a.frame - b.frame || a.order - b.order || a.source - b.source);
  return {
    loopFrames: frames,
    frame: Int32Array.from(rows, (row) => row.frame),
    type: Uint8Array.from(rows, (row) => row.type),
    source: Int32Array.from(rows, (row) => row.source),
    pitch: Float64Array.from(rows, (row) => row.pitch),
    velocity: Float64Array.from(rows, (row) => row.velocity),
    tie: Uint8Array.from(rows, (row) => row.tie),
    to: Uint8Array.from(rows, (row) => row.to ?? FOR_ALL),
    accent: Uint8Array.from(rows, (row) => row.accent ?? 0),
    rate: Float64Array.from(rows, (row) => row.rate ?? NO_RATE),
    number: Int32Array.from(rows, (row) => row.number ?? -1),
  };
}

/** The notes of the line that sound at a frame of the loop, by source. */
export function sourcesAt(events: EventList, place: number): Set<number> {
  const sounding = new Set<number>();
  // Twice round: a note that wraps the loop's end began before its end comes.
  for (let round = 0; round < 2; round++) {
    for (let i = 0; i < events.frame.length; i++) {
      if (round === 1 && events.frame[i] > place) break;
      if (events.type[i] === NOTE_ON) sounding.add(events.source[i]);
      else if (events.type[i] === NOTE_OFF) sounding.delete(events.source[i]);
    }
  }
  return sounding;
}

/** Where the notes of the line begin, for what must know ahead. */
export function noteMarks({ type, to, frame, loopFrames }: EventList): NoteMarks {
  const frames: number[] = [];
  for (let i = 0; i < frame.length; i++)
    if (type[i] === NOTE_ON && to[i] !== FOR_CARRIERS && frames.at(-1) !== frame[i]) frames.push(frame[i]);
  return new NoteMarks(frames, loopFrames);
}
