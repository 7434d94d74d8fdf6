import { db, noise, RATE, sine } from '../../../testing/signals.js';
import { run, scratch } from '../../../testing/tools.js';
import { aloneWith, numbersFor, rmsOf, through, unitOf } from '../../../testing/chain.js';
import { NoteMarks } from '../../../engine/units/note-marks.js';
import { writeWav } from '../../../formats/wav.js';
import { unitKindOf } from '../index.js';
import { loweredDb } from './compressor.js';

const { write } = scratch();
const level = (signal: ArrayLike<number>) => db(rmsOf(signal) * Math.SQRT2);
const end = (signal: Float32Array) => signal.subarray(signal.length - RATE / 4);

describe('compressor', () => {
  // Giannoulis, Massberg and Reiss (2012), equation 4, worked by hand: threshold −20, ratio 4, knee 10.
  it.each([
    [-30, -30],
    [-25, -25],
    [-20, -20.9375],
    [-15, -18.75],
    [-8, -17],
    [0, -15],
  ])('static curve: %d dB in are %d dB out', (inDb, outDb) => {
    expect(inDb - loweredDb(inDb, -20, 4, 10)).toBeCloseTo(outDb, 6);
    // A square's level is its peak: the detector stands still on it.
    const x = Float32Array.from({ length: RATE }, (_, i) => 10 ** (inDb / 20) * (i % 100 < 50 ? 1 : -1));
    const unit = { kind: 'compressor', thresholdDb: -20, ratio: 4, kneeDb: 10, attackMs: 5, releaseMs: 50 };
    expect(db(rmsOf(end(through(x, [unit])[0])))).toBeCloseTo(outDb, 2);
  });

  // The same paper: the smoothed detector comes 1 − 1/e of its way in its time constant, in dB.
  it.each([
    ['attack', 10],
    ['attack', 40],
    ['release', 100],
  ] as const)('%s of %d ms: 63 %% of the way in that time', (which, ms) => {
    const jump = RATE / 2;
    const [low, high] = [10 ** (-40 / 20), 1];
    const x = Float32Array.from({ length: RATE }, (_, i) =>
      which === 'attack' ? (i < jump ? low : high) : i < jump ? high : low,
    );
    const unit = { kind: 'compressor', thresholdDb: -20, ratio: 4, kneeDb: 0, attackMs: 10, releaseMs: 100 };
    const [y] = through(x, [{ ...unit, [`${which}Ms`]: ms }]);
    const at = jump + Math.round((ms / 1000) * RATE);
    const gain = db(y[at] / x[at]);
    // 15 dB are lowered above the threshold.
    expect(gain).toBeCloseTo(which === 'attack' ? -15 * (1 - 1 / Math.E) : -15 / Math.E, 1);
  });

  it('by RMS it lowers a sine by its mean, and keeps both sides together', () => {
    const x = sine(200, 1);
    const unit = { kind: 'compressor', thresholdDb: -20, ratio: 2, kneeDb: 0, attackMs: 50, releaseMs: 200 };
    const lowered = (way: string) => level(end(through(x, [{ ...unit, level: way }])[0]));
    expect(lowered('RMS')).toBeCloseTo(-8.5, 0);
    expect(lowered('peak')).toBeLessThan(lowered('RMS'));
    const [l, r] = through([x, sine(90, 1, { amplitude: 0.1 })], [unit]);
    expect(level(end(l)) - level(end(r))).toBeCloseTo(20, 1);
  });

  it('what lies below the high-pass of its side-chain does not make it work', () => {
    const unit = { kind: 'compressor', thresholdDb: -30, ratio: 10, sideHighHz: 300 };
    expect(level(end(through(sine(40, 1), [unit])[0]))).toBeCloseTo(0, 0);
    expect(level(end(through(sine(2000, 1), [unit])[0]))).toBeLessThan(-20);
  });

  it('listens to another signal where it is told to, in step with what it lowers', () => {
    const unit = unitOf('compressor', { listensTo: 'kick', thresholdDb: -40, ratio: 20, attackMs: 0.05 });
    const kick = new Float64Array(64);
    const runner = unitKindOf('compressor').run(
      unit,
      aloneWith({ side: (name) => (name === 'kick' ? kick : null) }),
    );
    const block = new Float64Array(64).fill(0.5);
    runner.process(block, block, 0, 64, numbersFor(unit), 0);
    expect(block[63]).toBe(0.5);
    kick.fill(1);
    runner.process(block, block, 0, 64, numbersFor(unit), 0);
    expect(block[63]).toBeLessThan(0.1);
  });
});

