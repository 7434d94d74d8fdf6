import { cleanLink, cleanMover, cleanSound, cleanSource, type Tone } from '../../document/index.js';
import {
  builtInFrames,
  cycleOf,
  fillHarmonics,
  FRAME_SERIES,
  FRAME_HARMONICS,
  framesFromAudio,
  type FrameTableName,
} from '../../dsp/index.js';
import { FRAME_TABLES } from '../../document/index.js';
import { bareLayer, playNote } from '../../testing/play-note.js';
import { db, noise } from '../../testing/signals.js';
import { aliasingDb, amplitudes, lockedNote } from '../../testing/spectra.js';
import { copyPlace } from './copies.js';

const RATE = 48000;
const SIZE = 65536;

/** Steady samples of a tone whose note has `cycles` whole cycles in them. */
function steady(tone: Partial<Tone>, cycles: number, size = SIZE) {
  const { left, right } = playNote(bareLayer([tone]), {
    pitch: lockedNote(cycles, size, RATE),
    seconds: size / RATE + 0.3,
  });
  const from = Math.round(0.2 * RATE);
  return { left: left.subarray(from, from + size), right: right.subarray(from, from + size) };
}
const drawn = (levelsDb: number[], more = {}) => ({
  source: cleanSource('harmonics', { a: { levelsDb, phasesDeg: [] }, ...more }),
});
const heardDb = (signal: Float64Array, cycles: number, n: number) => db(amplitudes(signal)[n * cycles]);

/** A hill, three times a second. */
const SWEEP = cleanMover('wobble', { id: 'w', rateIn: 'hertz', rateHz: 3 });

describe('a cycle that is read', () => {
  it('keeps its pitch to a part in ten million: phases of 32 bits do not drift', () => {
    const { left } = playNote(bareLayer([{ source: cleanSource('shape', { shape: 'sine' }) }]), {
      pitch: 69 + 12 * Math.log2(50 / 440),
      seconds: 21,
    });
    for (let i = 0; i < 960; i += 60) expect(left[20 * RATE + i]).toBeCloseTo(left[RATE + i], 3);
  });

  it.each([0, 90, 180, 359])('starts at %d degrees', (startPhaseDeg) => {
    const layer = bareLayer([{ startPhaseDeg, source: cleanSource('shape', { shape: 'sine' }) }]);
    const hz = 440 * 2 ** ((36 - 69) / 12);
    const { left } = playNote(layer, { pitch: 36, seconds: 0.2 });
    const i = 4800;
    expect(left[i]).toBeCloseTo(Math.sin(2 * Math.PI * ((i * hz) / RATE + startPhaseDeg / 360)), 3);
  });

  it('sounds as loud with many copies as with one', () => {
    const power = (copies: number) =>
      playNote(bareLayer([{ copies, detuneCents: 20 }]), { pitch: 45, seconds: 4 }).left.reduce(
        (sum, x) => sum + x * x,
        0,
      );
    for (const copies of [2, 3, 5, 8, 12])
      expect(Math.abs(10 * Math.log10(power(copies) / power(1)))).toBeLessThan(1.5);
  });

  it('spreads copies without changing the sum of the sides', () => {
    const sum = (spreadPct: number) => {
      const { left, right } = playNote(bareLayer([{ copies: 7, spreadPct }]), { seconds: 0.5 });
      return left.map((x, i) => x + (spreadPct === 0 ? x : right[i]));
    };
    const none = sum(0);
    sum(80).forEach((x, i) => {
      if (i % 97 === 0) expect(x).toBeCloseTo(none[i], 9);
    });
  });

  it('places copies by the law of the detune', () => {
    const places = (law: Tone['detuneLaw']) => [0, 1, 2, 3, 4].map((c) => copyPlace(c, 5, law));
    expect(places('even')).toEqual([-1, -0.5, 0, 0.5, 1]);
    expect(places('inward')).toEqual([-1, -0.25, 0, 0.25, 1]);
    expect(places('outward').map((x) => Number(x.toFixed(3)))).toEqual([-1, -0.707, 0, 0.707, 1]);
    expect([places('scattered')[0], places('scattered')[4], copyPlace(0, 1, 'even')]).toEqual([-1, 1, 0]);
  });

  it('takes the phases of its copies as they are given', () => {
    const sine = cleanSource('shape', { shape: 'sine' });
    const first = (tone: Partial<Tone>) =>
      Math.max(
        ...playNote(bareLayer([{ copies: 2, detuneCents: 0, source: sine, ...tone }]), {
          seconds: 0.3,
        }).left.map(Math.abs),
      );
    expect(first({ copyPhase: 'together' })).toBeCloseTo(Math.SQRT2, 2);
    expect(first({ copyPhase: 'own', copyPhasesDeg: [0, 180] })).toBeLessThan(1e-6);
    expect(first({ copyPhase: 'own', copyPhasesDeg: [0, 90] })).toBeCloseTo(1, 2);
  });

  it('lets a copy drift within its bound, slowly, and the same with the same seed', () => {
    const play = (driftCents: number, seed: number) =>
      playNote(bareLayer([{ driftCents, driftHz: 2, source: cleanSource('shape', { shape: 'sine' }) }]), {
        pitch: 57,
        seconds: 4,
        seed,
      }).left;
    const x = play(40, 3);
    // Length of each cycle, by its upward crossings.
    const crossings: number[] = [];
    for (let i = 4800; i < x.length - 1; i++)
      if (x[i] <= 0 && x[i + 1] > 0) crossings.push(i - x[i] / (x[i + 1] - x[i]));
    const cents = crossings.slice(1).map((at, i) => 1200 * Math.log2(RATE / (at - crossings[i]) / 220));
    expect(Math.max(...cents.map(Math.abs))).toBeLessThan(41);
    expect(Math.max(...cents) - Math.min(...cents)).toBeGreaterThan(20);
    expect(Math.max(...cents.slice(1).map((c, i) => Math.abs(c - cents[i])))).toBeLessThan(3);
    const same = (y: Float64Array) => y.every((value, i) => value === x[i]);
    expect([same(play(40, 3)), same(play(40, 4))]).toEqual([true, false]);
  });

  it.each([29, 41, 53, 65, 72])('has its aliases under −70 dB at note %d', (note) => {
    const cycles = 2 * Math.round((440 * 2 ** ((note - 69) / 12) * SIZE) / RATE / 2) + 1;
    for (const shape of ['saw', 'square', 'pulse'] as const)
      expect(
        aliasingDb(
          steady({ source: cleanSource('shape', { shape, widthPct: 20 }) }, cycles).left,
          cycles,
          RATE,
        ),
      ).toBeLessThan(-70);
  });
});

