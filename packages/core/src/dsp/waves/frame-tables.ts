import type { CycleSpectrum } from './cycle-spectrum.js';
import { Random } from './random.js';
import { nextPowerOfTwo, realSpectrum } from '../transforms/transform.js';
import { SERIES, seriesOf, type Harmonic } from './wave-series.js';

/** Frames of a table that ships with the program, harmonics of a frame. */
export const BUILT_IN_FRAMES = 32;
export const FRAME_HARMONICS = 256;
export const MOST_FRAMES = 128;
/** RMS of every frame of the built-in tables. */
const RMS = 0.4;

const bump = (n: number, centre: number, octaves: number) =>
  Math.exp(-((Math.log2(n / centre) / octaves) ** 2));
const sine = (amplitude: number): Harmonic => ({ sine: amplitude, cosine: 0 });
const mix = (a: number, b: number, p: number) => a + (b - a) * p;

/** Harmonics of a wave that is given in time, x in [0, 1): by transform of 2048 values. */
function sampled(wave: (x: number) => number): (n: number) => Harmonic {
  const size = 2048;
  const bins = realSpectrum(Float64Array.from({ length: size }, (_, i) => wave(i / size)));
  return (n) => ({ sine: (-2 * bins[2 * n + 1]) / size, cosine: (2 * bins[2 * n]) / size });
}

/** Random phases of "tide noise": five anchors between which the table passes. */
const TIDE = Array.from({ length: 5 }, (_, anchor) => {
  const random = new Random(77, anchor);
  return Array.from({ length: FRAME_HARMONICS }, () => 2 * Math.PI * random.next());
});

/**
 * The built-in tables, each a formula of our own for harmonic n at place p (0 to 1) of the table:
 * - saw to square: (1 − p)·saw + p·square
 * - sine to saw: 1/n · 0.02^((1 − p)(n − 1)/4)
 * - narrowing pulse: a pulse of width ½·(1 − p) + 0.04·p
 * - odd stair: odd n up to 1 + 62·p², at 1/√n
 * - octave stack: n = 2^k, weighed by a bump that climbs from the first to the sixth octave
 * - comb drift: 1/n · |cos(π·n·(0.02 + 0.33·p))|
 * - formant climb: 1/n², and a bump half an octave wide that climbs from n = 2 to 24
 * - folded sine: sin((1 + 11·p)·sin 2πx)
 * - phase bow: a cosine whose phase hurries through its first half, in 1/2 − 0.46·p of the cycle
 * - hollow bell: n = 1, 3, 4, 7, 9, 14, 17, 23, 31, weighed by a bump that climbs over them
 * - growl mouth: 1/√n under two bumps, from n = 3 to 9 and from n = 14 to 6
 * - power chord: multiples of 2 and of 3 at 1/√n, from the first to the second
 * - tide noise: 1/√n with seeded phases, through five sets of them
 * - sync rise: sin(2πrx) cut off at the end of the cycle, r from 1 to 8 (its Fourier integrals in closed
 *   form)
 */
export const FRAME_SERIES = {
  'saw to square': (p) => (n) => sine(mix(SERIES.saw(n), SERIES.square(n), p)),
  'sine to saw': (p) => (n) => sine((1 / n) * 0.02 ** (((1 - p) * (n - 1)) / 4)),
  'narrowing pulse': (p) => seriesOf('pulse', mix(0.5, 0.04, p)),
  'odd stair': (p) => (n) => sine(n % 2 === 1 && n <= 1 + 62 * p * p ? 1 / Math.sqrt(n) : 0),
  'octave stack': (p) => (n) => sine(Number.isInteger(Math.log2(n)) ? bump(n, 2 ** (6 * p), 1.6) : 0),
  'comb drift': (p) => (n) => sine((1 / n) * Math.abs(Math.cos(Math.PI * n * (0.02 + 0.33 * p)))),
  'formant climb': (p) => (n) => sine(1 / (n * n) + 0.7 * bump(n, 2 * 12 ** p, 0.5)),
  'folded sine': (p) => sampled((x) => Math.sin((1 + 11 * p) * Math.sin(2 * Math.PI * x))),
  'phase bow': (p) =>
    sampled((x) => {
      const knee = 0.5 - 0.46 * p;
      return -Math.cos(2 * Math.PI * (x < knee ? (0.5 * x) / knee : 0.5 + (0.5 * (x - knee)) / (1 - knee)));
    }),
  'hollow bell': (p) => (n) => {
    const place = [1, 3, 4, 7, 9, 14, 17, 23, 31].indexOf(n);
    return sine(place < 0 ? 0 : (place === 0 ? 0.6 : 0) + Math.exp(-(((place - 8 * p) / 2) ** 2)));
  },
  'growl mouth': (p) => (n) =>
    sine((1 / Math.sqrt(n)) * (0.15 + bump(n, mix(3, 9, p), 0.4) + 0.8 * bump(n, mix(14, 6, p), 0.3))),
  'power chord': (p) => (n) =>
    sine(((n % 2 === 0 ? 1 - p : 0) + (n % 3 === 0 ? 0.2 + 0.8 * p : 0)) / Math.sqrt(n)),
  'tide noise': (p) => (n) => {
    const at = Math.min(3, Math.floor(4 * p));
    const part = 4 * p - at;
    const a = TIDE[at][n - 1];
    const b = TIDE[at + 1][n - 1];
    return {
      sine: mix(Math.cos(a), Math.cos(b), part) / Math.sqrt(n),
      cosine: mix(Math.sin(a), Math.sin(b), part) / Math.sqrt(n),
    };
  },
  'sync rise': (p) => {
    const r = 8 ** p;
    const over = (k: number, value: number) => (Math.abs(k) < 1e-9 ? 0 : value / (2 * Math.PI * k));
    const through = (k: number) => (Math.abs(k) < 1e-9 ? 1 : Math.sin(2 * Math.PI * k) / (2 * Math.PI * k));
    return (n) => ({
      sine: through(r - n) - through(r + n),
      cosine:
        over(r + n, 1 - Math.cos(2 * Math.PI * (r + n))) + over(r - n, 1 - Math.cos(2 * Math.PI * (r - n))),
    });
  },
} as const satisfies Record<string, (p: number) => (n: number) => Harmonic>;

