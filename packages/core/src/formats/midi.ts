import midiFile from 'midi-file';
import { cleanNote, HIGHEST_NOTE, MOST_BARS, MOST_NOTES, type LineNote } from '../document/index.js';
import { BEATS_PER_BAR, TICKS_PER_BEAT } from '../units/index.js';
import { FormatError } from './format-error.js';
import { LaneGatherer, laneEvents, type MidiLane } from './midi-lanes.js';

const MOST_BYTES = 4 * 1024 * 1024;
/** Overlap by which a tie is written, so that a reader hears legato. */
const TIE_TICKS = 10;

/** Greatest value of a data byte (MIDI 1.0, Detailed Specification: its top bit is clear). */
const MOST_DATA = 127;

type NoteEvent = midiFile.MidiNoteOnEvent | midiFile.MidiNoteOffEvent;
const isNote = (event: midiFile.MidiEvent): event is NoteEvent =>
  event.type === 'noteOn' || event.type === 'noteOff';

/** A line read from a MIDI file, and what could not be taken. */
export interface MidiLine {
  readonly notes: LineNote[];
  readonly bars: number;
  readonly tempoBpm: number | null;
  /** The first time signature, as `3/4`; null where the file has none. */
  readonly timeSignature: string | null;
  /** What bends, pressure and controllers say, by control, at 480 ticks a quarter. */
  readonly lanes: readonly MidiLane[];
  readonly dropped: number;
}

/** Checks that the chunks fit the file, so that the reader never runs past its end. */
function checkChunks(bytes: Uint8Array): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const isHeader = bytes.length >= 14 && view.getUint32(0) === 0x4d546864 && view.getUint32(4) === 6;
  if (!isHeader) throw new FormatError('this is not a MIDI file');
  const tracks = view.getUint16(10);
  let at = 14;
  for (let track = 0; track < tracks; track++) {
    if (at + 8 > bytes.length || at + 8 + view.getUint32(at + 4) > bytes.length)
      throw new FormatError('the MIDI file is cut off or broken: a track runs past its end');
    at += 8 + view.getUint32(at + 4);
  }
}

/**
 * Reads the notes of a Standard MIDI File (formats 0 and 1, all tracks and channels together) as a line:
 * times at 480 ticks a
 * quarter, notes that overlap the next one as ties, velocity 127 as accent; and what its controls say as lanes.
 * Notes after bar 16 or past 512 are
 * dropped and
 * counted. Throws a `FormatError` with one sentence.
 */
export function readMidi(bytes: Uint8Array): MidiLine {
  if (bytes.length > MOST_BYTES) throw new FormatError('the MIDI file is larger than 4 MB');
  checkChunks(bytes);
  let parsed: ReturnType<typeof midiFile.parseMidi>;
  try {
    parsed = midiFile.parseMidi(bytes);
  } catch {
    throw new FormatError('the MIDI file is broken: its events cannot be read');
  }
  const perBeat = parsed.header.ticksPerBeat;
  if (!perBeat) throw new FormatError('the MIDI file is timed in film frames; export it timed in beats');
  const scale = TICKS_PER_BEAT / perBeat;
  const found: LineNote[] = [];
  let tempoBpm: number | null = null;
  let timeSignature: string | null = null;
  const gathered = new LaneGatherer();
  for (const track of parsed.tracks) {
    let time = 0;
    const open = new Map<number, { tick: number; velocity: number }>();
    const close = (pitch: number) => {
      const start = open.get(pitch);
      if (!start) return;
      open.delete(pitch);
      const ticks = Math.max(1, Math.round(time * scale) - start.tick);
      if (pitch <= HIGHEST_NOTE)
        found.push(
          cleanNote({
            tick: start.tick,
            ticks,
            pitch,
            velocity: start.velocity,
            accent: start.velocity === 127,
          }),
        );
    };
    for (const event of track) {
      if (!Number.isFinite(event.deltaTime))
        throw new FormatError('the MIDI file is broken: an event has no time');
      time += event.deltaTime;
      if (isNote(event) && (event.noteNumber > MOST_DATA || event.velocity > MOST_DATA))
        throw new FormatError(`the MIDI file is broken: a note in it has a value above ${MOST_DATA}`);
      if (event.type === 'setTempo' && tempoBpm === null && event.microsecondsPerBeat > 0)
        tempoBpm = 6e7 / event.microsecondsPerBeat;
      else if (event.type === 'timeSignature') timeSignature ??= `${event.numerator}/${event.denominator}`;
      else if (gathered.take(event, Math.round(time * scale))) continue;
      else if (isNote(event)) {
        close(event.noteNumber);
        if (event.type === 'noteOn' && event.velocity > 0)
          open.set(event.noteNumber, { tick: Math.round(time * scale), velocity: event.velocity });
      }
    }
    for (const pitch of [...open.keys()]) close(pitch);
  }
  if (found.length === 0) throw new FormatError('the MIDI file has no notes between C−1 and C7');
  const { offset, ...line } = fit(found);
  return {
    ...line,
    tempoBpm,
    timeSignature,
    lanes: gathered.lanes(offset, line.bars * BEATS_PER_BAR * TICKS_PER_BEAT),
  };
}

