import { cleanSystem } from '../document/index.js';
import { realSpectrum } from '../dsp/index.js';
import { depthSpectrum, kWeightingDb, measureLoudness } from '../measure/index.js';
import { ownSystem, responseDb, SYSTEMS, type PlaybackSystem } from '../translation/index.js';
import { RATE, saw, sine } from '../testing/signals.js';
import { matchedGainDb } from './matched-gain.js';
import { roomNoise } from './room-noise.js';
import { ThroughStage, type ThroughWays } from './through-stage.js';
import { THROUGH_BLOCK, throughSystem, type Through } from './through.js';

const QUIET: ThroughWays = { level: 'matched', noise: false };
const own = ownSystem(
  cleanSystem('own-1', {
    name: 'Hatch speaker',
    response: [20, 80, 160, 400, 1000, 3000, 9000, 20000].map((hz, i) => ({
      hz,
      levelDb: [-60, -30, -6, 3, 0, 5, -8, -30][i],
    })),
  }),
);
/** What a stage makes of two sides, block by block; `at` is asked before each block. */
function heard(
  stage: ThroughStage,
  left: Float32Array,
  right: Float32Array,
  at: (frame: number) => void = () => undefined,
) {
  const out = { left: new Float32Array(left.length), right: new Float32Array(left.length) };
  for (let from = 0; from + THROUGH_BLOCK <= left.length; from += THROUGH_BLOCK) {
    at(from);
    const l = left.slice(from, from + THROUGH_BLOCK);
    const r = right.slice(from, from + THROUGH_BLOCK);
    stage.process(l, r);
    out.left.set(l, from);
    out.right.set(r, from);
  }
  return out;
}
/** A stage that has heard through something for as long as the fade takes. */
function stageOf(through: Through, ways = QUIET, rate = RATE): ThroughStage {
  const stage = new ThroughStage(rate);
  stage.hear(through, ways);
  const silence = new Float32Array(8 * THROUGH_BLOCK);
  heard(stage, silence, silence);
  return stage;
}
const levelsOf = (response: Float32Array) => {
  const bins = realSpectrum(Float64Array.from(response));
  return (hz: number, rate: number) => {
    const k = Math.round((hz * response.length) / rate);
    return {
      hz: (k * rate) / response.length,
      db: 20 * Math.log10(Math.hypot(bins[2 * k], bins[2 * k + 1])),
    };
  };
};
const ALONG = Array.from({ length: 60 }, (_, i) => 30 * 400 ** (i / 59));

