import { withoutUnits } from '../testing/grit.js';
import {
  cleanFilter,
  cleanLayer,
  cleanNote,
  cleanSound,
  cleanSource,
  cleanTone,
  type SoundDocument,
} from '../document/index.js';
import { lowBand } from '../lock/index.js';
import { sine } from '../testing/signals.js';
import { soundingOf } from './sounding.js';
import { lowSumGainDb, type Told } from './told.js';

const RATE = 24000;
const sineTone = (more = {}) =>
  cleanTone({ on: true, source: cleanSource('shape', { shape: 'sine' }), ...more });

/** A bare sound of one held note. */
function bare(change: (sound: SoundDocument) => void): SoundDocument {
  const sound = { ...cleanSound(), links: [], layers: [cleanLayer('sub')] };
  sound.ground = { ...sound.ground, bars: 1 };
  sound.kick = { ...sound.kick, on: false };
  withoutUnits(sound);
  sound.grit.cleanPath.on = false;
  sound.line = { notes: [cleanNote({ tick: 0, ticks: 1800, pitch: 33 })] };
  change(sound);
  return sound;
}
const sounding = (change: (sound: SoundDocument) => void) => soundingOf(bare(change), { sampleRateHz: RATE });

describe('lows that cancel', () => {
  // The closed form for two equal tones at an angle: 10·log10(1 + cos φ).
  it.each([
    [0, 3.01],
    [60, 1.76],
    [90, 0],
    [120, -3.01],
  ])('two equal sines at %d° have a sum gain of %f dB', (phaseDeg, wanted) => {
    const low = (deg: number) => lowBand(sine(50, 1, { phaseDeg: deg, rate: RATE }), RATE, 120, true);
    expect(lowSumGainDb(low(0), low(phaseDeg))!).toBeCloseTo(wanted, 1);
  });

  /** A tone that begins away from zero may click as well, which is told apart. */
  const lows = (told: readonly Told[]) => told.filter(({ place }) => !place.startsWith('click'));

  it('are told of two layers, and of two tones of one', () => {
    const layers = sounding((sound) => {
      sound.layers = [
        cleanLayer('sub'),
        {
          ...cleanLayer('body'),
          tones: [sineTone({ startPhaseDeg: 170 }), cleanTone(), cleanTone()],
          filters: [cleanFilter(), cleanFilter()],
          levelDb: -6,
        },
      ];
    });
    expect(lows(layers.told).map(({ text }) => text)).toEqual([
      expect.stringMatching(/^Sub and Body cancel each other’s lows: −\d+\.\d dB together below 120 Hz/),
    ]);
    const tones = sounding((sound) => {
      sound.layers[0].tones = [sineTone(), sineTone({ startPhaseDeg: 150 }), cleanTone()];
    });
    expect(lows(tones.told).map(({ place }) => place)).toEqual(['sub 0 1']);
    expect(
      lows(
        sounding((sound) => {
          sound.layers[0].tones = [sineTone(), sineTone({ startPhaseDeg: 60 }), cleanTone()];
        }).told,
      ),
    ).toEqual([]);
    // One that has no lows has none to cancel.
    expect(
      lows(
        sounding((sound) => {
          sound.layers[0].tones = [sineTone(), sineTone({ octave: 4, startPhaseDeg: 180 }), cleanTone()];
        }).told,
      ),
    ).toEqual([]);
  });

  it('are told of a Sub whose own filter takes them away', () => {
    const of = (cutoffHz: number, followPct = 0) =>
      sounding((sound) => {
        sound.layers[0].filters[0] = cleanFilter({
          on: true,
          mode: 'high',
          slope: '24',
          cutoffHz,
          followPct,
        });
      }).told.map(({ text }) => text);
    expect(of(120)).toEqual([expect.stringMatching(/^Sub’s filter takes its lows away: −\d+\.\d dB/)]);
    expect(of(25)).toEqual([]);
  });
});

