import type { SoundDocument } from '../document/index.js';
import { loopFrames, loopTicks } from '../units/index.js';

export const NOTE_OFF = 0;
export const NOTE_ON = 1;
export const KICK = 2;

/** What happens in a loop, in order of time: columns of equal length. */
export interface EventList {
  readonly loopFrames: number;
  /** Frame in the loop. */
  readonly frame: Int32Array;
  /** `NOTE_OFF`, `NOTE_ON` or `KICK`. */
  readonly type: Uint8Array;
  /** Which note of the line (on and off), by place and pitch; the number of the hit. */
  readonly source: Int32Array;
  readonly pitch: Float64Array;
  readonly velocity: Float64Array;
  readonly tie: Uint8Array;
}

/** Name of a note of the line for the engine: the same while the note stays where it is. */
export function noteSource(note: { tick: number; pitch: number }): number {
  return note.tick * 128 + note.pitch;
}

/** The velocity at which a note plays: an accent plays at 127 (common practice). */
export function playedVelocity(note: { velocity: number; accent: boolean }): number {
  return note.accent ? 127 : note.velocity;
}

/**
 * The line and the kick as events of a loop at a sample rate. Notes are moved by the nudge and wrap round the loop's end. Where
 * a note ends as the next one begins, the end comes first, unless the next one is tied: then the two overlap and glide.
 */
export function eventList(document: SoundDocument, sampleRateHz: number): EventList {
  const frames = loopFrames(document.ground.bars, document.ground.tempoBpm, sampleRateHz);
  const perTick = frames / loopTicks(document.ground.bars);
  const nudge = Math.round((document.lock.nudgeMs / 1000) * sampleRateHz);
  const wrap = (frame: number) => ((frame % frames) + frames) % frames;
  type Row = { frame: number; type: number; source: number; pitch: number; velocity: number; tie: number; order: number };
  const rows: Row[] = [];
  document.line.notes.forEach((note) => {
    const source = noteSource(note);
    const on = Math.round(note.tick * perTick) + nudge;
    // A note as long as the loop would end as it begins; it ends one control step before.
    const off = Math.min(Math.round((note.tick + note.ticks) * perTick) + nudge, on + frames - 16);
    const row = { source, pitch: note.pitch, velocity: playedVelocity(note), tie: note.tie ? 1 : 0 };
    rows.push({ ...row, frame: wrap(on), type: NOTE_ON, order: note.tie ? 0 : 2 });
    rows.push({ ...row, frame: wrap(off), type: NOTE_OFF, order: 1 });
  });
  if (document.kick.on) {
    document.kick.hits.forEach((hit, source) => {
      rows.push({ frame: wrap(Math.round(hit.tick * perTick)), type: KICK, source, pitch: 0, velocity: hit.velocity, tie: 0, order: 3 });
    });
  }
  rows.sort((a, b) => a.frame - b.frame || a.order - b.order || a.source - b.source);
  return {
    loopFrames: frames,
    frame: Int32Array.from(rows, (row) => row.frame),
    type: Uint8Array.from(rows, (row) => row.type),
    source: Int32Array.from(rows, (row) => row.source),
    pitch: Float64Array.from(rows, (row) => row.pitch),
    velocity: Float64Array.from(rows, (row) => row.velocity),
    tie: Uint8Array.from(rows, (row) => row.tie),
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