describe('hearing through a system', () => {
  it.each(
    [...SYSTEMS, own].flatMap((system) => [44100, 48000].map((rate) => [system.name, rate, system] as const)),
  )(
    '%s at %d Hz: what is heard is the response that is computed, within 0.5 dB from 30 Hz to 12 kHz',
    (_name, rate, system: PlaybackSystem) => {
      const impulse = new Float32Array(1 << 16);
      impulse[0] = 0.25;
      const { left } = heard(stageOf(throughSystem(system, rate, 0), QUIET, rate), impulse, impulse);
      const level = levelsOf(left.map((x) => 4 * x));
      for (const wanted of ALONG) {
        const { hz, db } = level(wanted, rate);
        expect(Math.abs(db - responseDb(system.response, hz))).toBeLessThan(0.5);
      }
    },
  );

  it('begins at once: the first sample of an edge comes through', () => {
    const step = new Float32Array(THROUGH_BLOCK * 4).fill(0.2);
    const { left } = heard(stageOf(throughSystem(SYSTEMS[0], RATE, 0)), step, step);
    expect(Math.abs(left[0])).toBeGreaterThan(0.1);
  });

  it.each([
    ['studio', 1, 1],
    ['phone', 0, 0],
    ['club', 0, 1],
  ])('%s: sides that are opposed are heard %d times at 60 Hz and %d times at 1 kHz', (id, low, high) => {
    const system = SYSTEMS.find((each) => each.id === id)!;
    const through = throughSystem(system, RATE, 0);
    const passes = (hz: number) => {
      const left = sine(hz, 1, { amplitude: 0.05 });
      const out = heard(
        stageOf(through),
        left,
        left.map((x) => -x),
      );
      const rms = (x: Float32Array) => Math.hypot(...x.subarray(RATE / 2)) / Math.sqrt(RATE / 2);
      return rms(out.left) / ((0.05 / Math.SQRT2) * 10 ** (responseDb(system.response, hz) / 20));
    };
    expect(passes(60)).toBeCloseTo(low, 1);
    expect(passes(1000)).toBeCloseTo(high, 1);
  });

  it('goes from one system to another within 10 ms, without a click and from the next block on', () => {
    const tone = sine(200, 1, { amplitude: 0.3 });
    const stage = stageOf(throughSystem(SYSTEMS[0], RATE, 0));
    const laptop = throughSystem(SYSTEMS[5], RATE, 0);
    const at = 200 * THROUGH_BLOCK;
    const { left } = heard(stage, tone, tone, (frame) => {
      if (frame === at) stage.hear(laptop, QUIET);
    });
    const unswitched = heard(stageOf(throughSystem(SYSTEMS[0], RATE, 0)), tone, tone).left;
    const after = heard(stageOf(laptop), tone, tone).left;
    expect(
      Math.max(...left.subarray(at, at + THROUGH_BLOCK).map((x, i) => Math.abs(x - unswitched[at + i]))),
    ).toBeGreaterThan(1e-3);
    for (let i = at + 480; i < at + 2000; i++) expect(Math.abs(left[i] - after[i])).toBeLessThan(1e-4);
    // The steepest step of a sine of 0.3 at 200 Hz is 0.0079; the fade adds a little.
    for (let i = at - 100; i < at + 1000; i++) expect(Math.abs(left[i] - left[i - 1])).toBeLessThan(0.0095);
  });

  it('leaves the sound alone where nothing is heard through, to the sample', () => {
    const tone = saw(55, 0.2);
    const stage = new ThroughStage(RATE);
    expect(heard(stage, tone, tone).left.subarray(0, 9472)).toEqual(tone.subarray(0, 9472));
  });

  it('holds the greatest level that a system gives', () => {
    // A small phone gives 82 dB SPL at the most, where a full sine of 1 kHz would stand at 84 and more.
    const phone = SYSTEMS[6];
    const through = throughSystem(phone, RATE, 0);
    const loud = sine(2500, 2, { amplitude: 1 });
    const { left } = heard(stageOf(through), loud, loud);
    const square = left.subarray(RATE).reduce((sum, x) => sum + x * x, 0) / (left.length - RATE);
    expect(Math.abs(10 * Math.log10(square / through.mostSquare))).toBeLessThan(0.1);
    const soft = sine(2500, 2, { amplitude: 0.1 });
    const { left: free } = heard(stageOf(through), soft, soft);
    const rms = Math.sqrt(free.subarray(RATE).reduce((sum, x) => sum + x * x, 0) / (free.length - RATE));
    expect(20 * Math.log10(rms / (0.1 / Math.SQRT2))).toBeCloseTo(responseDb(phone.response, 2500), 1);
  });

  it('is as loud as the sound by itself where it is matched, and never over full scale', () => {
    const bass = saw(55, 4).map((x) => 0.15 * x);
    const levels = depthSpectrum(bass, RATE, true);
    const loudness = (signal: Float32Array) =>
      measureLoudness({ channels: [signal, signal], sampleRateHz: RATE }).integrated.value!;
    for (const system of SYSTEMS) {
      const db = matchedGainDb(levels, system);
      const through = { ...throughSystem(system, RATE, db), mostSquare: Infinity };
      const { left } = heard(stageOf(through), bass, bass);
      expect(Math.abs(loudness(left) - loudness(bass))).toBeLessThan(0.6);
    }
    const raised = { ...throughSystem(SYSTEMS[6], RATE, 24), mostSquare: Infinity };
    const loud = bass.map((x) => 5 * x);
    const { left } = heard(stageOf(raised), loud, loud);
    expect(left.reduce((most, x) => Math.max(most, Math.abs(x)), 0)).toBeLessThanOrEqual(0.981);
  });

  it('at true level systems stand to each other as they play', () => {
    const levels = ['club', 'studio', 'phone'].map((id) => {
      const system = SYSTEMS.find((each) => each.id === id)!;
      return throughSystem(system, RATE, 3).trueDb;
    });
    expect(levels).toEqual([0, -18, -32]);
  });
});

describe('room noise', () => {
  it('has the level of each octave, dB SPL, against a full sine', () => {
    const { noiseDb } = SYSTEMS[2];
    const { left, right } = roomNoise(noiseDb, 98, RATE);
    const power = new Float64Array(left.length / 2);
    const bins = realSpectrum(Float64Array.from(left));
    for (let k = 1; k < power.length; k++)
      power[k] = (2 * (bins[2 * k] ** 2 + bins[2 * k + 1] ** 2)) / left.length ** 2;
    const octave = (hz: number) => {
      let sum = 0;
      for (let k = 1; k < power.length; k++) {
        const at = (k * RATE) / left.length;
        if (at >= hz * Math.SQRT1_2 && at < hz * Math.SQRT2) sum += power[k];
      }
      return 10 * Math.log10(2 * sum) + 98;
    };
    // Between the centres the density runs straight over the logarithm of frequency: an octave holds a little more or less.
    [63, 125, 250, 500, 1000, 2000, 4000, 8000].forEach((hz, i) => {
      expect(Math.abs(octave(hz) - noiseDb[i + 1])).toBeLessThan(1);
    });
    const product = (a: Float32Array, b: Float32Array) => a.reduce((sum, x, i) => sum + x * b[i], 0);
    expect(
      Math.abs(product(left, right)) / Math.sqrt(product(left, left) * product(right, right)),
    ).toBeLessThan(0.1);
  });

  it('is added where it is asked for, as loud as the system is heard', () => {
    const through = throughSystem(SYSTEMS[6], RATE, 0);
    const silence = new Float32Array(RATE);
    const { left } = heard(stageOf(through, { level: 'matched', noise: true }), silence, silence);
    const rms = (x: Float32Array) => Math.sqrt(x.reduce((sum, y) => sum + y * y, 0) / x.length);
    expect(rms(left.subarray(0, 47000))).toBeGreaterThan(0.5 * rms(through.noise.left));
    expect(rms(heard(stageOf(through), silence, silence).left)).toBe(0);
  });
});

it('K-weighting at single frequencies is as the design has it', () => {
  // 40 to 100 Hz: from BS.1770's coefficients at 48 kHz.
  [40, 50, 60, 80, 100].forEach((hz, i) => {
    expect(kWeightingDb(hz)).toBeCloseTo([-5.57, -3.93, -2.9, -1.73, -1.13][i], 1);
  });
});