export type FrameTableName = keyof typeof FRAME_SERIES;

/** The frames of a built-in table, of equal RMS. */
export function builtInFrames(name: FrameTableName): CycleSpectrum[] {
  return Array.from({ length: BUILT_IN_FRAMES }, (_, frame) => {
    const harmonic = FRAME_SERIES[name](frame / (BUILT_IN_FRAMES - 1));
    const spectrum = { sine: new Float64Array(FRAME_HARMONICS), cosine: new Float64Array(FRAME_HARMONICS) };
    let energy = 0;
    for (let n = 1; n <= FRAME_HARMONICS; n++) {
      const { sine: s, cosine: c } = harmonic(n);
      spectrum.sine[n - 1] = s;
      spectrum.cosine[n - 1] = c;
      energy += (s * s + c * c) / 2;
    }
    const gain = RMS / Math.sqrt(energy);
    for (let i = 0; i < FRAME_HARMONICS; i++) {
      spectrum.sine[i] *= gain;
      spectrum.cosine[i] *= gain;
    }
    return spectrum;
  });
}

/**
 * Cuts audio into single cycles of `cycleFrames` (a whole number) and finds the harmonics of each; what is
 * left over at the end is dropped, DC
 * too. At most 128 cycles. Cycles whose length is a power of two are transformed as they are, others by the
 * Fourier sum itself.
 */
export function framesFromAudio(audio: ArrayLike<number>, cycleFrames: number): CycleSpectrum[] {
  const count = Math.min(MOST_FRAMES, Math.floor(audio.length / cycleFrames));
  const harmonics = Math.min(FRAME_HARMONICS, Math.floor((cycleFrames - 1) / 2));
  const quick = nextPowerOfTwo(cycleFrames) === cycleFrames;
  const turns = Float64Array.from({ length: cycleFrames }, (_, i) =>
    Math.sin((2 * Math.PI * i) / cycleFrames),
  );
  const quarter = cycleFrames / 4;
  return Array.from({ length: count }, (_, frame) => {
    const cycle = Float64Array.from({ length: cycleFrames }, (_unused, i) => audio[frame * cycleFrames + i]);
    const spectrum = { sine: new Float64Array(FRAME_HARMONICS), cosine: new Float64Array(FRAME_HARMONICS) };
    const bins = quick ? realSpectrum(cycle) : null;
    for (let n = 1; n <= harmonics; n++) {
      let s = 0;
      let c = 0;
      if (bins) {
        s = -bins[2 * n + 1];
        c = bins[2 * n];
      } else {
        for (let i = 0; i < cycleFrames; i++) {
          const turn = (n * i) % cycleFrames;
          s += cycle[i] * turns[turn];
          c +=
            cycle[i] *
            (Number.isInteger(quarter)
              ? turns[(turn + quarter) % cycleFrames]
              : Math.cos((2 * Math.PI * turn) / cycleFrames));
        }
      }
      spectrum.sine[n - 1] = (2 * s) / cycleFrames;
      spectrum.cosine[n - 1] = (2 * c) / cycleFrames;
    }
    return spectrum;
  });
}

/** One cycle of a spectrum as `size` values. */
export function cycleOf({ sine: s, cosine: c }: CycleSpectrum, size: number): Float32Array {
  const out = new Float32Array(size);
  const most = Math.min(s.length, size / 2 - 1);
  for (let i = 0; i < size; i++) {
    let sum = 0;
    // By the recurrence of cosines: two products a harmonic.
    const angle = (2 * Math.PI * i) / size;
    const k = 2 * Math.cos(angle);
    let c0 = 1;
    let c1 = Math.cos(angle);
    let s0 = 0;
    let s1 = Math.sin(angle);
    for (let n = 0; n < most; n++) {
      sum += s[n] * s1 + c[n] * c1;
      const c2 = k * c1 - c0;
      const s2 = k * s1 - s0;
      c0 = c1;
      c1 = c2;
      s0 = s1;
      s1 = s2;
    }
    out[i] = sum;
  }
  return out;
}