describe('drawn harmonics', () => {
  it('sound as they are drawn within 0.1 dB up to 16 kHz, 384 of them', () => {
    const levels = noise(384, 5);
    const levelsDb = Array.from(levels, (x) => Number((-20 + 15 * x).toFixed(1)));
    const cycles = 57;
    const { left } = steady(drawn(levelsDb), cycles);
    const hz = (cycles * RATE) / SIZE;
    for (let n = 1; n * hz <= 16000 && n <= 384; n++)
      expect(Math.abs(heardDb(left, cycles, n) - levelsDb[n - 1])).toBeLessThan(0.1);
  });

  it('have the phases they are drawn with', () => {
    const layer = bareLayer([
      { source: cleanSource('harmonics', { a: { levelsDb: [0, -6], phasesDeg: [90, -45] } }) },
    ]);
    const { left } = playNote(layer, { seconds: 0.4 });
    const w = (2 * Math.PI * 440 * 2 ** ((36 - 69) / 12)) / RATE;
    for (let i = 9600; i < 10600; i += 50)
      expect(left[i]).toBeCloseTo(Math.cos(w * i) + 10 ** (-6 / 20) * Math.sin(2 * w * i - Math.PI / 4), 3);
  });

  it('are tilted, balanced, stopped and cleared of a pocket', () => {
    const flat = Array.from({ length: 24 }, () => -20);
    const cycles = 64;
    const hz = (cycles * RATE) / SIZE;
    const of = (more: object) => {
      const { left } = steady(drawn(flat, more), cycles);
      return (n: number) => heardDb(left, cycles, n);
    };
    expect(of({ tiltDb: -6 })(4)).toBeCloseTo(-32, 1);
    expect([1, 2, 3].map((n) => Math.round(of({ evenDb: 12 })(n)))).toEqual([-20, -20, -32]);
    expect([1, 2, 3].map((n) => Math.round(of({ evenDb: -12 })(n)))).toEqual([-20, -32, -20]);
    expect(of({ stopAfter: 8 })(8)).toBeCloseTo(-20, 1);
    expect(of({ stopAfter: 8 })(9)).toBeLessThan(-100);
    const pitch = Math.round(69 + 12 * Math.log2(hz / 440));
    const pocket = of({ pocket: { on: true, fromHz: 190, toHz: 290, amountDb: -24, pitch } });
    expect([3, 4, 5, 6, 7].map((n) => Math.round(pocket(n)))).toEqual([-20, -20, -44, -44, -20]);
  });

  it('pass between two drawn states', () => {
    const states = { b: { levelsDb: [-20, -6], phasesDeg: [] } };
    for (const [positionPct, first, second] of [
      [0, 1, 0.1],
      [100, 0.1, 0.501],
      [50, 0.55, 0.3],
    ]) {
      const { left } = steady(drawn([0, -20], { ...states, positionPct }), 64);
      expect(amplitudes(left)[64]).toBeCloseTo(first, 2);
      expect(amplitudes(left)[128]).toBeCloseTo(second, 2);
    }
  });

  it('stand at n^(1 + stretch) of the fundamental when they are stretched', () => {
    const { left } = playNote(bareLayer([drawn([-6, -6, -6, -6], { stretchPct: 20 })]), {
      pitch: 45,
      seconds: 4,
    });
    const bins = amplitudes(
      left
        .subarray(RATE / 2, RATE / 2 + 131072)
        .map((x, i) => x * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / 131072))),
    );
    for (const n of [1, 2, 3, 4]) {
      const wanted = (110 * n ** 1.2 * 131072) / RATE;
      const at = bins.subarray(Math.floor(wanted) - 20, Math.floor(wanted) + 20);
      expect(Math.abs(at.indexOf(Math.max(...at)) + Math.floor(wanted) - 20 - wanted)).toBeLessThan(1.5);
    }
  });

  it('ring on after the note, higher ones shorter, to −60 dB in the time that is set', () => {
    const cycles = 64;
    const pitch = lockedNote(cycles, SIZE, RATE);
    const { left } = playNote(bareLayer([drawn([-6, -6, -6, -6], { ringMs: 2000, ringTiltPct: 100 })]), {
      pitch,
      seconds: 2.6,
      offAt: 0.5,
    });
    const level = (timeS: number, n: number) => {
      const at = Math.round(timeS * RATE);
      return db(
        amplitudes(left.subarray(at, at + 8192).map((x, i) => x * (1 - Math.cos((2 * Math.PI * i) / 8192))))[
          (n * cycles * 8192) / SIZE
        ],
      );
    };
    // −60 dB within 2 s is −15 dB within half a second; the second harmonic falls twice as fast.
    expect(level(0.7, 1) - level(1.2, 1)).toBeCloseTo(15, 0);
    expect(level(0.7, 2) - level(1.2, 2)).toBeCloseTo(30, 0);
  });

  it('take an edit without a jump', () => {
    const layer = bareLayer([drawn([0, -6, -12])]);
    const other = bareLayer([drawn([0, -40, -12])]);
    let edited = false;
    const { left } = playNote(layer, {
      seconds: 0.6,
      between: (player, timeS) => {
        if (timeS < 0.3 || edited) return;
        edited = true;
        player.set({ ...cleanSound(), layers: [other], links: [] }, other);
      },
    });
    const jump = (from: number, to: number) => {
      let most = 0;
      for (let i = from; i < to; i++)
        most = Math.max(most, Math.abs(left[i] - 2 * left[i - 1] + left[i - 2]));
      return most;
    };
    expect(jump(14000, 15500)).toBeLessThan(1.5 * jump(9600, 14000));
    // Heard within 20 ms: by then it sounds as one that was so from the start, but for where it stands in its
    // cycle.
    const wanted = playNote(other, { seconds: 0.6 }).left;
    for (let i = Math.round(0.32 * RATE); i < 0.5 * RATE; i += 31) expect(left[i]).toBeCloseTo(wanted[i], 4);
  });

  it('are filled by formula', () => {
    expect(fillHarmonics('1/n', 4).levelsDb).toEqual([0, -6.02, -9.54, -12.04]);
    expect(fillHarmonics('odd 1/n', 3).levelsDb).toEqual([0, -90, -9.54]);
    expect(fillHarmonics('odd 1/n²', 3)).toEqual({ levelsDb: [0, -90, -19.08], phasesDeg: [0, 0, 180] });
    expect(fillHarmonics('octaves', 4).levelsDb).toEqual([0, -6.02, -90, -12.04]);
  });
});

