import { cleanLayer, cleanSource, type Layer, type Tone, type Way } from '../../document/index.js';
import { bareLayer, playNote } from '../../testing/play-note.js';
import { db } from '../../testing/signals.js';
import { aliasingDb, amplitudes, bessel, lockedNote } from '../../testing/spectra.js';

const RATE = 48000;
const SIZE = 32768;
type Shape = 'sine' | 'saw' | 'square' | 'triangle';
const shape = (name: Shape, more: Partial<Tone> = {}): Partial<Tone> => ({
  source: cleanSource('shape', { shape: name }),
  ...more,
});
const SILENT = { levelDb: -60 };

/** Tone 2 on 1 by a way; tone 2 is not heard directly. */
function on(
  way: Way & Layer['acts']['two']['way'],
  amountPct: number,
  one: Partial<Tone>,
  two: Partial<Tone>,
  acts: Partial<Layer['acts']> = {},
): Layer {
  const layer = bareLayer([one, { ...SILENT, ...two }]);
  return { ...layer, acts: { ...layer.acts, two: { way, amountPct }, ...acts } };
}

function steady(layer: Layer, cycles: number) {
  const { left } = playNote(layer, { pitch: lockedNote(cycles, SIZE, RATE), seconds: SIZE / RATE + 0.5 });
  return left.subarray(RATE * 0.45, RATE * 0.45 + SIZE);
}
const oddCycles = (note: number) => 2 * Math.round((440 * 2 ** ((note - 69) / 12) * SIZE) / RATE / 2) + 1;

