import { cleanFilter, cleanSource, type SourceOf } from '../../document/index.js';
import { FORMANTS } from '../../dsp/index.js';
import { bareLayer, playNote } from '../../testing/play-note.js';
import { python } from '../../testing/tools.js';
import { db } from '../../testing/signals.js';
import { aliasingDb, amplitudes, bessel, lockedNote } from '../../testing/spectra.js';

const RATE = 48000;
const SIZE = 65536;

function steady(source: SourceOf<'fm'> | SourceOf<'vowel'>, cycles: number, more = {}) {
  const { left } = playNote(bareLayer([{ source, ...more }]), {
    pitch: lockedNote(cycles, SIZE, RATE),
    seconds: SIZE / RATE + 0.3,
  });
  const from = Math.round(0.2 * RATE);
  return left.subarray(from, from + SIZE);
}

/** Four oscillators of which the second steers the first. */
function pair(index: number, ratio = 1, more: Partial<SourceOf<'fm'>> = {}): SourceOf<'fm'> {
  const fm = cleanSource('fm');
  const matrix = fm.matrix.map(() => 0);
  matrix[4] = index;
  return {
    ...fm,
    matrix,
    oscillators: fm.oscillators.map((oscillator, i) => ({ ...oscillator, ratio: i === 1 ? ratio : 1 })),
    ...more,
  };
}

describe('FM', () => {
  it.each([1, 2, 5])('has the sidebands of Chowning (1973) at index %d', (index) => {
    // The second oscillator stands ten times as high, so that no two sidebands meet: J_n(I) at f + 10·n·f
    // and, below, at |f − 10·n·f|.
    const cycles = 256;
    const bins = amplitudes(steady(pair(index, 10), cycles));
    for (let n = 0; n <= 5; n++) {
      const wanted = Math.abs(bessel(n, index));
      for (const side of n === 0 ? [1] : [1 + 10 * n, 10 * n - 1]) {
        if (wanted > 1e-3) expect(Math.abs(db(bins[side * cycles] / wanted))).toBeLessThan(0.5);
      }
    }
  });

  // Abramowitz and Stegun, table 9.1 (the values of measures.md): the test's own function against the table.
  it('is checked by the tabled Bessel values', () => {
    [0.7652, 0.4401, 0.1149, 0.0196, 0.0025, 0.0002].forEach((j, n) => {
      expect(bessel(n, 1)).toBeCloseTo(j, 4);
    });
    [-0.1776, -0.3276, 0.0466, 0.3648, 0.3912, 0.2611].forEach((j, n) => {
      expect(bessel(n, 5)).toBeCloseTo(j, 4);
    });
  });

  it('takes ratios from 1/8 to 16, fine, and scales them together', () => {
    const cycles = 256;
    const alone = (ratio: number, more = {}) => {
      const fm = pair(0);
      return { ...fm, oscillators: fm.oscillators.map((o) => ({ ...o, ratio })), ...more };
    };
    for (const ratio of [0.125, 0.5, 3, 16])
      expect(amplitudes(steady(alone(ratio), cycles))[ratio * cycles]).toBeCloseTo(1, 2);
    expect(amplitudes(steady(alone(2, { scale: 2 }), cycles))[4 * cycles]).toBeCloseTo(1, 2);
  });

  it('gives the same whether the steering runs down the order or against it', () => {
    const down = pair(2, 2);
    const up = {
      ...down,
      matrix: down.matrix.map((_, i) => (i === 1 ? 2 : 0)),
      oscillators: [
        down.oscillators[1],
        { ...down.oscillators[0], levelPct: 100 },
        ...down.oscillators.slice(2),
      ].map((o, i) => ({ ...o, levelPct: i === 1 ? 100 : 0 })),
    };
    const [a, b] = [down, up].map((source) => amplitudes(steady(source, 128)));
    for (let n = 1; n < 12; n++) expect(Math.abs(a[n * 128] - b[n * 128])).toBeLessThan(0.02);
  });

  it('stays bounded and centred with every amount at its greatest', () => {
    const fm = cleanSource('fm');
    const x = steady(
      {
        ...fm,
        matrix: fm.matrix.map(() => 12),
        oscillators: fm.oscillators.map((o) => ({ ...o, levelPct: 25 })),
      },
      128,
    );
    expect(Math.max(...x.map(Math.abs))).toBeLessThan(1.3);
    expect(Math.abs(x.reduce((sum, v) => sum + v, 0) / x.length)).toBeLessThan(0.02);
  });

  it.each([
    [29, 2],
    [41, 4],
    [53, 2],
    [65, 1],
    [72, 1],
  ])(
    'keeps its aliases under −70 dB at note %d and index %d, the steering at twice the note',
    (note, index) => {
      const cycles = 2 * Math.round((440 * 2 ** ((note - 69) / 12) * SIZE) / RATE / 2) + 1;
      expect(aliasingDb(steady(pair(index, 2), cycles), cycles, RATE)).toBeLessThan(-70);
    },
  );

  it('has an envelope for each oscillator, which takes its steering along', () => {
    const fm = pair(3, 2);
    const falling = {
      ...fm,
      oscillators: fm.oscillators.map((o, i) =>
        i === 1
          ? { ...o, envelope: { ...o.envelope, attackMs: 1, decayMs: 200, sustainPct: 0, decayBend: 0 } }
          : o,
      ),
    };
    const { left } = playNote(bareLayer([{ source: falling }]), {
      pitch: lockedNote(256, SIZE, RATE),
      seconds: 1,
    });
    const bright = (at: number) => amplitudes(left.subarray(at, at + 8192))[32 * 3];
    expect(bright(1024)).toBeGreaterThan(0.1);
    expect(bright(24000)).toBeLessThan(1e-3);
  });
});

