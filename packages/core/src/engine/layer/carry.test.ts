import { cleanBacking, cleanNote, type SoundDocument } from '../../document/index.js';
import { mudLine } from '../../demo/index.js';
import { noteToHz } from '../../music/index.js';
import { db, sine } from '../../testing/signals.js';
import { carriedDrop, carriedPitch, carriesKick } from './carry.js';
import { createEngine } from '../hosts/engine.js';
import {
  BACKING,
  CARRY,
  DUCK,
  eventList,
  FOR_CARRIERS,
  FOR_OTHERS,
  NOTE_OFF,
  NOTE_ON,
} from '../hosts/events.js';
import { dropHz } from '../kick/drop.js';
import type { Assets } from '../base/recording.js';
import { renderLoop } from '../hosts/render-loop.js';

const RATE = 48000;
const shared = (change: (sound: SoundDocument) => void = () => undefined) => {
  const sound = mudLine();
  sound.kick.shared = true;
  change(sound);
  return sound;
};

describe('one oscillator for both', () => {
  it('is Sub’s, or the deepest layer’s where there is no Sub', () => {
    const sound = shared();
    expect(sound.layers.map((layer) => carriesKick(sound, layer))).toEqual([true, false]);
    sound.layers[0].on = false;
    expect(sound.layers.map((layer) => carriesKick(sound, layer))).toEqual([true, false]);
    sound.kick.shared = false;
    expect(sound.layers.some((layer) => carriesKick(sound, layer))).toBe(false);
  });

  it('carries the drop in semitones above the tail, and is on it at the end', () => {
    const sound = shared();
    const curve = carriedDrop(sound);
    for (const ms of [0, 10, 26, 50])
      expect(curve[ms + 1]).toBeCloseTo(
        12 * Math.log2(dropHz(sound.kick.made, ms) / sound.kick.made.tailHz),
        6,
      );
    expect(curve[curve[0]]).toBeCloseTo(0, 6);
    // A wave that turns back has no pitch to carry there: the curve stays a number.
    const back = carriedDrop(
      shared(({ kick }) => {
        kick.made = { ...kick.made, dropBy: 'phase', dropCycles: -4, dropMs: 40 };
      }),
    );
    expect(back.every(Number.isFinite)).toBe(true);
  });

  it('plays the root nearest to the tail where no note of the line sounds', () => {
    expect(carriedPitch(shared(), 0, 0)).toBe(31);
    expect(carriedPitch(shared(), 1, 0)).toBe(19);
    expect(
      noteToHz(
        carriedPitch(
          shared(({ kick }) => {
            kick.made.tailHz = 95;
          }),
          0,
          0,
        ),
      ),
    ).toBeCloseTo(noteToHz(43), 6);
  });

  it('goes on in a note that begins within it, from where it then is', () => {
    // At 128 bpm a tick is 0.977 ms; the drop of this kick takes 66 ms.
    const rows = (change: (s: SoundDocument) => void) => {
      const events = eventList(
        shared((s) => {
          s.kick.hits = [{ tick: 480, velocity: 100 }];
          s.line.notes = [cleanNote({ tick: 520, ticks: 300, pitch: 31 })];
          change(s);
        }),
        RATE,
      );
      return Array.from(events.frame).flatMap((frame, i) =>
        events.type[i] === CARRY
          ? [[Math.round((frame / events.loopFrames) * 3840), Math.round(events.pitch[i] * 10) / 10]]
          : [],
      );
    };
    expect(rows(() => undefined)).toEqual([
      [480, 0],
      [520, 39.1],
    ]);
    // Not in one that comes after it, is tied, or is the bass alone; but round the loop's end.
    expect(
      rows((s) => {
        s.line.notes[0].tick = 560;
      }),
    ).toEqual([[480, 0]]);
    expect(
      rows((s) => {
        s.line.notes[0].tie = true;
      }),
    ).toEqual([[480, 0]]);
    expect(
      rows((s) => {
        s.line.notes[0].carries = 'bass';
      }),
    ).toEqual([[480, 0]]);
    expect(
      rows((s) => {
        s.kick.hits[0].tick = 3830;
        s.line.notes[0].tick = 30;
      }),
    ).toEqual([
      [30, 39.1],
      [3830, 0],
    ]);
  });

  it('has no nudge: the notes that carry the kick begin with it', () => {
    const places = (nudgeMs: number, own: boolean) => {
      const events = eventList(
        shared((s) => {
          s.kick.shared = own;
          s.lock.nudgeMs = nudgeMs;
          s.line.notes = [cleanNote({ tick: 480, ticks: 300, pitch: 31 })];
        }),
        RATE,
      );
      return Array.from(events.frame).filter(
        (_, i) => events.type[i] === NOTE_ON && events.to[i] !== FOR_CARRIERS,
      );
    };
    expect(places(5, true)).toEqual(places(0, true));
    expect(places(5, false)[0] - places(0, false)[0]).toBe(240);
  });

  it('has events of its own: carried over a note, a note of its own between them', () => {
    const sound = shared((s) => {
      s.line.notes = [
        cleanNote({ tick: 0, ticks: 300, pitch: 31 }),
        cleanNote({ tick: 960, ticks: 300, pitch: 31, carries: 'kick' }),
        cleanNote({ tick: 1440, ticks: 300, pitch: 31, carries: 'bass' }),
      ];
      s.kick.hits = [0, 480, 960, 1440].map((tick) => ({ tick, velocity: 100 }));
    });
    const events = eventList(sound, RATE);
    const at = (type: number, to?: number) =>
      Array.from(events.frame)
        .filter((_, i) => events.type[i] === type && (to === undefined || events.to[i] === to))
        .map((frame) => Math.round((frame / events.loopFrames) * 3840));
    expect(at(CARRY)).toEqual([0, 480, 960]);
    // Of its own where there is no note, and where the note is the kick alone; that note is for the others.
    expect(at(NOTE_ON, FOR_CARRIERS)).toEqual([480, 960]);
    expect(at(NOTE_ON, FOR_OTHERS)).toEqual([960]);
    expect(at(NOTE_OFF, FOR_CARRIERS)).toHaveLength(2);
  });
});