/** The notes within the bars that a line may have, from the first bar with one on; ticks before that bar. */
function fit(found: LineNote[]): Pick<MidiLine, 'notes' | 'bars' | 'dropped'> & { readonly offset: number } {
  const bar = BEATS_PER_BAR * TICKS_PER_BEAT;
  found.sort((a, b) => a.tick - b.tick || a.pitch - b.pitch);
  const offset = Math.floor(found[0].tick / bar) * bar;
  const end = MOST_BARS * bar;
  const kept = found
    .map((note) => ({ ...note, tick: note.tick - offset }))
    .filter((note) => note.tick < end)
    .slice(0, MOST_NOTES)
    .map((note) => ({ ...note, ticks: Math.min(note.ticks, end - note.tick) }));
  for (let i = 1; i < kept.length; i++) {
    const before = kept[i - 1];
    if (before.tick < kept[i].tick && before.tick + before.ticks > kept[i].tick) {
      before.ticks = kept[i].tick - before.tick;
      kept[i].tie = true;
    }
  }
  const last = Math.max(...kept.map((note) => note.tick + note.ticks));
  return {
    notes: kept,
    bars: Math.min(MOST_BARS, Math.max(1, Math.ceil(last / bar))),
    offset,
    dropped: found.length - kept.length,
  };
}

/**
 * Writes a line as a Standard MIDI File, format 0, 480 ticks a quarter; accents at velocity 127, ties as
 * overlaps; lanes by their controls.
 */
export function writeMidi(
  notes: readonly LineNote[],
  tempoBpm: number,
  name: string,
  lanes: readonly MidiLane[] = [],
): Uint8Array {
  type Timed = {
    time: number;
    order: number;
    event: Parameters<typeof midiFile.writeMidi>[0]['tracks'][number][number];
  };
  const timed: Timed[] = [
    {
      time: 0,
      order: 0,
      event: { deltaTime: 0, meta: true, type: 'trackName', text: name.replace(/[^\x20-\x7e]/g, '?') },
    },
    {
      time: 0,
      order: 0,
      event: { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: Math.round(6e7 / tempoBpm) },
    },
    {
      time: 0,
      order: 0,
      event: {
        deltaTime: 0,
        meta: true,
        type: 'timeSignature',
        numerator: 4,
        denominator: 4,
        metronome: 24,
        thirtyseconds: 8,
      },
    },
  ];
  const ordered = [...notes].sort((a, b) => a.tick - b.tick);
  ordered.forEach((note, i) => {
    const next = ordered[i + 1];
    const tied = next?.tie && next.tick === note.tick + note.ticks && next.pitch !== note.pitch;
    const velocity = note.accent ? 127 : Math.min(126, note.velocity);
    timed.push({
      time: note.tick,
      order: 2,
      event: { deltaTime: 0, channel: 0, type: 'noteOn', noteNumber: note.pitch, velocity },
    });
    timed.push({
      time: note.tick + note.ticks + (tied ? TIE_TICKS : 0),
      order: 1,
      event: { deltaTime: 0, channel: 0, type: 'noteOff', noteNumber: note.pitch, velocity: 64 },
    });
  });
  // What a control says at a note's start is there as the note begins.
  for (const { time, event } of laneEvents(lanes)) timed.push({ time, order: 1, event });
  timed.sort((a, b) => a.time - b.time || a.order - b.order);
  let last = 0;
  const track = timed.map(({ time, event }) => {
    const deltaTime = time - last;
    last = time;
    return { ...event, deltaTime };
  });
  track.push({ deltaTime: 0, meta: true, type: 'endOfTrack' });
  return Uint8Array.from(
    midiFile.writeMidi({
      header: { format: 0, numTracks: 1, ticksPerBeat: TICKS_PER_BEAT },
      tracks: [track],
    }),
  );
}