describe('vowels', () => {
  // Peterson and Barney (1952), table II, from memory: see formants.ts. Found as peaks of the response to
  // noise-like breath.
  it.each([
    ['men', 'i'],
    ['men', 'ɑ'],
    ['women', 'u'],
    ['women', 'æ'],
    ['children', 'ɛ'],
    ['children', 'ɔ'],
    ['men', 'ɝ'],
  ] as const)('of %s, %s, stand at their first three formants', (speaker, vowel) => {
    const source = cleanSource('vowel', { speaker, way: [vowel, vowel], breathPct: 100, tiltDb: 0 });
    const { left } = playNote(bareLayer([{ source, pitchIn: 'hertz', fixedHz: 20 }]), { seconds: 12 });
    const { hz, power } = python<{ hz: number[]; power: number[] }>(
      "f, p = signal.welch(np.array(data), 48000, nperseg=4096)\nprint(json.dumps({'hz': list(f), 'power': list(p)}))",
      Array.from(left.subarray(4800)),
    );
    for (const formant of FORMANTS[speaker][vowel]) {
      const near = hz.map((f, i) => [f, power[i]] as const).filter(([f]) => Math.abs(f / formant - 1) < 0.12);
      const [at] = near.reduce((best, point) => (point[1] > best[1] ? point : best));
      expect(Math.abs(at / formant - 1)).toBeLessThan(0.07);
    }
  });

  it('glide between vowels and move with the size', () => {
    const first = (positionPct: number, sizeSt: number) => {
      const bins = amplitudes(
        steady(cleanSource('vowel', { way: ['u', 'ɑ'], positionPct, sizeSt, breathPct: 0, tiltDb: 0 }), 64),
      );
      // The loudest harmonic between 200 and 1600 Hz.
      let best = 4;
      for (let n = 4; n < 34; n++) if (bins[64 * n] > bins[64 * best]) best = n;
      return (best * 64 * RATE) / SIZE;
    };
    expect(Math.abs(first(0, 0) - 300)).toBeLessThan(50);
    expect(Math.abs(first(100, 0) - 730)).toBeLessThan(60);
    expect(first(50, 0)).toBeGreaterThan(380);
    expect(first(50, 0)).toBeLessThan(560);
    expect(Math.abs(first(0, 12) - 600)).toBeLessThan(60);
  });

  it('keep to the note', () => {
    expect(aliasingDb(steady(cleanSource('vowel', { breathPct: 0 }), 101), 101, RATE)).toBeLessThan(-70);
  });
});

