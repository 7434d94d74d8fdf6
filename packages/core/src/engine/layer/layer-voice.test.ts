import { cleanFilter, cleanSource, type Layer } from '../../document/index.js';
import { findClicks } from '../../measure/index.js';
import { bareLayer, playNote } from '../../testing/play-note.js';
import { db } from '../../testing/signals.js';
import type { LayerPlayer } from './layer-player.js';

const RATE = 48000;
const SINE = { source: cleanSource('shape', { shape: 'sine' }) };
const layerOf = (patch: Partial<Layer>) => bareLayer([SINE], patch);
const voiceOf = (patch: Partial<Layer['voice']>, more: Partial<Layer> = {}) =>
  layerOf({ ...more, voice: { ...layerOf({}).voice, velocityPct: 0, ...patch } });

/** Calls each action once its time has come. */
function at(actions: readonly [number, (player: LayerPlayer) => void][]) {
  let next = 0;
  return (player: LayerPlayer, timeS: number) => {
    while (next < actions.length && timeS >= actions[next][0]) actions[next++][1](player);
  };
}
const hz = (note: number) => 440 * 2 ** ((note - 69) / 12);
/** Level of a note in a stretch of a signal, by correlation under a Hann window. */
function levelOf(x: Float64Array, note: number, fromS: number, frames = 9600): number {
  const from = Math.round(fromS * RATE);
  let re = 0,
    im = 0;
  for (let i = 0; i < frames; i++) {
    const w = 1 - Math.cos((2 * Math.PI * i) / frames);
    re += (w * x[from + i] * Math.cos((2 * Math.PI * hz(note) * i) / RATE) * 2) / frames;
    im += (w * x[from + i] * Math.sin((2 * Math.PI * hz(note) * i) / RATE) * 2) / frames;
  }
  return Math.hypot(re, im);
}

describe('the loudness of a note', () => {
  it('has delay, attack, hold, decay and sustain', () => {
    const { loudness } = bareLayer([SINE]);
    const { left } = playNote(
      layerOf({
        loudness: {
          ...loudness,
          delayMs: 200,
          attackMs: 50,
          holdMs: 200,
          decayMs: 100,
          decayBend: 0,
          sustainPct: 50,
        },
      }),
      { pitch: 69, seconds: 1 },
    );
    const peak = (fromS: number, toS: number) =>
      Math.max(...left.subarray(fromS * RATE, toS * RATE).map(Math.abs));
    expect(peak(0, 0.199)).toBe(0);
    expect(peak(0.26, 0.44)).toBeCloseTo(1, 2);
    expect(peak(0.26, 0.27)).toBeCloseTo(1, 2);
    expect(peak(0.6, 0.9)).toBeCloseTo(0.5, 2);
  });
});

