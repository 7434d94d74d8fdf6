import type { LineNote, SoundDocument } from '../../document/index.js';
import { bassNudgeMs, hitTicks, lowestLayer, lowestTone, swung } from '../../engine/index.js';
import { noteToHz } from '../../music/index.js';
import { loopTicks, ticksRound } from '../../units/index.js';

/** Fundamental of a note as its lowest layer plays it, in hertz. */
export function soundingHz(document: SoundDocument, pitch: number): number {
  const lowest = lowestTone(document);
  return lowest.pitchIn === 'hertz'
    ? lowest.fixedHz
    : noteToHz(pitch + 12 * lowest.octave + lowest.semitones, document.ground.a4Hz);
}

/** Where a note of the line stands in a low band, in frames, and the period of its fundamental in seconds. */
export interface NoteStretch {
  readonly from: number;
  readonly to: number;
  readonly periodS: number;
}

/** Where the notes of a line stand in low bands of a loop, as far as they stand within it. */
export function noteStretches(document: SoundDocument, frames: number, rateHz: number): NoteStretch[] {
  const perTick = frames / loopTicks(document.ground.bars);
  const nudge = (bassNudgeMs(document) / 1000) * rateHz;
  return document.line.notes.map(({ tick, ticks, pitch }) => ({
    from: Math.max(0, Math.round(tick * perTick + nudge)),
    to: Math.min(frames, Math.round((tick + ticks) * perTick + nudge)),
    periodS: 1 / soundingHz(document, pitch),
  }));
}

/** The frames in which a note and a hit may sound together: below 0 or beyond the end a loop runs round. */
export interface MeetingStretch {
  /** Which hit of the kick, by place. */
  readonly hit: number;
  /** Where the hit falls, in frames from the loop's start; it may have come before the note. */
  readonly hitFrame: number;
  readonly from: number;
  readonly to: number;
  /** Whether the hit falls into the note, not before it. */
  readonly within: boolean;
}

/** The tick at which another note takes a voice over from a note; its own end where none does. */
function takenOver(document: SoundDocument, note: LineNote): number {
  const { notes: rule } = lowestLayer(document).voice;
  const end = note.tick + note.ticks;
  if (rule === 'several') return end;
  const loop = loopTicks(document.ground.bars);
  return Math.min(
    end,
    ...document.line.notes.flatMap((other) => {
      if (
        other === note ||
        (rule === 'lowest' && other.pitch > note.pitch) ||
        (rule === 'highest' && other.pitch < note.pitch)
      )
        return [];
      return [other.tick, other.tick + loop].filter((tick) => tick > note.tick);
    }),
  );
}

/**
 * Where each note of a line may meet hits of the kick: from the later of their starts to the earliest of the
 * note's end, the next note of the same voice and the next hit. A hit before
 * the note counts while no other has come.
 */
export function meetingStretches(
  document: SoundDocument,
  frames: number,
  rateHz: number,
): MeetingStretch[][] {
  const { kick, line, ground } = document;
  const loop = loopTicks(ground.bars);
  const perTick = frames / loop;
  const nudge = (bassNudgeMs(document) / 1000) * rateHz;
  const shift = kick.source === 'wav' && kick.wav ? (kick.wav.shiftMs / 1000) * rateHz : 0;
  // Three rounds: a note may have begun under a hit of the round before, and run on into the next.
  const hits = kick.on
    ? [-1, 0, 1]
        .flatMap((round) =>
          kick.hits.map((each, hit) => {
            const tick = swung(each.tick, kick.swingPct) + round * loop;
            return { hit, tick, frame: tick * perTick + shift };
          }),
        )
        .sort((a, b) => a.frame - b.frame || a.hit - b.hit)
    : [];
  return line.notes.map((note) => {
    const begins = note.tick * perTick + nudge;
    const ends = takenOver(document, note) * perTick + nudge;
    // A hit within a tick of the note's start falls with it.
    return hits.flatMap(({ hit, tick, frame }, h) => {
      const next = h + 1 < hits.length ? hits[h + 1].frame : Infinity;
      const from = Math.round(Math.max(begins, frame));
      const to = Math.round(Math.min(ends, next));
      return frame < ends && next > begins && to > from
        ? [{ hit, hitFrame: Math.round(frame), from, to, within: tick >= note.tick - 1 }]
        : [];
    });
  });
}

/**
 * The pitch whose start phase a meeting has: that of its note, or of the note before where a tied one runs on
 * in its phase; null where the phase has no start in the whole loop. With a phase
 * that restarts with the kick it is the pitch that sounded at the last hit.
 */
export function phasePitches(
  document: SoundDocument,
  meetings: readonly (readonly MeetingStretch[])[],
): (number | null)[][] {
  const {
    line: { notes },
    kick,
    ground,
  } = document;
  const { voice } = lowestLayer(document);
  const restarts = kick.on && voice.restart !== 'note';
  const loop = loopTicks(ground.bars);
  const hits = hitTicks(kick);
  const goesOn = (note: LineNote, before: LineNote | undefined) => {
    if (!before) return false;
    const end = before.tick + before.ticks;
    const reaches = (at: number) =>
      (note.tie ? end >= at : voice.trigger === 'legato' && end > at) && before.tick < at;
    return reaches(note.tick) || reaches(note.tick + loop);
  };
  /** The note that sounds as another begins: of those before it the last to begin, round the loop. */
  const beforeOf = (note: LineNote) => {
    const since = (other: LineNote) => ticksRound(other.tick, note.tick, loop) || loop;
    return notes.reduce<LineNote | undefined>(
      (nearest, other) => (other !== note && (!nearest || since(other) < since(nearest)) ? other : nearest),
      undefined,
    );
  };
  const owner = (note: LineNote): number | null => {
    let current = note;
    for (let steps = 0; steps <= notes.length; steps++) {
      const before = beforeOf(current);
      if (!goesOn(current, before)) return current.pitch;
      const length = ticksRound(before!.tick, current.tick, loop) || loop;
      if (restarts && hits.some((tick) => ticksRound(before!.tick, tick, loop) < length))
        return before!.pitch;
      current = before!;
    }
    return null;
  };
  return notes.map((note, n) => {
    const own = owner(note);
    return meetings[n].map(({ within }) => (restarts && within ? note.pitch : own));
  });
}
