import { amplitudeAt, db, noise, RATE, saw, sine } from '../../../testing/signals.js';
import { amplitudes } from '../../../testing/spectra.js';
import { findClicks } from '../../../measure/index.js';
import { python } from '../../../testing/tools.js';
import { rmsOf, through, unitOf } from '../../../testing/chain.js';
import { unitKindOf } from '../index.js';

/** Gain in dB of units at frequencies, by an impulse. */
function gains(units: object[], hzs: readonly number[]): number[] {
  const n = 65536;
  const impulse = new Float32Array(n);
  impulse[0] = 1;
  const bins = amplitudes(through(impulse, units)[0]);
  return hzs.map((hz) => db((bins[Math.round((hz * n) / RATE)] * n) / 2));
}
const HZS = [40, 90, 200, 350, 500, 700, 1000, 1600, 3000, 6000, 12000].map(
  (hz) => (Math.round((hz * 65536) / RATE) * RATE) / 65536,
);
describe('equaliser', () => {
  // Bristow-Johnson's cookbook (W3C note on audio EQ), its coefficients stated here, answered by SciPy's freqz.
  it.each([
    ['bell', 700, 9, 2],
    ['bell', 3000, -12, 0.7],
    ['low shelf', 200, 6, 0.71],
    ['low shelf', 500, -9, 1],
    ['high shelf', 3000, 8, 0.71],
    ['high shelf', 1600, -6, 0.5],
  ])('a %s at %d Hz of %d dB, Q %d, is the cookbook’s', (form, hz, gainDb, q) => {
    const wanted = python<number[]>(
      `A = 10**(data['db']/40); w = 2*np.pi*data['hz']/48000; c = np.cos(w); al = np.sin(w)/(2*data['q']); r = 2*np.sqrt(A)*al
k = data['form']
if k == 'bell': b = [1+al*A, -2*c, 1-al*A]; a = [1+al/A, -2*c, 1-al/A]
elif k == 'low shelf':
  b = [A*((A+1)-(A-1)*c+r), 2*A*((A-1)-(A+1)*c), A*((A+1)-(A-1)*c-r)]; a = [(A+1)+(A-1)*c+r, -2*((A-1)+(A+1)*c), (A+1)+(A-1)*c-r]
else:
  b = [A*((A+1)+(A-1)*c+r), -2*A*((A-1)+(A+1)*c), A*((A+1)+(A-1)*c-r)]; a = [(A+1)-(A-1)*c+r, 2*((A-1)-(A+1)*c), (A+1)-(A-1)*c-r]
w, h = signal.freqz(b, a, worN=np.array(data['hzs']), fs=48000)
print(json.dumps(list(20*np.log10(np.abs(h)))))`,
      { form, hz, db: gainDb, q, hzs: HZS },
    );
    const unit = { kind: 'equaliser', sections: [{ form, hz, gainDb, q }] };
    gains([unit], HZS).forEach((found, i) => {
      expect(Math.abs(found - wanted[i])).toBeLessThan(0.01);
    });
    const drawn = unitKindOf('equaliser').response!(unitOf('equaliser', unit), 43.65);
    HZS.forEach((at, i) => {
      expect(Math.abs(drawn(at) - wanted[i])).toBeLessThan(0.01);
    });
  });

  // SciPy's own Butterworth of each order.
  it.each([6, 12, 18, 24, 30, 36, 42, 48])('cuts of %d dB an octave are Butterworth', (slope) => {
    for (const [form, type] of [
      ['low cut', 'high'],
      ['high cut', 'low'],
    ]) {
      const wanted = python<number[]>(
        `sos = signal.butter(data['n'], 700, data['type'], fs=48000, output='sos')
w, h = signal.sosfreqz(sos, worN=np.array(data['hzs']), fs=48000)
print(json.dumps(list(20*np.log10(np.maximum(np.abs(h), 1e-9)))))`,
        { n: slope / 6, type, hzs: HZS },
      );
      const unit = { kind: 'equaliser', sections: [{ form, hz: 700, slope: String(slope) }] };
      const found = gains([unit], HZS);
      const drawn = unitKindOf('equaliser').response!(unitOf('equaliser', unit), 43.65);
      HZS.forEach((hz, i) => {
        if (wanted[i] > -90) expect(Math.abs(found[i] - wanted[i])).toBeLessThan(0.02);
        if (wanted[i] > -90) expect(Math.abs(drawn(hz) - wanted[i])).toBeLessThan(0.02);
      });
    }
  });

  it('a section that wanders stays within its bounds, differently by seed and alike by the same', () => {
    const x = noise(4 * RATE, 5);
    const unit = (more: object) => ({
      kind: 'equaliser',
      wanderHz: 3,
      sections: [
        { form: 'bell', hz: 1000, gainDb: 12, q: 4, way: 'wandering', wanderOct: 1, wanderDb: 0, ...more },
      ],
    });
    const heard = (seed: number, more: object = {}) => through(x, [unit(more)], { seed })[0];
    const first = heard(1);
    expect(heard(1)).toEqual(first);
    const apart = heard(2).map((v, i) => v - first[i]);
    expect(rmsOf(apart)).toBeGreaterThan(0.02);
    // Where its peak stands over time: the loudest of narrow bands in each eighth of a second.
    const peaks = Array.from({ length: 28 }, (_, k) => {
      const bins = amplitudes(first.subarray(k * 6000, k * 6000 + 4096));
      const raw = amplitudes(x.subarray(k * 6000, k * 6000 + 4096));
      const ratio = (b: number) => {
        let [a, c] = [0, 0];
        for (let i = Math.floor(b / 1.05); i <= b * 1.05; i++) [a, c] = [a + bins[i] ** 2, c + raw[i] ** 2];
        return a / c;
      };
      const bands = Array.from({ length: 40 }, (_u, i) => 25 * 2 ** (i / 8)).filter((b) => b < 1500);
      return (bands.reduce((best, b) => (ratio(b) > ratio(best) ? b : best)) * RATE) / 4096;
    });
    for (const hz of peaks) {
      expect(hz).toBeGreaterThan(420);
      expect(hz).toBeLessThan(2400);
    }
    expect(Math.max(...peaks) / Math.min(...peaks)).toBeGreaterThan(1.4);
  });

  it('on the tail only, hits pass untouched and what rings after them is worked on', () => {
    const hits = Float32Array.from({ length: RATE }, (_, i) => {
      const t = (i % 24000) / RATE;
      return 0.4 * Math.exp(-t / 0.2) * Math.sin(2 * Math.PI * 1000 * t);
    });
    const unit = { kind: 'equaliser', tailMs: 60, sections: [{ hz: 1000, gainDb: -18, q: 1, way: 'tail' }] };
    const [y] = through(hits, [unit]);
    const lost = (fromMs: number, toMs: number) => {
      const piece = (s: Float32Array) => s.subarray(24000 + fromMs * 48, 24000 + toMs * 48);
      return db(rmsOf(piece(y)) / rmsOf(piece(hits)));
    };
    expect(lost(2, 40)).toBeGreaterThan(-0.5);
    expect(lost(250, 400)).toBeLessThan(-16);
  });
});