describe('the voice of a layer', () => {
  const two = at;
  it('plays the last, the lowest or the highest of the held notes', () => {
    for (const [notes, wanted] of [
      ['last', 52],
      ['lowest', 45],
      ['highest', 57],
    ] as const) {
      const { left } = playNote(voiceOf({ notes, glideMs: 0 }), {
        pitch: 45,
        seconds: 1.2,
        between: two([
          [
            0.2,
            (p) => {
              p.noteOn(2, 57, 127, false);
            },
          ],
          [
            0.4,
            (p) => {
              p.noteOn(3, 52, 127, false);
            },
          ],
        ]),
      });
      for (const note of [45, 52, 57])
        expect(levelOf(left, note, 0.8)).toBeCloseTo(note === wanted ? 1 : 0, 1);
    }
  });

  it('goes back to a note that is still held', () => {
    const { left } = playNote(voiceOf({ glideMs: 0 }), {
      pitch: 45,
      seconds: 1.2,
      between: two([
        [
          0.2,
          (p) => {
            p.noteOn(2, 57, 127, false);
          },
        ],
        [
          0.5,
          (p) => {
            p.noteOff(2);
          },
        ],
      ]),
    });
    expect(levelOf(left, 45, 0.8)).toBeCloseTo(1, 1);
  });

  it('plays up to as many notes as it may, and takes the place of the softest for one more', () => {
    const { left } = playNote(voiceOf({ notes: 'several', voices: 3, glideMs: 0 }), {
      pitch: 45,
      seconds: 1.6,
      between: two([
        [
          0.1,
          (p) => {
            p.noteOn(2, 52, 127, false);
          },
        ],
        [
          0.2,
          (p) => {
            p.noteOn(3, 57, 127, false);
          },
        ],
        [
          0.8,
          (p) => {
            p.noteOn(4, 64, 127, false);
          },
        ],
      ]),
    });
    for (const note of [45, 52, 57]) expect(levelOf(left, note, 0.4)).toBeGreaterThan(0.9);
    expect([45, 52, 57, 64].filter((note) => levelOf(left, note, 1.1) > 0.5)).toHaveLength(3);
    expect(levelOf(left, 64, 1.1)).toBeGreaterThan(0.9);
    const ended = playNote(voiceOf({ notes: 'several', voices: 3 }), {
      pitch: 45,
      seconds: 1,
      offAt: 0.5,
      between: two([
        [
          0.1,
          (p) => {
            p.noteOn(2, 52, 127, false);
          },
        ],
      ]),
    }).left;
    expect(levelOf(ended, 45, 0.7)).toBeLessThan(0.01);
    expect(levelOf(ended, 52, 0.7)).toBeGreaterThan(0.9);
  });

  it('glides in a time, or in a time for each octave', () => {
    const pitchAt = (glideIn: 'time' | 'octave') => {
      const { left } = playNote(voiceOf({ glideMs: 200, glideIn, glide: 'always', trigger: 'legato' }), {
        pitch: 45,
        seconds: 1.4,
        between: two([
          [
            0.2,
            (p) => {
              p.noteOn(2, 69, 127, true);
            },
          ],
        ]),
      });
      return [0.42, 0.7].map((timeS) => levelOf(left, 69, timeS, 4800) > 0.9);
    };
    expect(pitchAt('time')).toEqual([true, true]);
    expect(pitchAt('octave')).toEqual([false, true]);
  });

  it.each(['release', 'at once', 'cycle'] as const)('ends a note %s without a click', (end) => {
    const { left } = playNote(voiceOf({ end }), { pitch: 33, seconds: 1, offAt: 0.503 });
    const silence = Math.round((end === 'release' ? 0.56 : end === 'at once' ? 0.51 : 0.53) * RATE);
    expect(Math.max(...left.subarray(silence).map(Math.abs))).toBe(0);
    // The finder's own rule: a release of 5 ms or more is no click; the shorter ends are the player's wish.
    if (end === 'release')
      expect(findClicks({ channels: [Float32Array.from(left)], sampleRateHz: RATE }, [0])).toEqual([]);
  });

  it('lists no click with the default settings, whatever the kind', () => {
    for (const kind of ['shape', 'harmonics', 'frames', 'fm', 'vowel'] as const) {
      const layer = {
        ...bareLayer([{ source: cleanSource(kind) }]),
        loudness: { ...bareLayer([SINE]).loudness, attackMs: 2 },
        filters: [cleanFilter({ on: true }), cleanFilter()],
      };
      const { left } = playNote(layer, { pitch: 33, seconds: 1, offAt: 0.5 });
      expect(findClicks({ channels: [Float32Array.from(left)], sampleRateHz: RATE }, [0])).toEqual([]);
    }
  });

  it('lets the velocity have its say in level, filter and envelopes', () => {
    const level = (patch: Partial<Layer['voice']>, velocity: number) =>
      levelOf(playNote(voiceOf(patch), { pitch: 45, velocity, seconds: 0.5 }).left, 45, 0.2);
    expect(db(level({ velocityPct: 100 }, 64) / level({ velocityPct: 100 }, 127))).toBeCloseTo(
      db(64 / 127),
      1,
    );
    expect(level({ velocityPct: 100, velocityBend: 0.5 }, 64)).toBeLessThan(level({ velocityPct: 100 }, 64));
    const saw = (velocity: number) => {
      const layer = bareLayer([{}], {
        filters: [cleanFilter({ on: true, cutoffHz: 200 }), cleanFilter()],
        voice: { ...voiceOf({}).voice, velocityFilterOct: 3 },
      });
      // The sixteenth harmonic, four octaves up.
      return levelOf(playNote(layer, { pitch: 45, velocity, seconds: 0.6 }).left, 93, 0.2);
    };
    expect(saw(127)).toBeGreaterThan(4 * saw(10));
  });

  it('plays the lowest note alone where it is told to', () => {
    const { left } = playNote(
      layerOf({ plays: { ...layerOf({}).plays, as: 'lowest' }, voice: { ...voiceOf({}).voice, glideMs: 0 } }),
      {
        pitch: 45,
        seconds: 1,
        between: two([
          [
            0.2,
            (p) => {
              p.noteOn(2, 57, 127, false);
            },
          ],
        ]),
      },
    );
    expect(levelOf(left, 45, 0.5)).toBeCloseTo(1, 1);
    expect(levelOf(left, 57, 0.5)).toBeLessThan(0.01);
  });

  it.each([
    ['up', [45, 52, 57, 69]],
    ['down', [69, 57, 52, 45]],
    ['played', [45, 57, 52, 57]],
    ['both', [45, 52, 57, 64]],
  ] as const)('runs an arpeggio %s', (order, wanted) => {
    // Held: 45, then 57 and 52 at once; a step is a sixteenth at 120 bpm, 125 ms, the first three notes
    // within the first octave.
    const octaves = order === 'up' || order === 'down' || order === 'both' ? 2 : 1;
    const layer = layerOf({
      plays: { as: 'arpeggio', order, rateBeats: 0.25, octaves, gatePct: 80 },
      voice: { ...voiceOf({}).voice, glideMs: 0 },
    });
    const player = {
      pitch: 45,
      seconds: 1.2,
      between: two([
        [
          0,
          (p) => {
            p.noteOn(2, 57, 127, false);
            p.noteOn(3, 52, 127, false);
          },
        ],
      ]),
    };
    const { left } = playNote(layer, {
      ...player,
      document: { ground: { tempoBpm: 120, key: 'A', scale: 'minor', bars: 1, a4Hz: 440 } },
    });
    const heard = [0, 1, 2, 3].map((step) =>
      [45, 52, 57, 64, 69].reduce((best, note) =>
        levelOf(left, note, step * 0.125 + 0.01, 4096) > levelOf(left, best, step * 0.125 + 0.01, 4096)
          ? note
          : best,
      ),
    );
    if (order === 'both') expect(heard.slice(0, 3)).toEqual(wanted.slice(0, 3));
    else if (order === 'up') expect(heard.slice(0, 3)).toEqual(wanted.slice(0, 3));
    else if (order === 'down') expect(heard[0]).toBe(69);
    else expect(heard).toEqual([45, 57, 52, 45]);
  });

  it.each(['last', 'several'] as const)(
    'lets no note of an arpeggio hang on, nor one that waits for the end of a cycle that is not there (%s)',
    (notes) => {
      const layer = voiceOf(
        { notes, voices: 4, end: 'cycle' },
        { plays: { as: 'arpeggio', order: 'up', rateBeats: 1 / 24, octaves: 4, gatePct: 100 } },
      );
      const slow = {
        ...layer,
        tones: [
          { ...layer.tones[0], on: false },
          { ...layer.tones[0], pitchIn: 'hertz' as const, fixedHz: 1 },
          layer.tones[2],
        ],
      };
      for (const each of [layer, slow]) {
        const { left } = playNote(each, { pitch: 45, seconds: 1.5, offAt: 0.6 });
        expect(Math.max(...left.subarray(1.2 * RATE).map(Math.abs))).toBe(0);
      }
    },
  );

  it('sends tones to a filter each, to both, or past them', () => {
    const filters = [
      cleanFilter({ on: true, cutoffHz: 100, slope: '24' }),
      cleanFilter({ on: true, mode: 'high', cutoffHz: 2000, slope: '24' }),
    ];
    const level = (to: '1' | '2' | 'both' | 'past') =>
      levelOf(
        playNote(bareLayer([{ ...SINE, to }], { filters, route: 'by tone' }), { pitch: 69, seconds: 0.6 })
          .left,
        69,
        0.3,
      );
    expect(level('past')).toBeCloseTo(1, 2);
    expect(level('1')).toBeLessThan(0.01);
    expect(level('2')).toBeLessThan(0.01);
    const through = (route: 'series' | 'parallel') =>
      levelOf(
        playNote(
          bareLayer([SINE], {
            filters: [cleanFilter({ on: true, cutoffHz: 8000 }), cleanFilter({ on: true, cutoffHz: 100 })],
            route,
          }),
          { pitch: 69, seconds: 0.6 },
        ).left,
        69,
        0.3,
      );
    expect(through('series')).toBeLessThan(0.01);
    expect(through('parallel')).toBeGreaterThan(0.9);
  });
});