describe('the found pitch of a note', () => {
  it('is that of the note where nothing pulls it, and told where it is pulled', () => {
    const plain = sounding(() => undefined);
    expect(Math.abs(plain.pass.notes[0].offPitchCents.value!)).toBeLessThan(1);
    const pulled = sounding((sound) => {
      sound.layers[0].tones = [
        sineTone({ levelDb: -50 }),
        sineTone({ pitchIn: 'hertz', fixedHz: 55 * 2 ** (60 / 1200) }),
        cleanTone(),
      ];
    });
    expect(pulled.pass.notes[0].offPitchCents.value!).toBeCloseTo(60, 0);
    expect(pulled.told.map(({ text }) => text)).toEqual([
      expect.stringMatching(/^A1 sounds \+60 ct off its pitch\. It may be a tone with a fixed pitch\.$/),
    ]);
    const short = sounding((sound) => {
      sound.line.notes[0] = { ...sound.line.notes[0], ticks: 60 };
    });
    expect(short.pass.notes[0].offPitchCents).toEqual({ value: null, reason: 'too short to find its pitch' });
  });
});

describe('what a note is asked for', () => {
  const strays = (change: (sound: SoundDocument) => void) =>
    sounding(change)
      .told.filter(({ place }) => place === 'pitch')
      .map(({ text }) => text);

  it.each([
    ['a square an octave down', { octave: -1, source: cleanSource('shape', { shape: 'square' }) }],
    ['a tone a fifth up', { semitones: 7 }],
    ['a tone that is tuned by 40 cents', { cents: 40 }],
    ['a saw two octaves up', { octave: 2, source: cleanSource('shape', { shape: 'saw' }) }],
  ])('is where it is: %s is no stray pitch', (_name, tone) => {
    expect(
      strays((sound) => {
        sound.layers = [
          cleanLayer('sub'),
          {
            ...cleanLayer('body'),
            tones: [cleanTone({ on: true, ...tone }), cleanTone(), cleanTone()],
            filters: [cleanFilter(), cleanFilter()],
          },
        ];
      }),
    ).toEqual([]);
    expect(
      strays((sound) => {
        sound.layers[0].tones = [cleanTone({ on: true, ...tone }), cleanTone(), cleanTone()];
      }),
    ).toEqual([]);
  });

  it('moves with a glide and a drop, and is measured once they are over', () => {
    for (const glideMs of [80, 400, 900])
      for (const glideIn of ['time', 'octave'] as const) {
        expect(
          strays((sound) => {
            sound.layers[0].voice = { ...sound.layers[0].voice, glideMs, glideIn };
            sound.line.notes = [
              cleanNote({ tick: 0, ticks: 900, pitch: 26 }),
              cleanNote({ tick: 900, ticks: 960, pitch: 38, tie: true }),
            ];
          }),
        ).toEqual([]);
      }
    expect(
      strays((sound) => {
        sound.layers[0].drop = { semitones: 24, timeMs: 500, bend: 0 };
      }),
    ).toEqual([]);
  });
});

describe('a note that starts or ends with a click', () => {
  const clicks = (change: (sound: SoundDocument) => void) =>
    sounding((sound) => {
      sound.line.notes = [cleanNote({ tick: 240, ticks: 960, pitch: 33 })];
      change(sound);
    })
      .told.filter(({ place }) => place.startsWith('click'))
      .map(({ text }) => text);

  it('is told, with what takes it away', () => {
    expect(
      clicks((sound) => {
        sound.layers[0].loudness.attackMs = 0;
        sound.layers[0].tones[0].startPhaseDeg = 90;
      }),
    ).toEqual([expect.stringMatching(/^A1 at 1\.1 starts with a click\. A longer attack/)]);
    expect(
      clicks((sound) => {
        sound.layers[0].loudness.attackMs = 10;
        sound.layers[0].voice.end = 'at once';
        sound.layers[0].loudness.releaseMs = 1;
        sound.layers[0].levelDb = 0;
      }).every((text) => /ends with a click/.test(text)),
    ).toBe(true);
  });

  it('is not told of one that swells and dies away, nor where a Knock is there to click', () => {
    expect(
      clicks((sound) => {
        sound.layers[0].loudness.attackMs = 10;
        sound.layers[0].loudness.releaseMs = 40;
      }),
    ).toEqual([]);
    expect(
      clicks((sound) => {
        sound.layers[0].loudness.attackMs = 0;
        sound.layers[0].tones[0].startPhaseDeg = 90;
        sound.layers.push({ ...cleanLayer('knock'), levelDb: -60 });
      }),
    ).toEqual([]);
  });
});