describe('tilt', () => {
  it('leans about its pivot, by half up and half down', () => {
    const unit = { kind: 'tilt', tiltDb: 12, pivotHz: 700 };
    // Its own transfer function, with t of half the tilt; far below the rate the bilinear axis bends nothing.
    const t = 10 ** (6 / 20);
    const wanted = (hz: number) => db(Math.hypot((t * hz) / 700, 1) / Math.hypot(hz / 700, t));
    const hzs = [40, 200, 700, 2000, 5000];
    gains([unit], hzs).forEach((found, i) => {
      expect(Math.abs(found - wanted(hzs[i]))).toBeLessThan(0.15);
    });
    expect(wanted(40)).toBeCloseTo(-6, 0);
  });
});

/** Saws of three seconds, each made once. */
const saws = new Map<number, Float32Array>();
const sawOf = (hz: number) => {
  let found = saws.get(hz);
  if (!found) saws.set(hz, (found = saw(hz, 3, { belowHz: 16000 }).map((x) => 0.5 * x)));
  return found;
};

describe('glare control', () => {
  /** A saw through a bell of 12 dB at 3 kHz (the equaliser’s own, which is checked above). */
  const peaked = (hz: number, at = 3000, q = 6) =>
    through(sawOf(hz), [{ kind: 'equaliser', sections: [{ form: 'bell', hz: at, gainDb: 12, q }] }])[0];
  const inBand = (signal: Float32Array, from: number, to: number) => {
    const n = 65536;
    // Windowed: what the lowest partials leak would cover the highest.
    const piece = signal.subarray(signal.length - n);
    const bins = amplitudes(piece.map((x, i) => x * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / n))));
    let sum = 0;
    for (let b = Math.round((from * n) / RATE); b < (to * n) / RATE; b++) sum += bins[b] ** 2;
    return 10 * Math.log10(sum);
  };
  /** How much is taken of a signal between two frequencies. */
  const taker = (x: Float32Array) => {
    const [y] = through(x, [{ kind: 'glare control', amountPct: 100 }]);
    return (from: number, to: number) => inBand(x, from, to) - inBand(y, from, to);
  };

  it.each([
    [43.65, 3000, 6],
    [55, 3000, 4],
    [98, 3000, 8],
    [61.7, 1700, 6],
    [49, 5200, 5],
  ])(
    'takes at least 6 dB of a peak of 12 dB from a saw of %d Hz at %d Hz, Q %d, and leaves the octaves beside it',
    (hz, at, q) => {
      const taken = taker(peaked(hz, at, q));
      expect(taken(at * 2 ** (-1 / 12), at * 2 ** (1 / 12))).toBeGreaterThan(6);
      expect(taken(at * 2 ** (-1 / 12), at * 2 ** (1 / 12))).toBeLessThan(13);
      expect(Math.abs(taken(at / 2.6, at / 2))).toBeLessThan(0.5);
      expect(Math.abs(taken(at * 2, at * 2.6))).toBeLessThan(0.5);
    },
  );

  it.each([32.7, 43.65, 55, 73.4, 98])('takes less than half a dB anywhere of a plain saw of %d Hz', (hz) => {
    const taken = taker(sawOf(hz));
    for (let at = 1000; at < 8000; at *= 2 ** (1 / 3))
      expect(Math.abs(taken(at, at * 2 ** (1 / 3)))).toBeLessThan(0.5);
  });

  it('takes nothing of a steep low-pass’s edge, and only while something sticks out', () => {
    const plain = sawOf(55);
    const edged = through(plain, [{ kind: 'equaliser', sections: [{ form: 'high cut', hz: 2500 }] }])[0];
    expect(taker(edged)(1000, 8000)).toBeLessThan(0.5);
    const x = peaked(55);
    const turns = Float32Array.from(x, (v, i) => (i < 1.5 * RATE ? v : plain[i]));
    const [y] = through(turns, [{ kind: 'glare control', amountPct: 100 }]);
    const off = Float32Array.from(y, (v, i) => v - turns[i]).subarray(2.7 * RATE);
    expect(db(rmsOf(off) / rmsOf(plain))).toBeLessThan(-40);
  });
});