describe('noise', () => {
  it.each([
    ['white', 0],
    ['pink', -3.01],
    ['brown', -6.02],
  ] as const)(
    'that is %s falls by %f dB an octave within 0.5 dB, by SciPy’s periodogram of 60 s',
    (colour, slope) => {
      const { left } = playNote(bareLayer([{ source: cleanSource('noise', { colour }) }]), { seconds: 60 });
      const levels = python<number[]>(
        `
f, p = signal.welch(np.array(data), 48000, nperseg=16384)
print(json.dumps([float(10*np.log10(np.mean(p[(f >= c / 2**.5) & (f < c * 2**.5)]))) for c in [62.5, 125, 250, 500, 1000, 2000, 4000, 8000]]))`,
        Array.from(left),
      );
      levels.slice(1).forEach((level, i) => {
        expect(Math.abs(level - levels[i] - slope)).toBeLessThan(0.5);
      });
    },
    60000,
  );

  it('is tilted by its colour, and as loud for every slope', () => {
    const rms = (colour: 'white' | 'pink' | 'brown', tiltDb: number) => {
      const { left } = playNote(bareLayer([{ source: cleanSource('noise', { colour, tiltDb }) }]), {
        seconds: 6,
      });
      return Math.sqrt(left.reduce((s, x) => s + x * x, 0) / left.length);
    };
    for (const [colour, tilt] of [
      ['white', 0],
      ['white', -3],
      ['white', 5],
      ['pink', 0],
      ['brown', 0],
    ] as const)
      expect(Math.abs(db(rms(colour, tilt) / 0.25))).toBeLessThan(2.5);
  });

  it('is the same with the same seed, and with each note where its start is locked', () => {
    const layer = bareLayer([{ source: cleanSource('noise') }]);
    const a = playNote(layer, { seconds: 0.1, seed: 5 }).left;
    expect(playNote(layer, { seconds: 0.1, seed: 5 }).left.every((x, i) => x === a[i])).toBe(true);
    expect(playNote(layer, { seconds: 0.1, seed: 6 }).left.every((x, i) => x === a[i])).toBe(false);
  });

  // By the impulse response of the filter, as measures.md has it: noise itself would need minutes.
  it.each(['E0', 'C1', 'F1', 'C2', 'A2', 'F3', 'C4'])(
    'through a resonant filter that follows the keys is in tune at %s',
    (name) => {
      const pitch = { E0: 16, C1: 24, F1: 29, C2: 36, A2: 45, F3: 53, C4: 60 }[name]!;
      const hz = 440 * 2 ** ((pitch - 69) / 12);
      const click = 'c'.repeat(64);
      const recording = new Float32Array(4000);
      recording[2000] = 1;
      for (const form of ['state', 'ladder'] as const) {
        const layer = bareLayer(
          [
            {
              source: cleanSource('sample', {
                zones: [
                  {
                    asset: click,
                    fileName: 'click.wav',
                    rootPitch: pitch,
                    lowPitch: 0,
                    highPitch: 127,
                    lowVelocity: 1,
                    highVelocity: 127,
                    loop: null,
                  },
                ],
              }),
            },
          ],
          {
            filters: [
              cleanFilter({
                on: true,
                mode: 'low',
                form,
                slope: '24',
                cutoffHz: 440 * 2 ** ((29 - 69) / 12),
                followPct: 100,
                resonancePct: form === 'ladder' ? 90 : 92,
              }),
              cleanFilter(),
            ],
          },
        );
        const { left } = playNote(layer, {
          pitch,
          seconds: 2.2,
          assets: new Map([[click, { channels: [recording], sampleRateHz: RATE }]]),
        });
        const ringing = left.subarray(6000);
        const loudest = python<number>(
          `
x = np.array(data['x'])
n = 2**21
p = np.abs(np.fft.rfft(x * np.exp(-np.arange(len(x)) / 1e9), n))
k = int(np.argmax(p[10:])) + 10
a, b, c = np.log(p[k-1:k+2])
print(json.dumps(float((k + 0.5 * (a - c) / (a - 2 * b + c)) * 48000 / n)))`,
          { x: Array.from(ringing) },
        );
        expect(Math.abs(1200 * Math.log2(loudest / hz))).toBeLessThan(10);
      }
    },
  );
});

