import {
  cleanBand,
  cleanUnit,
  type Grit,
  cleanLayer,
  cleanSound,
  cleanTone,
  type SoundDocument,
} from '../../document/index.js';
import { BLOCK, CrossoverSide, prewarp, STEEP_SECTIONS, SteepAllpass, SteepHigh } from '../../dsp/index.js';
import { noteToHz } from '../../music/index.js';
import { db } from '../../testing/signals.js';
import { python } from '../../testing/tools.js';
import { aloneWith } from '../../testing/chain.js';
import { clipWith } from '../../testing/grit.js';
import { GritLayout, gritValues } from './grit-layout.js';
import { GritStage } from './grit-stage.js';
import { renderLoop } from '../hosts/render-loop.js';

const RATE = 48000;
const HZ = [22, 35, 50, 63, 72, 80, 90, 100, 110, 140, 200, 400, 2000, 9000];

function responseAt(h: Float64Array, hz: number): { re: number; im: number } {
  let re = 0;
  let im = 0;
  for (let i = 0; i < h.length; i++) {
    re += h[i] * Math.cos((2 * Math.PI * hz * i) / RATE);
    im -= h[i] * Math.sin((2 * Math.PI * hz * i) / RATE);
  }
  return { re, im };
}
const magnitude = (h: Float64Array, hz: number) => {
  const { re, im } = responseAt(h, hz);
  return Math.hypot(re, im);
};

describe('the steep edge', () => {
  const g = Float64Array.of(prewarp(90, RATE), prewarp(90, RATE));
  const impulse = (process: (x: Float64Array) => void) => {
    const x = new Float64Array(32768);
    x[0] = 1;
    process(x);
    return x;
  };

  it('has the poles and zeros of SciPy’s elliptic high-pass, and its magnitude squared', () => {
    const found = python<{ poles: number[][]; zeros: number[]; h: number[] }>(
      `
z, p, k = signal.ellip(4, 0.1, 28, 1.2, 'high', analog=True, output='zpk')
w0 = 2 * 48000 * np.tan(np.pi * 90 / 48000)
zd, pd, kd = signal.bilinear_zpk(z * w0, p * w0, 1.0, 48000)
w, h = signal.freqz_zpk(zd, pd, kd, worN=np.array(data), fs=48000)
up = p[p.imag > 0]; up = up[np.argsort(-abs(up))]
print(json.dumps({'poles': [[float(abs(q)), float(-2 * q.real / abs(q))] for q in up], 'zeros': sorted(float(abs(q)) for q in z if q.imag > 0), 'h': [float(x) for x in abs(h) ** 2]}))`,
      HZ,
    );
    STEEP_SECTIONS.forEach(({ pole, zero, k }, s) => {
      expect(pole).toBeCloseTo(found.poles[s][0], 8);
      expect(k).toBeCloseTo(found.poles[s][1], 8);
      expect(zero).toBeCloseTo(found.zeros[s], 8);
    });
    const h = impulse((x) => {
      new SteepHigh().process(x, 0, x.length, g);
    });
    HZ.forEach((hz, i) => {
      expect(Math.abs(magnitude(h, hz) - found.h[i])).toBeLessThan(1e-4);
    });
    for (const hz of [20, 40, 60, 71]) expect(db(magnitude(h, hz))).toBeLessThan(-55);
  });

  it('is in step with its allpass, which changes no magnitude', () => {
    const past = impulse((x) => {
      new SteepAllpass().process(x, 0, x.length, g);
    });
    const high = impulse((x) => {
      new CrossoverSide('high').process(x, 0, x.length, g);
      new SteepHigh().process(x, 0, x.length, g);
    });
    for (const hz of HZ) {
      expect(db(magnitude(past, hz))).toBeCloseTo(0, 3);
      const a = responseAt(past, hz);
      const b = responseAt(high, hz);
      const size = Math.hypot(b.re, b.im);
      if (size > 1e-2) expect((a.re * b.re + a.im * b.im) / size).toBeCloseTo(1, 3);
    }
  });
});