describe('declick', () => {
  it('takes the click of a sine cut off at its crest, and leaves the note', () => {
    const x = sine(43.654, 1, { phaseDeg: 90, amplitude: 0.5 });
    const cut = Float32Array.from({ length: 2 * RATE }, (_, i) =>
      i < RATE ? Math.min(1, i / 960) * x[i] : 0,
    );
    const clicks = (s: Float32Array) => findClicks({ channels: [s], sampleRateHz: RATE });
    expect(clicks(cut)).toHaveLength(1);
    const [y] = through(cut, [{ kind: 'declick', cutoffHz: 110 }]);
    expect(clicks(y)).toHaveLength(0);
    expect(db(amplitudeAt(y.subarray(24000, 24000 + 21991), 43.654) / 0.5)).toBeGreaterThan(-0.5);
  });
});

describe('harmonics', () => {
  it.each([0.5, 0.05, 0.005])(
    'are at their set levels against lows of %d, and nothing else is made',
    (amplitude) => {
      const unit = {
        kind: 'harmonics',
        belowHz: 200,
        secondDb: -12,
        thirdDb: -18,
        fourthDb: -24,
        fifthDb: -30,
        sixthDb: -36,
      };
      const [y] = through(sine(50, 3, { amplitude }), [unit]);
      const heard = y.subarray(2 * RATE, 3 * RATE);
      // The crossover takes a little of the lows themselves.
      const base = db(amplitude) + db(1 / (1 + (50 / 200) ** 4));
      [-12, -18, -24, -30, -36].forEach((level, n) => {
        expect(Math.abs(db(amplitudeAt(heard, 50 * (n + 2))) - base - level)).toBeLessThan(0.4);
      });
      expect(db(amplitudeAt(heard, 350) / amplitude)).toBeLessThan(-60);
      expect(Math.abs(heard.reduce((sum, v) => sum + v, 0) / heard.length)).toBeLessThan(1e-3 * amplitude);
      expect(db(amplitudeAt(heard, 50) / amplitude)).toBeCloseTo(0, 1);
    },
  );

  it('leaves silence silent, and adds none where all are off', () => {
    expect(rmsOf(through(new Float32Array(RATE / 2), [{ kind: 'harmonics' }])[0])).toBe(0);
    const x = sine(50, 0.2);
    const off = { kind: 'harmonics', secondDb: -60, thirdDb: -60 };
    expect(through(x, [off])[0]).toEqual(x);
  });
});