describe('samples', () => {
  const asset = (letter: string) => letter.repeat(64);
  const zone = (letter: string, more = {}) => ({
    asset: asset(letter),
    fileName: `${letter}.wav`,
    rootPitch: 60,
    lowPitch: 0,
    highPitch: 127,
    lowVelocity: 1,
    highVelocity: 127,
    loop: null,
    ...more,
  });
  const tone = (hz: number, frames = 48000) => ({
    channels: [
      Float32Array.from({ length: frames }, (_, i) => 0.5 * Math.sin((2 * Math.PI * hz * i) / RATE)),
    ],
    sampleRateHz: RATE,
  });
  const assets = new Map([
    [asset('1'), tone(1000)],
    [asset('2'), tone(2000)],
    [asset('3'), tone(3000)],
  ]);
  const play = (source: SourceOf<'sample'>, options: Parameters<typeof playNote>[1] = {}) =>
    playNote(bareLayer([{ source }]), { assets, pitch: 60, seconds: 0.5, ...options }).left;
  const found = (x: Float64Array, from = 2400) => {
    const bins = amplitudes(x.subarray(from, from + 8192));
    return (bins.indexOf(Math.max(...bins)) * RATE) / 8192;
  };

  it.each([
    [60, 1000],
    [72, 2000],
    [48, 500],
    [67, 1498.3],
  ])('play note %d at %f Hz', (pitch, hz) => {
    expect(Math.abs(found(play(cleanSource('sample', { zones: [zone('1')] }), { pitch })) - hz)).toBeLessThan(
      6,
    );
  });

  // A sine of 9 kHz an octave up lies at 18 kHz; its images and what folds are what the interpolation leaves.
  it('are transposed with what they bring beside the tone under −70 dB', () => {
    const high = new Map([[asset('1'), tone(2343.75, 96000)]]);
    for (const pitch of [53, 65, 72]) {
      const x = play(cleanSource('sample', { zones: [zone('1')] }), {
        pitch,
        assets: high,
        seconds: 0.6,
      }).subarray(4800, 4800 + 16384);
      const bins = amplitudes(
        x.map(
          (v, i) =>
            v *
            (0.35875 -
              0.48829 * Math.cos((2 * Math.PI * i) / 16384) +
              0.14128 * Math.cos((4 * Math.PI * i) / 16384) -
              0.01168 * Math.cos((6 * Math.PI * i) / 16384)),
        ),
      );
      const peak = bins.indexOf(Math.max(...bins));
      const beside = Math.max(...bins.filter((_, k) => Math.abs(k - peak) > 6));
      expect(db(beside / bins[peak])).toBeLessThan(-70);
    }
  });

  it('are chosen by key and velocity', () => {
    const source = cleanSource('sample', {
      zones: [
        zone('1', { highPitch: 50 }),
        zone('2', { lowPitch: 51, highVelocity: 80 }),
        zone('3', { lowPitch: 51, lowVelocity: 81 }),
      ],
    });
    expect(Math.round(found(play(source, { velocity: 60 })) / 100)).toBe(20);
    expect(Math.round(found(play(source, { velocity: 120 })) / 100)).toBe(30);
    expect(Math.round(found(play(source, { pitch: 48 })) / 100)).toBe(5);
    expect(Math.max(...play({ ...source, zones: source.zones.slice(0, 1) }).map(Math.abs))).toBe(0);
  });

  it('come in turn, or at random but never the same twice running', () => {
    const order = (how: 'in turn' | 'at random') => {
      const source = cleanSource('sample', { order: how, zones: [zone('1'), zone('2'), zone('3')] });
      const out: number[] = [];
      const x = playNote(bareLayer([{ source }]), {
        assets,
        pitch: 60,
        seconds: 4.1,
        between: (player, timeS) => {
          const at = Math.round((timeS * RATE) / 64);
          if (at % 150 === 149) player.noteOff(1);
          if (at % 150 === 0 && at > 0) player.noteOn(1, 60, 100, false);
        },
      }).left;
      for (let hit = 0; hit < 20; hit++)
        out.push(Math.round(found(x.subarray(hit * 9600 + 400, hit * 9600 + 400 + 4096 * 2), 0) / 1000));
      return out;
    };
    expect(order('in turn').slice(0, 6)).toEqual([1, 2, 3, 1, 2, 3]);
    const random = order('at random');
    expect(random.every((hit, i) => i === 0 || hit !== random[i - 1])).toBe(true);
    expect(new Set(random).size).toBe(3);
    expect(random.slice(0, 9)).not.toEqual([1, 2, 3, 1, 2, 3, 1, 2, 3]);
  });

  it('begin, end and fade where they are told, and loop', () => {
    const whole = play(
      cleanSource('sample', { zones: [zone('1')], startPct: 50, lengthPct: 40, fadeMs: 20 }),
      { seconds: 0.5 },
    );
    expect(Math.max(...whole.subarray(9600 + 100).map(Math.abs))).toBe(0);
    expect(Math.max(...whole.subarray(9600 - 240, 9600).map(Math.abs))).toBeLessThan(0.15);
    expect(Math.max(...whole.subarray(4800, 8000).map(Math.abs))).toBeGreaterThan(0.45);
    const looped = play(cleanSource('sample', { zones: [zone('1', { loop: { from: 4800, to: 9600 } })] }), {
      seconds: 3,
    });
    expect(Math.abs(found(looped, 2 * RATE) - 1000)).toBeLessThan(6);
    expect(Math.max(...looped.subarray(2 * RATE).map(Math.abs))).toBeCloseTo(0.5, 1);
  });
});