describe('clean path and bands', () => {
  /** Grit with a clean path, and as many bands above it as begin at these frequencies and one more. */
  const gritOf = (
    on: boolean,
    frequencyHz: number,
    clips: boolean,
    fromsHz: readonly number[] = [],
  ): Grit => ({
    ...cleanSound().grit,
    cleanPath: { ...cleanSound().grit.cleanPath, on, frequencyHz },
    bands: [0, ...fromsHz].map((fromHz, b) =>
      cleanBand({
        id: `band-${b}`,
        fromHz: Math.max(40, fromHz),
        units: clips ? [cleanUnit('soft clip', { id: `clip-${b}`, driveDb: 0 })] : [],
      }),
    ),
  });
  const stageOf = (grit: Grit) => {
    const layout = new GritLayout(grit, 0);
    const stage = new GritStage(grit, aloneWith(), layout);
    return { stage, layout, numbers: Float64Array.from(gritValues(grit)) };
  };
  /** Sub alone through the stage, in mono. */
  const through = (grit: Grit) => {
    const { stage, numbers } = stageOf(grit);
    const out = new Float64Array(32768);
    for (let at = 0; at < out.length; at += BLOCK) {
      const left = new Float64Array(BLOCK);
      if (at === 0) left[0] = 1e-3;
      stage.process(left, left, left.slice(), true, 0, BLOCK, numbers);
      out.set(left, at);
    }
    return out.map((x) => 1e3 * x);
  };

  it.each([40, 90, 173, 250])('sum flat at a crossover of %f Hz where nothing is clipped', (hz) => {
    for (const [clips, fromsHz] of [
      [false, []],
      [true, []],
      [false, [400, 1600]],
    ] as const) {
      const h = through(gritOf(true, hz, clips, fromsHz));
      const plain = through(gritOf(false, hz, clips));
      for (const at of HZ) expect(Math.abs(db(magnitude(h, at) / magnitude(plain, at)))).toBeLessThan(0.01);
    }
  });

  it('is as flat while its crossover is moved, to within what the move itself makes', () => {
    const { stage, layout, numbers } = stageOf(gritOf(true, 90, false));
    let most = 0;
    for (let at = 0; at < 96000; at += BLOCK) {
      const left = Float64Array.from({ length: BLOCK }, (_, i) =>
        Math.sin((2 * Math.PI * 300 * (at + i)) / RATE),
      );
      numbers[layout.crossover] = 90 + 40 * Math.sin((2 * Math.PI * (at + BLOCK)) / RATE);
      stage.process(left, left, left.slice(), true, 0, BLOCK, numbers);
      if (at > 9600) for (const x of left) most = Math.max(most, Math.abs(x));
    }
    expect(most).toBeLessThan(1.05);
  });

  /** A wide body of seven copies, held on one note. */
  function wide(pitch: number, driveDb: number, cleanHz: number): SoundDocument {
    const sound = cleanSound();
    const body = cleanLayer('body');
    sound.layers = [
      {
        ...body,
        levelDb: 0,
        filters: body.filters.map((filter) => ({ ...filter, on: false })),
        tones: body.tones.map((_tone, t) =>
          t === 0 ? cleanTone({ on: true, copies: 7, detuneCents: 14, spreadPct: 100 }) : cleanTone(),
        ),
      },
    ];
    sound.kick.on = false;
    sound.duck.on = false;
    sound.ground = { ...sound.ground, tempoBpm: 60, bars: 1 };
    sound.line.notes = [{ ...sound.line.notes[0], tick: 0, ticks: 1920, pitch, tie: false }];
    sound.grit.cleanPath.frequencyHz = cleanHz;
    clipWith(sound, driveDb, 0);
    sound.output = { levelDb: -20, ceilingDb: 0 };
    return sound;
  }
  /**
   * Of a second and a third of a held note: RMS of the side from 20 Hz up to a frequency re the whole, and
   * the fundamental against the strongest line, in dB.
   */
  const measured = (sound: SoundDocument, below: number, hz: number) => {
    const { left, right } = renderLoop(sound, { sampleRateHz: RATE, stems: 'none' }).bass;
    return python<{ side: number; fundamental: number }>(
      `
l, r = np.array(data['l']), np.array(data['r'])
w = signal.get_window('blackmanharris', len(l))
f = np.fft.rfftfreq(len(l), 1 / 48000)
L, R = abs(np.fft.rfft(l * w)), abs(np.fft.rfft(r * w))
S = abs(np.fft.rfft((l - r) / 2 * w))
M = abs(np.fft.rfft((l + r) / 2 * w))
band = (f >= 20) & (f <= data['below'])
near = abs(f - data['hz']) < 4
print(json.dumps({'side': float(10 * np.log10((S[band] ** 2).sum() / ((L ** 2 + R ** 2).sum() / 2))), 'fundamental': float(20 * np.log10(M[near].max() / M.max()))}))`,
      {
        l: Array.from(left.subarray(9600, 9600 + 96000)),
        r: Array.from(right.subarray(9600, 9600 + 96000)),
        below,
        hz,
      },
    );
  };

  it.each([
    [0, 29, 90],
    [18, 29, 90],
    [36, 29, 90],
    [18, 26, 60],
    [24, 36, 120],
    [36, 31, 90],
    [12, 33, 110],
  ])(
    'with %i dB of drive let nothing but Sub sound below the clean path (note %i, %i Hz)',
    (driveDb, pitch, cleanHz) => {
      const { side, fundamental } = measured(
        wide(pitch, driveDb, cleanHz),
        Math.min(60, 0.8 * cleanHz),
        noteToHz(pitch),
      );
      expect(side).toBeLessThan(-50);
      expect(fundamental).toBeLessThan(-40);
    },
  );
});