describe('a fundamental under the clean path', () => {
  const cut = (change: (sound: SoundDocument) => void) =>
    sounding((sound) => {
      Object.assign(sound.grit.cleanPath, { on: true, frequencyHz: 90 });
      sound.layers = [{ ...cleanLayer('body'), tones: [cleanTone({ on: true }), cleanTone(), cleanTone()] }];
      change(sound);
    })
      .told.filter(({ place }) => place.endsWith('clean'))
      .map(({ text, verdict }) => `${verdict}: ${text}`);

  it('is told with its note and frequency, and who carries it', () => {
    expect(cut(() => undefined)).toEqual([
      'watch: Body’s fundamental on A1, 55.0 Hz, is below the clean path at 90 Hz, so it is cut. No Sub plays it instead: add one, lower the clean path, or switch it off.',
    ]);
    expect(
      cut((sound) => {
        sound.layers.push(cleanLayer('sub'));
      })[0],
    ).toMatch(/^holds: .*Sub plays it instead\.$/);
  });

  it('is not told of noise, which has none', () => {
    expect(
      cut((sound) => {
        sound.layers[0].tones[0].source = cleanSource('noise');
      }),
    ).toEqual([]);
  });

  it('is not told where it lies above, or nothing is cut', () => {
    expect(
      cut((sound) => {
        sound.layers[0].tones[0].octave = 1;
      }),
    ).toEqual([]);
    expect(
      cut((sound) => {
        sound.grit.cleanPath.frequencyHz = 50;
      }),
    ).toEqual([]);
    expect(
      cut((sound) => {
        sound.grit.cleanPath.on = false;
      }),
    ).toEqual([]);
  });
});

describe('spread', () => {
  it('never reaches below the clean path: the lows of a spread Sub are whole in mono', () => {
    const low = (on: boolean) =>
      sounding((sound) => {
        Object.assign(sound.grit.cleanPath, { on, frequencyHz: 120 });
        sound.layers[0].tones[0] = cleanTone({
          on: true,
          copies: 7,
          detuneCents: 20,
          spreadPct: 100,
          source: cleanSource('shape', { shape: 'saw' }),
        });
      }).figures.find(({ id }) => id === 'lowMono')!.figure.value!;
    expect(low(true)).toBeGreaterThan(-0.3);
    expect(low(true)).toBeGreaterThan(low(false));
  });
});

describe('a kick that is not heard', () => {
  const texts = (change: (sound: SoundDocument) => void) =>
    sounding((sound) => {
      sound.kick = { ...sound.kick, on: true, shared: true, made: { ...sound.kick.made, click: 'none' } };
      sound.layers = [{ ...cleanLayer('body'), tones: [sineTone({ octave: 1 }), cleanTone(), cleanTone()] }];
      change(sound);
    })
      .told.map(({ text }) => text)
      .filter((text) => text.startsWith('The kick'));

  it('is told with a way out where there is neither a Sub to carry it nor a click', () => {
    expect(texts(() => undefined)).toEqual([
      expect.stringMatching(
        /^The kick is silent: .*Add a Sub at Layers, or give the kick its own oscillator at Ground\.$/,
      ),
    ]);
    expect(
      texts((sound) => {
        sound.kick.made.click = 'noise';
      }),
    ).toEqual([]);
    expect(
      texts((sound) => {
        sound.kick.shared = false;
      }),
    ).toEqual([]);
    expect(
      texts((sound) => {
        sound.layers.push(cleanLayer('sub'));
      }),
    ).toEqual([]);
    expect(
      texts((sound) => {
        sound.kick.on = false;
      }),
    ).toEqual([]);
  });
});