describe('frames', () => {
  it('ship as at least twelve tables, each with sound in every frame, of equal RMS, and the document names them all', () => {
    expect(FRAME_TABLES.length).toBeGreaterThanOrEqual(12);
    expect([...FRAME_TABLES].sort()).toEqual(Object.keys(FRAME_SERIES).sort());
    for (const name of FRAME_TABLES) {
      for (const { sine, cosine } of builtInFrames(name))
        expect(Math.sqrt(sine.reduce((sum, s, i) => sum + (s * s + cosine[i] ** 2) / 2, 0))).toBeCloseTo(
          0.4,
          6,
        );
    }
  });

  // Against the wave itself, not the closed form: sin(2πrx) over one cycle, cut off at its end.
  it('holds in "sync rise" what the Fourier integral of the wave holds', () => {
    const { sine, cosine } = {
      sine: FRAME_SERIES['sync rise'](0.4)(3).sine,
      cosine: FRAME_SERIES['sync rise'](0.4)(3).cosine,
    };
    const r = 8 ** 0.4;
    const steps = 200000;
    const integral = (f: (x: number) => number) =>
      (2 / steps) *
      Array.from({ length: steps }, (_, i) => (i + 0.5) / steps).reduce(
        (sum, x) => sum + Math.sin(2 * Math.PI * r * x) * f(2 * Math.PI * 3 * x),
        0,
      );
    expect(sine).toBeCloseTo(integral(Math.sin), 6);
    expect(cosine).toBeCloseTo(integral(Math.cos), 6);
  });

  const frames = (positionPct: number, more = {}) => ({
    source: cleanSource('frames', { table: 'saw to square', positionPct, ...more }),
  });

  it('stand where the position says, and between two frames as the mean of both', () => {
    const cycles = 64;
    const second = (positionPct: number) => amplitudes(steady(frames(positionPct), cycles).left)[2 * cycles];
    const [a, b, between] = [0, 100 / 31, 50 / 31].map(second);
    expect(a).toBeGreaterThan(b);
    expect(between).toBeCloseTo((a + b) / 2, 4);
    expect(second(100)).toBeLessThan(1e-4);
  });

  it('are moved through without a jump', () => {
    const layer = bareLayer([frames(0)]);
    const { left } = playNote(
      {
        ...layer,
        tones: [
          { ...layer.tones[0], source: cleanSource('frames', { table: 'sine to saw', positionPct: 0 }) },
          layer.tones[1],
          layer.tones[2],
        ],
      },
      {
        pitch: 36,
        seconds: 1,
        document: {
          movers: [SWEEP],
          links: [
            cleanLink({
              id: 'l',
              mover: 'w',
              target: 'layers.body.tones.0.source.frames.positionPct',
              reachPct: 100,
            }),
          ],
        },
      },
    );
    // While the table is near its sine nothing is sharper than the sine itself.
    const near = left.subarray(Math.round(0.32 * RATE), Math.round(0.345 * RATE));
    let most = 0;
    for (let i = 2; i < near.length; i++)
      most = Math.max(most, Math.abs(near[i] - 2 * near[i - 1] + near[i - 2]));
    expect(most).toBeLessThan(2e-3);
  });

  // F2, by the count of its cycles in 65,536 samples: 87.3 Hz.
  const F2 = 119;
  const shifted = (table: FrameTableName, formantSt: number, positionPct = 60) =>
    steady({ source: cleanSource('frames', { table, positionPct, formantSt }) }, F2).left;
  /** Levels of the first harmonics, from 1 on. */
  const lines = (signal: Float64Array) => {
    const bins = amplitudes(signal);
    return Array.from({ length: 200 }, (_, n) => bins[(n + 1) * F2]);
  };

  it.each([-24, -19, -12, -7.5, -0.5, 0.5, 7, 12, 19, 24])(
    'keep the note when the spectrum is moved by %f semitones',
    (formantSt) => {
      for (const table of ['sine to saw', 'formant climb', 'saw to square'] as const) {
        const signal = shifted(table, formantSt, 100);
        const bins = lines(signal);
        // The fundamental stands, no farther under the strongest harmonic than the bump of "formant climb"
        // asks for (its own, as it is, stands 14 dB under).
        expect(db(bins[0] / Math.max(...bins))).toBeGreaterThan(table === 'formant climb' ? -24 : -14);
        // Nothing but harmonics of the note.
        expect(aliasingDb(signal, F2, RATE)).toBeLessThan(-70);
        // Neither is it another octave's: the harmonics that are no multiples of 2, or of 3, carry their
        // share.
        for (const octave of [2, 3]) {
          const whole = bins.reduce((sum, x) => sum + x * x, 0);
          const others = bins.reduce((sum, x, n) => ((n + 1) % octave === 0 ? sum : sum + x * x), 0);
          expect(others / whole).toBeGreaterThan(0.2);
        }
      }
    },
  );

  it('have their formant where the shift puts it, within 3 %, and keep their power', () => {
    // "Formant climb" at 60 %: 1/n² and a bump half an octave wide around n = 2·12^0.6. Its place is the mean
    // of log n over the bump's power.
    const centre = (bins: readonly number[], near: number) => {
      let sum = 0;
      let weight = 0;
      bins.forEach((x, i) => {
        const n = i + 1;
        if (Math.abs(Math.log2(n / near)) < 1) {
          sum += x * x * Math.log2(n);
          weight += x * x;
        }
      });
      return 2 ** (sum / weight);
    };
    const plain = lines(shifted('formant climb', 0, 80));
    const at = 2 * 12 ** 0.8;
    for (const formantSt of [-12, -5, -1.5, 3, 12, 16.2, 24]) {
      const moved = lines(shifted('formant climb', formantSt, 80));
      const wanted = 2 ** (formantSt / 12);
      expect(Math.abs(centre(moved, at * wanted) / (centre(plain, at) * wanted) - 1)).toBeLessThan(0.03);
      expect(
        Math.abs(
          db(Math.sqrt(moved.reduce((sum, x) => sum + x * x, 0) / plain.reduce((sum, x) => sum + x * x, 0))),
        ),
      ).toBeLessThan(1);
    }
  });

  it('move to another shift without a jump', () => {
    const layer = bareLayer([
      { source: cleanSource('frames', { table: 'sine to saw', positionPct: 5, formantSt: 0 }) },
    ]);
    const { left } = playNote(layer, {
      pitch: 36,
      seconds: 1,
      document: {
        movers: [SWEEP],
        links: [
          cleanLink({
            id: 'l',
            mover: 'w',
            target: 'layers.body.tones.0.source.frames.formantSt',
            reachPct: 40,
          }),
        ],
      },
    });
    let most = 0;
    for (let i = 4802; i < left.length; i++)
      most = Math.max(most, Math.abs(left[i] - 2 * left[i - 1] + left[i - 2]));
    // As sharp as the few harmonics themselves (the same at rest: 2.2e-3 and less); a jump between tables
    // would be ten times that.
    expect(most).toBeLessThan(4e-3);
  });

  it('are cut from a WAV by the length of a cycle, DC left aside', () => {
    for (const cycle of [2048, 1000]) {
      const audio = Float32Array.from(
        { length: 4 * cycle + 17 },
        (_, i) =>
          0.2 +
          Math.floor(i / cycle) * 0.25 * Math.sin((2 * Math.PI * 3 * i) / cycle) +
          0.1 * Math.cos((2 * Math.PI * i) / cycle),
      );
      const cut = framesFromAudio(audio, cycle);
      expect(cut.length).toBe(4);
      cut.forEach(({ sine, cosine }, f) => {
        expect(sine[2]).toBeCloseTo(0.25 * f, 5);
        expect(cosine[0]).toBeCloseTo(0.1, 5);
        expect(Math.abs(sine[4])).toBeLessThan(1e-5);
      });
    }
    expect(framesFromAudio(new Float32Array(200 * 64), 64).length).toBe(128);
    expect(framesFromAudio(new Float32Array(10), 64)).toEqual([]);
  });

  it('give the same cycles when they are written out and cut again', () => {
    const [frame] = builtInFrames('growl mouth' satisfies FrameTableName);
    const [again] = framesFromAudio(cycleOf(frame, 2048), 2048);
    for (let n = 0; n < FRAME_HARMONICS; n += 5) expect(again.sine[n]).toBeCloseTo(frame.sine[n], 5);
  });

  it('come from a recording of the sound', () => {
    const asset = 'b'.repeat(64);
    const channels = [
      Float32Array.from(
        { length: 4096 },
        (_, i) => 0.5 * Math.sin((2 * Math.PI * (i < 2048 ? 1 : 2) * i) / 2048),
      ),
    ];
    const layer = bareLayer([
      {
        source: cleanSource('frames', {
          wav: { asset, fileName: 'two.wav', cycleFrames: 2048 },
          positionPct: 100,
        }),
      },
    ]);
    const { left } = playNote(layer, {
      pitch: lockedNote(64, SIZE, RATE),
      seconds: 2,
      assets: new Map([[asset, { channels, sampleRateHz: 44100 }]]),
    });
    const bins = amplitudes(left.subarray(4800, 4800 + SIZE));
    expect(bins[128]).toBeCloseTo(0.5, 3);
    expect(bins[64]).toBeLessThan(1e-4);
    // Without it the tone is silent.
    expect(Math.max(...playNote(layer, { seconds: 0.1 }).left.map(Math.abs))).toBe(0);
  });
});
