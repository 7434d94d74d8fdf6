import { cleanNote, cleanLink } from '../../document/index.js';
import { plainGrowl } from '../../testing/plain-growl.js';
import { bare, cents, loopOf, play, RATE, type Change } from '../../testing/bare.js';
import { findClicks, fundamental } from '../../measure/index.js';
import { noteToHz } from '../../music/index.js';
import { amplitudeAt, db } from '../../testing/signals.js';

describe('voice', () => {
  const two = (second: Partial<ReturnType<typeof cleanNote>>, change: Change = () => undefined) =>
    bare((s) => {
      s.line.notes = [
        cleanNote({ tick: 0, ticks: 960, pitch: 29 }),
        cleanNote({ tick: 960, ticks: 900, pitch: 41, ...second }),
      ];
      change(s);
    });

  it('glides on a tie, over the time that is set, and stays in phase', () => {
    const { bass } = loopOf(
      two({ tie: true }, (s) => {
        s.layers[0].voice.glideMs = 200;
      }),
    );
    // In the middle of the glide, by the semitone: 29 + 12·½.
    const around = bass.left.subarray(48000 + 4800 - 1500, 48000 + 4800 + 1500);
    let crossings = 0;
    for (let i = 1; i < around.length; i++) if (around[i - 1] <= 0 && around[i] > 0) crossings++;
    expect(crossings).toBeGreaterThan(2);
    expect(
      Math.abs(cents(fundamental(bass.left.subarray(60000, 85000), RATE).value!, noteToHz(41))),
    ).toBeLessThan(1);
    expect(findClicks({ channels: [bass.left], sampleRateHz: RATE, loop: true }, [0, 2])).toEqual([]);
  });

  it('goes back to the note still held when the last one ends', () => {
    const { left } = play(
      bare((s) => {
        s.line.notes = [];
        s.layers[0].voice.glideMs = 0;
      }),
      RATE,
      (engine, at) => {
        if (at === 0) engine.noteOn(29, 100);
        if (at === 128 * 94) engine.noteOn(41, 100);
        if (at === 128 * 188) engine.noteOff(41);
      },
    );
    const pitch = (from: number, to: number) => fundamental(left.subarray(from, to), RATE).value!;
    expect(Math.abs(cents(pitch(2000, 11000), noteToHz(29)))).toBeLessThan(2);
    expect(Math.abs(cents(pitch(13500, 23000), noteToHz(41)))).toBeLessThan(2);
    expect(Math.abs(cents(pitch(28000, 47000), noteToHz(29)))).toBeLessThan(2);
  });

  it('falls silent when every live note ends, and when it is stopped', () => {
    const after = play(
      bare((s) => {
        s.line.notes = [];
      }),
      RATE / 2 - 64,
      (engine, at) => {
        if (at === 0) engine.noteOn(29, 100);
        if (at === 128 * 40) engine.noteOff(29);
      },
    ).left;
    expect(Math.max(...after.subarray(128 * 80).map(Math.abs))).toBe(0);
    const stopped = play(plainGrowl(), 128 * 400, (engine, at) => {
      if (at === 128 * 60) engine.stop();
    }).left;
    expect(Math.max(...stopped.subarray(128 * 200).map(Math.abs))).toBeLessThan(1e-6);
  });

  it('drops in pitch from above the note', () => {
    const { bass } = loopOf(
      bare((s) => {
        s.layers[0].drop = { semitones: 24, timeMs: 125, bend: 0 };
      }),
    );
    let first = 0;
    for (let i = 1; i < 4000; i++) if (bass.left[i - 1] <= 0 && bass.left[i] > 0) first++;
    // Mean frequency over the first 83 ms of a straight fall of two octaves in semitones: well above twice
    // the note.
    expect(first / (4000 / RATE)).toBeGreaterThan(2 * noteToHz(29));
    expect(
      Math.abs(cents(fundamental(bass.left.subarray(20000, 60000), RATE).value!, noteToHz(29))),
    ).toBeLessThan(1);
  });

  it('lets velocity move the level as far as it is told', () => {
    const level = (pct: number) => {
      const x = loopOf(
        bare((s) => {
          s.layers[0].voice.velocityPct = pct;
          s.line.notes[0].velocity = 64;
        }),
      ).bass.left.subarray(20000, 20000 + Math.round((RATE / noteToHz(29)) * 20));
      return amplitudeAt(x, noteToHz(29));
    };
    expect(level(100) / level(0)).toBeCloseTo(64 / 127, 2);
    expect(level(50) / level(0)).toBeCloseTo(1 - 0.5 * (1 - 64 / 127), 2);
  });
});

describe('movers', () => {
  /** A level wobble on a held note, as it is heard: mean square of each 10 ms. */
  const wobbled = (change: (wobble: any) => void) => {
    const { bass } = loopOf(
      bare((s) => {
        change(s.movers[0]);
        s.layers[0].tones[0].octave = 2;
        s.layers[0].levelDb = -20;
        s.links = [
          cleanLink({ id: 'link-1', mover: 'wobble-1', target: 'layers.sub.levelDb', reachPct: 25 }),
        ];
      }),
    );
    return Float32Array.from({ length: 180 }, (_, k) =>
      bass.left.subarray(4800 + 480 * k, 4800 + 480 * (k + 1)).reduce((sum, x) => sum + x * x, 0),
    );
  };

  // 120 bpm: a beat lasts 0.5 s, an eighth triplet a third of that.
  it.each([
    ['1/4', { rateBeats: 1 }, 2],
    ['1/8T', { rateBeats: 1 / 3 }, 6],
    ['1/8.', { rateBeats: 0.75 }, 8 / 3],
    ['5 Hz', { rateIn: 'hertz', rateHz: 5 }, 5],
  ])('a wobble of %s comes %s times as often as asked', (_name, set, hz) => {
    const envelope = wobbled((wobble) => {
      Object.assign(wobble, set);
    });
    const mean = envelope.reduce((sum, x) => sum + x, 0) / envelope.length;
    const strength = (at: number) =>
      amplitudeAt(
        envelope.map((x) => x - mean),
        at,
        100,
      );
    for (const other of [hz * 0.5, hz * 1.35]) expect(strength(hz)).toBeGreaterThan(2 * strength(other));
  });

  it('an envelope moves a cutoff as far as its reach, on the scale of the row', () => {
    const sound = bare((s) => {
      Object.assign(s.movers[1], { attackMs: 1, decayMs: 10, sustainPct: 100 });
      s.links = [
        cleanLink({ id: 'link-1', mover: 'envelope-1', target: 'layers.sub.levelDb', reachPct: 10 }),
      ];
      s.layers[0].levelDb = -20;
    });
    const held = loopOf(sound).bass.left.subarray(20000, 20000 + Math.round((RATE / noteToHz(29)) * 20));
    // The level row spans 72 dB: 10 % of it is 7.2 dB.
    expect(db(amplitudeAt(held, noteToHz(29)))).toBeCloseTo(-20 + 7.2, 1);
  });

  it('a link that is off moves nothing', () => {
    const sound = bare((s) => {
      s.links = [
        cleanLink({
          id: 'link-1',
          mover: 'envelope-1',
          target: 'layers.sub.levelDb',
          reachPct: 50,
          on: false,
        }),
      ];
    });
    expect(loopOf(sound).bass.left).toEqual(loopOf(bare()).bass.left);
  });
});