describe('events of the fit', () => {
  it('begin ducking ahead of its hit by the look-ahead, round the loop’s end', () => {
    const sound = mudLine();
    sound.duck = { ...sound.duck, on: true, lookAheadMs: 10 };
    sound.kick.hits = [{ tick: 0, velocity: 100 }];
    const events = eventList(sound, RATE);
    expect(Array.from(events.frame).filter((_, i) => events.type[i] === DUCK)).toEqual([
      events.loopFrames - 480,
    ]);
  });

  it('begin parts that sound, and leave the others out', () => {
    const sound = mudLine();
    sound.backing = [
      { ...cleanBacking('part-1', 'a'.repeat(64), 'a.wav'), startTick: 480 },
      { ...cleanBacking('part-2', 'b'.repeat(64), 'b.wav'), on: false },
    ];
    const events = eventList(sound, RATE);
    expect(Array.from(events.source).filter((_, i) => events.type[i] === BACKING)).toEqual([0]);
  });
});

describe('the engine and the loop', () => {
  const asset = 'f'.repeat(64);
  const assets: Assets = new Map([
    [asset, { sampleRateHz: RATE, channels: [sine(330, 0.9, { amplitude: 0.3, fadeS: 0.02 })] }],
  ]);
  const part = { ...cleanBacking('part-1', asset, 'p.wav'), startTick: 960 };
  const cases: [string, (sound: SoundDocument) => void][] = [
    [
      'one oscillator for both',
      (s) => {
        s.kick.shared = true;
      },
    ],
    [
      'hard ducking',
      (s) => {
        s.duck = { ...s.duck, on: true, hard: true };
      },
    ],
    [
      'ducking of the lows by the level of the kick',
      (s) => {
        s.duck = { ...s.duck, on: true, by: 'level', acts: 'low', lookAheadMs: 5 };
      },
    ],
    [
      'ducking by a filter, following a part',
      (s) => {
        s.backing = [part];
        s.duck = { ...s.duck, on: true, by: 'level', from: 'part-1', acts: 'filter' };
      },
    ],
    [
      'a drop by phase with a click on it, driven',
      (s) => {
        s.kick.made = { ...s.kick.made, dropBy: 'phase', click: 'phase', driveDb: 9, squarePct: 40 };
      },
    ],
    [
      'turns of single pitches, inverted',
      (s) => {
        s.lock = { ...s.lock, invert: true, turns: [{ pitch: 31, turnDeg: 90 }] };
      },
    ],
  ];
  it.each(cases)('give the same samples with %s', (_name, change) => {
    const sound = mudLine();
    change(sound);
    const { all, backing, frames } = renderLoop(sound, { sampleRateHz: RATE, assets });
    const engine = createEngine(sound, { sampleRateHz: RATE, assets });
    engine.play();
    const total = 2 * frames + engine.latencyFrames;
    const left = new Float32Array(Math.ceil(total / 128) * 128);
    const block = new Float32Array(128);
    for (let at = 0; at < left.length; at += 128) engine.render(left.subarray(at, at + 128), block, 128);
    let worst = 0;
    for (let i = 0; i < frames; i++)
      worst = Math.max(
        worst,
        Math.abs(left[frames + engine.latencyFrames + i] - all.left[i] - (backing ? backing.left[i] : 0)),
      );
    expect(db(worst)).toBeLessThan(-120);
  });

  it('joins a part on its way where the line is started in the middle of it', () => {
    const sound = mudLine();
    sound.backing = [part];
    sound.line.notes = [];
    sound.kick.on = false;
    const engine = createEngine(sound, { sampleRateHz: RATE, assets });
    engine.play(1200);
    const left = new Float32Array(4096);
    const right = new Float32Array(4096);
    engine.render(left, right, 4096);
    // Half a beat into the part: 240 ticks of 960 a second and a bit at 128 bpm.
    const into = Math.round((240 / 480) * (60 / 128) * RATE);
    const late = engine.latencyFrames;
    for (let i = 200; i < 3000; i += 171)
      expect(left[late + i]).toBeCloseTo(assets.get(asset)!.channels[0][into + i], 2);
    engine.stop();
    for (let i = 0; i < 8; i++) engine.render(left, right, 4096);
    expect(Math.max(...left.map(Math.abs))).toBe(0);
  });
});
