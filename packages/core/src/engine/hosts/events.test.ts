import { cleanNote, cleanSound, type SoundDocument } from '../../document/index.js';
import { eventList, KICK, NOTE_OFF, NOTE_ON, noteSource, playedVelocity, sourcesAt } from './events.js';

const RATE = 48000;
function sound(change: (s: SoundDocument) => void): SoundDocument {
  const made = structuredClone(cleanSound());
  made.ground = { ...made.ground, tempoBpm: 120, bars: 1 };
  made.kick.hits = [
    { tick: 0, velocity: 100 },
    { tick: 960, velocity: 90 },
  ];
  change(made);
  return made;
}

describe('the events of a loop', () => {
  const list = (change: (s: SoundDocument) => void) => {
    const { loopFrames, frame, type, pitch } = eventList(sound(change), RATE);
    return { loopFrames, rows: Array.from(frame, (at, i) => [at, type[i], pitch[i]]) };
  };

  it('stand in order of time, at 48 000 frames for two beats of 120 bpm', () => {
    const { loopFrames, rows } = list((s) => {
      s.line.notes = [cleanNote({ tick: 960, ticks: 480, pitch: 31 })];
    });
    expect(loopFrames).toBe(96000);
    expect(rows).toEqual([
      [0, KICK, 0],
      [48000, NOTE_ON, 31],
      [48000, KICK, 0],
      [72000, NOTE_OFF, 31],
    ]);
  });

  it('end a note before the next begins, but after a tied one has', () => {
    const two = (tie: boolean) =>
      list((s) => {
        s.kick.on = false;
        s.line.notes = [
          cleanNote({ tick: 0, ticks: 480, pitch: 29 }),
          cleanNote({ tick: 480, ticks: 480, pitch: 31, tie }),
        ];
      })
        .rows.slice(1, 3)
        .map(([, type]) => type);
    expect(two(false)).toEqual([NOTE_OFF, NOTE_ON]);
    expect(two(true)).toEqual([NOTE_ON, NOTE_OFF]);
  });

  it("are moved by the nudge and wrap round the loop's end; the kick stays", () => {
    const { rows } = list((s) => {
      s.lock.nudgeMs = -2;
      s.line.notes = [cleanNote({ tick: 0, ticks: 480, pitch: 29 })];
    });
    expect(rows).toEqual([
      [0, KICK, 0],
      [23904, NOTE_OFF, 29],
      [48000, KICK, 0],
      [95904, NOTE_ON, 29],
    ]);
  });

  it('of a note as long as the loop end before it begins anew', () => {
    const { rows } = list((s) => {
      s.kick.on = false;
      s.line.notes = [cleanNote({ tick: 0, ticks: 1920, pitch: 29 })];
    });
    expect(rows).toEqual([
      [0, NOTE_ON, 29],
      [95984, NOTE_OFF, 29],
    ]);
  });

  it("tell which notes sound at a place, over the loop's end too", () => {
    const notes = [
      cleanNote({ tick: 480, ticks: 960, pitch: 29 }),
      cleanNote({ tick: 1800, ticks: 120, pitch: 31 }),
    ];
    const events = eventList(
      sound((s) => {
        s.lock.nudgeMs = 20;
        s.line.notes = notes;
      }),
      RATE,
    );
    expect(sourcesAt(events, 30000)).toEqual(new Set([noteSource(notes[0])]));
    expect(sourcesAt(events, 80000)).toEqual(new Set());
    expect(sourcesAt(events, 500)).toEqual(new Set([noteSource(notes[1])]));
  });

  it('number the notes of the line in order of time; a tied one has the number of the one before', () => {
    const events = eventList(
      sound((s) => {
        s.kick.on = false;
        s.line.notes = [
          cleanNote({ tick: 960, ticks: 200, wobbleBeats: 0.5 }),
          cleanNote({ tick: 0, ticks: 480, accent: true }),
          cleanNote({ tick: 480, ticks: 480, pitch: 31, tie: true }),
        ];
      }),
      RATE,
    );
    const on = Array.from(events.frame.keys()).filter((i) => events.type[i] === NOTE_ON);
    expect(on.map((i) => events.number[i])).toEqual([0, 0, 1]);
    expect(on.map((i) => events.accent[i])).toEqual([1, 0, 0]);
    expect(on.map((i) => events.rate[i])).toEqual([-1, -1, 0.5]);
  });

  it('play accents at 127', () => {
    expect([
      playedVelocity({ velocity: 90, accent: false }),
      playedVelocity({ velocity: 90, accent: true }),
    ]).toEqual([90, 127]);
  });
});