describe('tones on each other', () => {
  it('ring: two sines give their sum and their difference, each half as strong', () => {
    const bins = amplitudes(steady(on('ring', 100, shape('sine', { octave: 2 }), shape('sine')), 32));
    expect(bins[4 * 32]).toBeLessThan(1e-3);
    expect(bins[5 * 32]).toBeCloseTo(0.5, 2);
    expect(bins[3 * 32]).toBeCloseTo(0.5, 2);
  });

  // Chowning (1973): displaced by I·sin, the sidebands are J_n(I); full amount is one cycle, 2π.
  it.each([[10], [36], [80]])('steer: at %d %% a sine has the sidebands J_n(2π·amount)', (pct) => {
    const bins = amplitudes(steady(on('steer', pct, shape('sine', { octave: 3 }), shape('sine')), 32));
    const index = (2 * Math.PI * pct) / 100;
    for (let n = 0; n < 6; n++)
      if (Math.abs(bessel(n, index)) > 0.01)
        expect(Math.abs(db(bins[(8 + n) * 32] / Math.abs(bessel(n, index))))).toBeLessThan(0.5);
  });

  // A frequency that swings by k·f_c at f_m is a phase that swings by k·f_c/f_m (full amount: k = 6).
  it('FM: the index is the swing over the steering frequency', () => {
    const bins = amplitudes(steady(on('fm', 5, shape('sine', { octave: 3 }), shape('sine')), 32));
    const index = (0.05 * 6 * 8) / 1;
    for (let n = 1; n < 4; n++)
      expect(Math.abs(db(bins[(8 + n) * 32] / Math.abs(bessel(n, index))))).toBeLessThan(0.5);
  });

  // The Fourier integral of a sine of ratio r that begins anew with each cycle, in closed form.
  it('sync: a sine begun anew has the harmonics of its Fourier integral', () => {
    const layer = on('sync', 50, shape('sine'), shape('sine'));
    const r = 2 ** (18 / 12);
    const bins = amplitudes(steady(layer, 32));
    for (let n = 1; n < 60; n++) {
      let s = 0;
      let c = 0;
      for (let i = 0; i < 4000; i++) {
        const x = (i + 0.5) / 4000;
        s += (2 / 4000) * Math.sin(2 * Math.PI * r * x) * Math.sin(2 * Math.PI * n * x);
        c += (2 / 4000) * Math.sin(2 * Math.PI * r * x) * Math.cos(2 * Math.PI * n * x);
      }
      const wanted = Math.hypot(s, c);
      if (wanted > 3e-3) expect(Math.abs(db(bins[n * 32] / wanted))).toBeLessThan(n === 1 ? 0.5 : 0.3);
    }
  });

  // Two squares, one an octave up: AND, OR and XOR are pulses whose harmonics are known.
  it('logic: gives the pulse that the truth table says', () => {
    const pulse = (n: number, low: number, high: number) =>
      Math.abs(Math.sin(Math.PI * n * (high - low)) * 2) / (Math.PI * n);
    // Above zero: the first in [0, ½), the second in [0, ¼) and [½, ¾). AND is [0, ¼), OR [0, ¾), XOR [¼, ¾).
    for (const [way, low, high] of [
      ['and', 0, 0.25],
      ['or', 0, 0.75],
      ['xor', 0.25, 0.75],
    ] as const) {
      const bins = amplitudes(steady(on(way, 100, shape('sine'), shape('sine', { octave: 1 })), 32));
      for (let n = 1; n < 12; n++) expect(Math.abs(bins[n * 32] - pulse(n, low, high))).toBeLessThan(0.01);
    }
  });

  it('compare: a saw over a level is a pulse', () => {
    // Tone 2 at a sixteenth of the pitch is nearly a level; its own cycle is what moves the width.
    const bins = amplitudes(
      steady(on('compare', 100, shape('triangle'), shape('sine', { pitchIn: 'hertz', fixedHz: 1 })), 32),
    );
    expect(bins[32]).toBeGreaterThan(0.3);
  });

  it('alternate: switches between 1 and 2 by 3', () => {
    const layer = bareLayer([
      shape('sine', { octave: 2 }),
      shape('sine', { octave: 3, ...SILENT }),
      shape('sine', SILENT),
    ]);
    const play = (acts: Partial<Layer['acts']>) =>
      amplitudes(
        steady(
          {
            ...layer,
            acts: { ...layer.acts, three: { on: '1', way: 'alternate', amountPct: 100 }, ...acts },
          },
          32,
        ),
      );
    const even = play({});
    expect(even[4 * 32]).toBeCloseTo(0.5, 1);
    expect(even[8 * 32]).toBeCloseTo(0.5, 1);
    // The wider, the more of tone 1.
    const wide = play({ widthPct: 95 });
    expect(wide[4 * 32]).toBeGreaterThan(0.8);
    expect(play({ smoothPct: 100 })[4 * 32]).toBeCloseTo(0.5, 1);
  });

  it('tone 3 acts on 2, which acts on 1', () => {
    const layer = bareLayer([
      shape('sine', { octave: 3 }),
      shape('sine', { octave: 1, ...SILENT }),
      shape('sine', SILENT),
    ]);
    const acts = {
      ...layer.acts,
      two: { way: 'steer' as const, amountPct: 20 },
      three: { on: '2' as const, way: 'ring' as const, amountPct: 100 },
    };
    const bins = amplitudes(steady({ ...layer, acts }, 32));
    // Tone 2 under the ring holds f and 3f, so that sidebands lie one fundamental apart.
    expect(bins[9 * 32]).toBeGreaterThan(0.05);
    expect(bins[11 * 32]).toBeGreaterThan(0.05);
  });

  it('1 and 2 steer each other', () => {
    const quiet = amplitudes(steady(on('steer', 20, shape('sine', { octave: 1 }), shape('sine')), 32));
    const both = amplitudes(
      steady(on('steer', 20, shape('sine', { octave: 1 }), shape('sine'), { backPct: 30 }), 32),
    );
    expect(Math.abs(db(both[5 * 32] / quiet[5 * 32]))).toBeGreaterThan(1);
    expect(
      Math.max(...steady(on('steer', 100, shape('saw'), shape('saw'), { backPct: 100 }), 32).map(Math.abs)),
    ).toBeLessThan(1.6);
  });

  it('each keeps a direct level of its own', () => {
    const layer = { ...on('ring', 100, shape('sine', { octave: 2 }), shape('sine')) };
    layer.tones[1] = { ...layer.tones[1], levelDb: -6 };
    expect(db(amplitudes(steady(layer, 32))[32])).toBeCloseTo(-6, 1);
  });

  it('a tone that is acted on stands where it would without, at no amount', () => {
    for (const way of ['ring', 'steer', 'fm', 'and', 'compare'] as const) {
      const acted = steady(on(way, 0, shape('sine'), shape('saw')), 32);
      const plain = steady(bareLayer([shape('sine')]), 32);
      const phase = (x: Float64Array) =>
        Math.atan2(
          ...([Math.cos, Math.sin].map((f) =>
            x.reduce((sum, v, k) => sum + v * f((2 * Math.PI * 32 * k) / SIZE), 0),
          ) as [number, number]),
        );
      const angle = ((((phase(acted) - phase(plain)) * 180) / Math.PI + 540) % 360) - 180;
      // What takes the running mean off turns 47 Hz by 6°.
      expect(Math.abs(angle)).toBeLessThan(7);
    }
  });

  it.each<[Way & Layer['acts']['two']['way'], number]>([
    ['ring', 100],
    ['fm', 30],
    ['steer', 60],
    ['sync', 40],
    ['and', 100],
    ['or', 100],
    ['xor', 100],
    ['compare', 100],
  ])('%s: is centred, its DC under −60 dBFS over whole periods', (way, amount) => {
    const x = steady(on(way, amount, shape('saw'), shape('square', { semitones: 12 })), 32);
    expect(db(x.reduce((sum, v) => sum + v, 0) / SIZE)).toBeLessThan(-60);
  });

  const aliases: [string, Layer][] = [
    ['ring of two saws', on('ring', 100, shape('saw'), shape('saw', { octave: 1 }))],
    ['a saw steered by a sine, full amount', on('steer', 100, shape('saw'), shape('sine', { octave: 1 }))],
    ['a saw under FM by a sine', on('fm', 50, shape('saw'), shape('sine', { octave: 1 }))],
    ['a saw synced', on('sync', 45, shape('saw'), shape('saw'))],
    ['a sine synced', on('sync', 80, shape('sine'), shape('saw'))],
    ['AND of a sine and a saw', on('and', 100, shape('sine'), shape('saw', { octave: 1 }))],
    ['XOR of two saws', on('xor', 100, shape('saw'), shape('saw', { octave: 1 }))],
    ['a triangle compared with a sine', on('compare', 100, shape('triangle'), shape('sine', { octave: 1 }))],
  ];
  it.each(aliases)('%s has its aliases under −70 dB up to 20 kHz, from E1 to C5', (_name, layer) => {
    for (const note of [28, 40, 52, 62, 72])
      expect(aliasingDb(steady(layer, oddCycles(note)), oddCycles(note), RATE)).toBeLessThan(-70);
  });

  // Beyond the bound, stated as measured: a saw's edge that meets a sine near its own slope at C5, and a saw
  // that steers a saw by a whole cycle.
  it('says what lies beyond: a saw compared with a sine stays under −65 dB at C5, two saws steering at full amount under −60', () => {
    const compared = on('compare', 100, shape('saw'), shape('sine', { octave: 1 }));
    for (const note of [28, 40, 52, 62])
      expect(aliasingDb(steady(compared, oddCycles(note)), oddCycles(note), RATE)).toBeLessThan(-70);
    expect(aliasingDb(steady(compared, oddCycles(72)), oddCycles(72), RATE)).toBeLessThan(-65);
    const steered = on('steer', 100, shape('saw'), shape('saw'));
    for (const note of [28, 40, 52])
      expect(aliasingDb(steady(steered, oddCycles(note)), oddCycles(note), RATE)).toBeLessThan(-70);
    for (const note of [62, 72])
      expect(aliasingDb(steady(steered, oddCycles(note)), oddCycles(note), RATE)).toBeLessThan(-60);
  });

  it('two saws switched by a third has its aliases under −70 dB', () => {
    const layer = bareLayer([shape('saw'), shape('square', { octave: 1, ...SILENT }), shape('sine', SILENT)]);
    const acting = {
      ...layer,
      acts: { ...layer.acts, three: { on: '1' as const, way: 'alternate' as const, amountPct: 100 } },
    };
    for (const note of [28, 40, 52, 72])
      expect(aliasingDb(steady(acting, oddCycles(note)), oddCycles(note), RATE)).toBeLessThan(-70);
  });

  it('feedback of a layer is bounded at any setting, and dies with the note', () => {
    for (const way of ['clip', 'compare'] as const) {
      for (const delayMs of [0.05, 2, 50]) {
        const layer = bareLayer([shape('saw')], { feedback: { on: true, way, amountPct: 100, delayMs } });
        const { left } = playNote(layer, { seconds: 1, offAt: 0.6 });
        expect(Math.max(...left.map(Math.abs))).toBeLessThan(1.2 + 2);
        expect(Math.max(...left.subarray(40000).map(Math.abs))).toBe(0);
      }
    }
    expect(cleanLayer('body').feedback.on).toBe(false);
  });
});
