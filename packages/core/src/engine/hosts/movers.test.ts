import {
  cleanMover,
  cleanNote,
  cleanSound,
  parameter,
  type MoverOf,
  type SoundDocument,
} from '../../document/index.js';
import { eventList, KICK, NOTE_OFF, NOTE_ON, noteSource, playedVelocity, sourcesAt } from './events.js';
import { MoverBank } from '../movers/mover-bank.js';
import { wobbleHz } from '../../kinds/movers/wobble.js';
import { moverTraces } from './mover-trace.js';
import { ParameterBank } from '../movers/parameter-bank.js';

const RATE = 48000;
const wobble = (set: Partial<MoverOf<'wobble'>>) => cleanMover('wobble', { smoothMs: 0, ...set });
/** A cycle that falls straight from 1 to 0, so that its value tells its phase. */
const fall = [
  { x: 0, y: 1, bend: 0 },
  { x: 1, y: 0, bend: 0 },
];

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

  it('play accents at 127', () => {
    expect([
      playedVelocity({ velocity: 90, accent: false }),
      playedVelocity({ velocity: 90, accent: true }),
    ]).toEqual([90, 127]);
  });
});

describe('a wobble', () => {
  const bank = (set: Partial<MoverOf<'wobble'>>, seed = 1) =>
    new MoverBank([wobble({ nodes: fall, ...set })], 120, RATE, seed);
  const after = (movers: MoverBank, seconds: number) => {
    for (let i = 0; i < Math.round((seconds * RATE) / 16); i++) movers.step(16);
    return movers.value[0];
  };

  it('comes in beats, triplets and dots, or in hertz', () => {
    expect(wobbleHz(wobble({ rateBeats: 1 }), 140)).toBeCloseTo(140 / 60, 12);
    expect(wobbleHz(wobble({ rateBeats: 1 / 3 }), 120)).toBeCloseTo(6, 12);
    expect(wobbleHz(wobble({ rateBeats: 0.75 }), 120)).toBeCloseTo(2 / 0.75, 12);
    expect(wobbleHz(wobble({ rateIn: 'hertz', rateHz: 4.67 }), 120)).toBe(4.67);
  });

  it('starts anew with each note from where it is told to, and goes on under a tie', () => {
    const movers = bank({ startDeg: 90 });
    movers.noteOn(false);
    expect(after(movers, 0.125)).toBeCloseTo(0.5, 2);
    movers.noteOn(true);
    expect(after(movers, 0.125)).toBeCloseTo(0.25, 2);
    movers.noteOn(false);
    movers.step(16);
    expect(movers.value[0]).toBeCloseTo(0.75, 2);
  });

  it('runs free past notes, and begins elsewhere for each seed', () => {
    const free = bank({ restart: 'free' });
    const at = after(free, 0.1);
    free.noteOn(false);
    expect(Math.abs(after(free, 0.5) - at)).toBeLessThan(0.01);
    expect(Math.abs(after(bank({ restart: 'free' }, 2), 0.1) - at)).toBeGreaterThan(0.01);
  });

  it('rounds its corners by what it is told, and stands at 0 when it is off', () => {
    const gate = [
      { x: 0, y: 1, bend: 0 },
      { x: 0.5, y: 1, bend: 0 },
      { x: 0.5, y: 0, bend: 0 },
      { x: 1, y: 0, bend: 0 },
    ];
    const sharp = bank({ nodes: gate });
    const round = bank({ nodes: gate, smoothMs: 50 });
    for (const movers of [sharp, round]) {
      movers.noteOn(false);
      after(movers, 0.26);
    }
    expect(sharp.value[0]).toBe(0);
    expect(round.value[0]).toBeGreaterThan(0.3);
    expect(after(bank({ on: false }), 0.1)).toBe(0);
  });

  it('makes up for the time in which nobody listened', () => {
    const listened = bank({});
    const waited = bank({});
    for (const movers of [listened, waited]) movers.noteOn(false);
    after(listened, 0.2);
    for (let i = 0; i < 600; i++) waited.wait(16);
    listened.step(16);
    waited.step(16);
    expect(waited.value[0]).toBeCloseTo(listened.value[0], 6);
  });
});

describe('a parameter bank', () => {
  const rows = [parameter('layers.*.levelDb'), parameter('layers.*.filters.*.cutoffHz')];
  const envelope = { ...cleanMover('envelope'), attackMs: 0.5, decayMs: 1, sustainPct: 100 };
  const made = (reach: number) => {
    const movers = new MoverBank([envelope], 120, RATE, 1);
    const bank = new ParameterBank(rows, [-20, 200], reach === 0 ? [] : [{ slot: 1, mover: 0, reach }], RATE);
    return {
      bank,
      movers,
      run: (ms: number) => {
        for (let i = 0; i < (ms * RATE) / 16000; i++) bank.step(16, movers);
        return Array.from(bank.value);
      },
    };
  };

  it('brings a changed number 95 % of the way in 5 ms, without going past', () => {
    const { bank, run } = made(0);
    bank.setTargets([-10, 200]);
    const [level] = run(5);
    expect(level).toBeGreaterThan(-10.6);
    expect(level).toBeLessThanOrEqual(-10);
    expect(run(40)[0]).toBe(-10);
  });

  it('begins gently: the first step is the smallest of the way up', () => {
    const { bank, run } = made(0);
    bank.setTargets([0, 200]);
    const first = run(0.3)[0] + 20;
    const second = run(0.3)[0] + 20 - first;
    expect(first).toBeLessThan(second);
  });

  it("adds what a mover says on the scale of the row, and holds it to the row's ends", () => {
    const { movers, run } = made(0.5);
    movers.noteOn(false);
    // Half of three decades above 200 Hz.
    expect(run(10)[1]).toBeCloseTo(200 * 10 ** 1.5, -1);
    const over = made(1);
    over.movers.noteOn(false);
    expect(over.run(10)[1]).toBeCloseTo(20000, 3);
  });

  it('lets a number travel home when its link is taken away', () => {
    const { bank, movers, run } = made(0.5);
    movers.noteOn(false);
    run(10);
    bank.setLinks([]);
    expect(run(1)[1]).toBeGreaterThan(300);
    expect(run(40)[1]).toBeCloseTo(200, 6);
  });
});

describe('traces of movers', () => {
  it('show each over the loop, once it runs round', () => {
    const [cycle, snap] = moverTraces(
      sound((s) => {
        s.movers = [
          wobble({ nodes: fall, rateBeats: 1 }),
          { ...cleanMover('envelope'), attackMs: 1, decayMs: 50, sustainPct: 0, releaseMs: 10 },
        ];
        s.line.notes = [
          cleanNote({ tick: 0, ticks: 900, pitch: 29 }),
          cleanNote({ tick: 960, ticks: 900, pitch: 29 }),
        ];
      }),
    );
    expect(cycle.values.length).toBe(800);
    // A beat lasts 0.5 s: 200 values.
    expect(cycle.values[50]).toBeCloseTo(0.75, 1);
    expect(cycle.values[250]).toBeCloseTo(cycle.values[50], 2);
    expect(Math.max(...snap.values.slice(0, 5))).toBeGreaterThan(0.8);
    expect(snap.values[150]).toBe(0);
    expect(Math.max(...snap.values.slice(400, 406))).toBeGreaterThan(0.8);
  });

  it('of a sound without movers are none', () => {
    expect(
      moverTraces(
        sound((s) => {
          s.movers = [];
        }),
      ),
    ).toEqual([]);
  });
});