describe('limiter', () => {
  /** Signals that stand out between their samples, or all at once. */
  const HOSTILE: Record<string, () => Float32Array> = {
    'a quarter of the rate at 45°': () => sine(RATE / 4, 1, { phaseDeg: 45, amplitude: 1.2 }),
    'full noise': () => noise(RATE, 3).map((x) => 1.5 * x),
    'single impulses': () => Float32Array.from({ length: RATE }, (_, i) => (i % 977 === 0 ? 1.6 : 0)),
    'a sweep': () =>
      Float32Array.from(
        { length: RATE },
        (_, i) => 1.4 * Math.sin(2 * Math.PI * 40 * 400 ** (i / RATE) * (i / RATE)),
      ),
    'squares near half the rate': () =>
      Float32Array.from({ length: RATE }, (_, i) => (Math.floor(i / 2.37) % 2 === 0 ? 1.3 : -1.3)),
  };

  // Measured by ffmpeg's own true-peak meter (ebur128).
  it.each(Object.keys(HOSTILE))('no true peak of %s stands above its ceiling', (name) => {
    for (const [ceilingDb, lookAheadMs, releaseMs] of [
      [-1, 1, 60],
      [-6, 0.5, 5],
    ]) {
      const unit = { kind: 'limiter', driveDb: 12, ceilingDb, lookAheadMs, releaseMs };
      const x = HOSTILE[name]();
      // A file's own ends are cuts, which no limiter knows of: they are faded.
      for (let i = 0; i < 480; i++) {
        x[i] *= i / 480;
        x[x.length - 1 - i] *= i / 480;
      }
      const [y] = through(x, [unit]);
      const file = write('limited.wav', writeWav([y, y], RATE, '32f'));
      const said = run('ffmpeg', ['-nostats', '-i', file, '-af', 'ebur128=peak=true', '-f', 'null', '-']);
      const peak = Number(/True peak:\s+Peak:\s+(-?[\d.]+) dBFS/.exec(said)![1]);
      expect(peak).toBeLessThanOrEqual(ceilingDb + 0.05);
      expect(peak).toBeGreaterThan(ceilingDb - 1.5);
    }
  });
});

describe('transient', () => {
  const hits = Float32Array.from({ length: RATE }, (_, i) => {
    const t = (i % 12000) / RATE;
    return 0.3 * Math.exp(-t / 0.08) * Math.sin(2 * Math.PI * 200 * t);
  });
  const part = (signal: Float32Array, from: number, to: number) =>
    db(rmsOf(signal.subarray(24000 + from * 48, 24000 + to * 48)));

  it('raises or lowers the start of a hit, and what rings after it, each by itself', () => {
    const [up] = through(hits, [{ kind: 'transient', attackDb: 12, sustainDb: 0 }]);
    expect(part(up, 0, 8) - part(hits, 0, 8)).toBeGreaterThan(3);
    expect(Math.abs(part(up, 120, 200) - part(hits, 120, 200))).toBeLessThan(0.5);
    const [down] = through(hits, [{ kind: 'transient', attackDb: -12, sustainDb: 0 }]);
    expect(part(down, 0, 8) - part(hits, 0, 8)).toBeLessThan(-3);
    const [long] = through(hits, [{ kind: 'transient', attackDb: 0, sustainDb: 12 }]);
    expect(part(long, 120, 200) - part(hits, 120, 200)).toBeGreaterThan(6);
    expect(Math.abs(part(long, 0, 4) - part(hits, 0, 4))).toBeLessThan(2);
  });

  it('knows no threshold: a softer copy is treated alike', () => {
    const unit = { kind: 'transient', attackDb: 12, sustainDb: -6 };
    const [loud] = through(hits, [unit]);
    const [soft] = through(
      hits.map((x) => 0.1 * x),
      [unit],
    );
    expect(db(rmsOf(soft) / rmsOf(loud))).toBeCloseTo(-20, 1);
  });
});

describe('multiband compressor', () => {
  const flat = { aboveDb: 0, aboveRatio: 1, belowDb: -72, belowRatio: 1 };
  const unit = (each: object[], more: object = {}) => ({
    kind: 'multiband compressor',
    bands: '3',
    firstHz: 200,
    secondHz: 2000,
    each,
    ...more,
  });
  const heard = (hz: number, amplitude: number, each: object[], more?: object) =>
    level(end(through(sine(hz, 2, { amplitude }), [unit(each, more)])[0]));

  it('with nothing to do its bands sum flat', () => {
    for (const hz of [50, 200, 600, 2000, 9000])
      expect(heard(hz, 0.5, [flat, flat, flat])).toBeCloseTo(db(0.5), 1);
  });

  it('lowers what is loud by its ratio, and raises what is soft, in its own band alone', () => {
    const mid = { aboveDb: -20, aboveRatio: 4, belowDb: -72, belowRatio: 1 };
    // −6 dB stand 14 above the threshold, of which 14/4 are left.
    expect(heard(600, 0.5, [flat, mid, flat])).toBeCloseTo(-20 + 14 / 4, 0);
    expect(heard(50, 0.5, [flat, mid, flat])).toBeCloseTo(-6.02, 0);
    const raised = { aboveDb: 0, aboveRatio: 1, belowDb: -30, belowRatio: 2 };
    expect(heard(600, 0.01, [flat, raised, flat])).toBeCloseTo(-30 - 10 / 2, 0);
    expect(heard(600, 0.01, [flat, raised, flat], { amountPct: 50 })).toBeCloseTo(-37.5, 0);
    // Silence stays silent.
    expect(heard(600, 1e-5, [flat, raised, flat])).toBeCloseTo(-100, 0);
  });
});

describe('note gap', () => {
  it('is silent for its gap before a note, fades into it, and opens with the note', () => {
    const unit = unitOf('note gap', { gapMs: 10, fadeMs: 5 });
    const ahead = Float64Array.of(Infinity);
    const runner = unitKindOf('note gap').run(unit, aloneWith({ ahead }));
    const out: number[] = [];
    const note = 4000;
    for (let at = 0; at < 6000; at += 16) {
      ahead[0] = at <= note ? note - at : Infinity;
      const block = new Float64Array(16).fill(1);
      runner.process(block, block, 0, 16, numbersFor(unit), 0);
      out.push(...block);
    }
    const ms = RATE / 1000;
    expect(out[note - 16 * ms]).toBe(1);
    expect(out[Math.round(note - 12.5 * ms)]).toBeCloseTo(0.5, 1);
    for (let i = Math.ceil(note - 10 * ms); i < note; i++) expect(out[i]).toBeLessThan(1e-9);
    expect(out[note + Math.ceil(0.6 * ms)]).toBe(1);
  });

  it('is told when notes come, round the loop, of what comes late by itself', () => {
    const marks = new NoteMarks([100, 500, 900], 1000);
    const told = (place: number, late: number) => {
      const out = new Float64Array(1);
      marks.tell(place, late, out);
      return out[0];
    };
    expect([told(0, 0), told(100, 0), told(101, 0), told(950, 0)]).toEqual([100, 0, 399, 150]);
    expect([told(0, 50), told(120, 50), told(20, 150)]).toEqual([150, 30, 30]);
    expect(told(-1, 0)).toBe(Infinity);
  });

  it('leaves a file as it is, in which no note is known to come', () => {
    const x = sine(100, 0.2);
    expect(through(x, [{ kind: 'note gap' }])[0]).toEqual(x);
  });
});
