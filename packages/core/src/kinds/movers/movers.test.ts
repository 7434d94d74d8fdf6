import { cleanLink, cleanMover, type MoverOf, type SoundDocument } from '../../document/index.js';
import { moving, movingSound } from '../../testing/moving.js';
import { BY_KICK, BY_NOTE, BY_PART } from './mover-kind.js';
import { wobbleHz } from './wobble.js';
import { placeInOrder } from './steps.js';
import { chanceOf } from './chance.js';

const RATE = 48000;
/** A cycle that falls straight from 1 to 0, so that its value tells its phase. */
const fall = [
  { x: 0, y: 1, bend: 0 },
  { x: 1, y: 0, bend: 0 },
];
const wobble = (set: Partial<MoverOf<'wobble'>>) =>
  cleanMover('wobble', { smoothMs: 0, nodes: fall, ...set });
const last = (values: readonly number[]) => values[values.length - 1];
const parts = (...ids: string[]): Partial<SoundDocument> => ({
  backing: ids.map((id) => ({
    id,
    name: id,
    on: true,
    asset: 'a'.repeat(64),
    fileName: '',
    sound: '',
    startTick: 0,
    gainDb: 0,
  })),
});

describe('a wobble', () => {
  it('comes in beats, triplets and dots, or in hertz', () => {
    expect(wobbleHz(wobble({ rateBeats: 1 }), 140)).toBeCloseTo(140 / 60, 12);
    expect(wobbleHz(wobble({ rateBeats: 1 / 3 }), 120)).toBeCloseTo(6, 12);
    expect(wobbleHz(wobble({ rateBeats: 0.75 }), 120)).toBeCloseTo(2 / 0.75, 12);
    expect(wobbleHz(wobble({ rateIn: 'hertz', rateHz: 4.67 }), 120)).toBe(4.67);
  });

  // Sixteen bars hold 64 beats, so that a rate of b beats goes round 64/b times: counted by its resets, the last
  // of which falls on the clock's own place within one control step.
  it.each(
    [60, 128, 174].flatMap((tempo) =>
      [4, 1, 0.5, 1 / 3, 0.75, 1 / 6, 0.375, 0.0625].map((beats) => [tempo, beats] as const),
    ),
  )('keeps to the clock over sixteen bars at %d bpm, %d beats a cycle', (tempoBpm, rateBeats) => {
    const sound = movingSound([]);
    const it = moving([wobble({ rateBeats })], [], {
      patch: { ground: { ...sound.ground, tempoBpm } },
    });
    it.note();
    const seconds = (64 * 60) / tempoBpm;
    const values = it.run(seconds);
    const turns = values.flatMap((value, i) => (i > 0 && value > values[i - 1] ? [i + 1] : []));
    const cycles = Math.round(64 / rateBeats);
    const due = Array.from(
      { length: cycles - 1 },
      (_, k) => ((k + 1) * rateBeats * 60 * RATE) / tempoBpm / 16,
    );
    expect(turns.length).toBeGreaterThanOrEqual(due.length);
    due.forEach((at, k) => {
      // And no more than the rounding of its place.
      expect(Math.abs(turns[k] - at)).toBeLessThanOrEqual(1 + 1e-9);
    });
  });

  it('starts anew with each note from where it is told to, and goes on under a tie', () => {
    const it = moving([wobble({ startDeg: 90 })]);
    it.note();
    expect(last(it.run(0.125))).toBeCloseTo(0.5, 2);
    it.note({ tie: true });
    expect(last(it.run(0.125))).toBeCloseTo(0.25, 2);
    it.note();
    expect(it.run(0.0004)[0]).toBeCloseTo(0.75, 2);
  });

  it('starts anew with each kick and with no note where it is told to', () => {
    const it = moving([wobble({ restart: 'kick' })]);
    it.run(0.2);
    it.note();
    expect(it.run(0.01)[0]).toBeCloseTo(0.6, 1);
    it.bank.struck(BY_KICK, 0);
    expect(last(it.run(0.125))).toBeCloseTo(0.75, 2);
  });

  it('runs free past notes, and begins elsewhere for each seed', () => {
    const free = moving([wobble({ restart: 'free' })]);
    const at = last(free.run(0.1));
    free.note();
    expect(Math.abs(last(free.run(0.5)) - at)).toBeLessThan(0.01);
    const other = moving([wobble({ restart: 'free' })], [], { seed: 2 });
    expect(Math.abs(last(other.run(0.1)) - at)).toBeGreaterThan(0.01);
  });

  it('rounds its corners by what it is told', () => {
    const gate = [
      { x: 0, y: 1, bend: 0 },
      { x: 0.5, y: 1, bend: 0 },
      { x: 0.5, y: 0, bend: 0 },
      { x: 1, y: 0, bend: 0 },
    ];
    const [sharp, round] = [0, 50].map((smoothMs) => {
      const it = moving([wobble({ nodes: gate, smoothMs })]);
      it.note();
      return last(it.run(0.26));
    });
    expect(sharp).toBe(0);
    expect(round).toBeGreaterThan(0.3);
  });

  it('comes in after a note by its fade, and is passed on by its amount', () => {
    const flat = fall.map((node) => ({ ...node, y: 1 }));
    const it = moving([wobble({ nodes: flat, fadeMs: 200, amountPct: 60 })]);
    it.note();
    const values = it.run(0.4);
    expect(values[Math.round((0.05 * RATE) / 16)]).toBeCloseTo(0.15, 2);
    expect(values[Math.round((0.1 * RATE) / 16)]).toBeCloseTo(0.3, 2);
    expect(last(values)).toBeCloseTo(0.6, 9);
  });

  it('swings: the first cycle of each pair takes its share of the two', () => {
    // 66 % of a pair of two half-second cycles: the resets fall at 0.66, 1, 1.66 and 2 s.
    const it = moving([wobble({ rateBeats: 1, swingPct: 66 })]);
    it.note();
    const values = it.run(2.1);
    const resets = values.flatMap((value, i) =>
      i > 0 && value > values[i - 1] + 0.5 ? [(i * 16) / RATE] : [],
    );
    expect(resets.length).toBe(4);
    [0.66, 1, 1.66, 2].forEach((at, i) => {
      expect(Math.abs(resets[i] - at)).toBeLessThan(0.001);
    });
  });

  it('takes the rate of a note that has one, stands still at 0, and leaves it where it is told to', () => {
    const it = moving([wobble({ rateBeats: 1 })]);
    it.note({ rate: 0.25 });
    expect(last(it.run(0.0625))).toBeCloseTo(0.5, 2);
    it.note({ rate: 0 });
    expect(last(it.run(0.3))).toBe(1);
    it.note();
    expect(last(it.run(0.25))).toBeCloseTo(0.5, 2);
    const deaf = moving([wobble({ rateBeats: 1, byNote: false })]);
    deaf.note({ rate: 0.25 });
    expect(last(deaf.run(0.25))).toBeCloseTo(0.5, 2);
  });

  it('makes up for the time in which nobody listened', () => {
    const [listened, waited] = [moving([wobble({})]), moving([wobble({})])];
    for (const each of [listened, waited]) each.note();
    listened.run(0.2);
    for (let i = 0; i < 600; i++) waited.bank.wait(16);
    expect(waited.run(0.0003)[0]).toBeCloseTo(listened.run(0.0003)[0], 6);
  });
});

describe('an envelope', () => {
  const times = {
    attackMs: 10,
    decayMs: 20,
    holdMs: 5,
    delayMs: 5,
    attackBend: 0,
    decayBend: 0,
    releaseBend: 0,
    releaseMs: 40,
  };
  const envelope = (set: Partial<MoverOf<'envelope'>> = {}) =>
    cleanMover('envelope', { ...times, sustainPct: 50, ...set });
  const at = (values: readonly number[], ms: number) => values[Math.round((ms * RATE) / 16000) - 1];

  it('waits, rises, holds, falls and stands; a tie does not start it anew', () => {
    const it = moving([envelope()]);
    it.note();
    const values = it.run(0.06);
    expect(at(values, 5)).toBeCloseTo(0, 6);
    expect(at(values, 10)).toBeCloseTo(0.5, 1);
    expect(at(values, 18)).toBe(1);
    expect(at(values, 30)).toBeCloseTo(0.75, 1);
    expect(at(values, 50)).toBe(0.5);
    it.note({ tie: true });
    expect(last(it.run(0.01))).toBe(0.5);
  });

  it('goes round and round while a note is held, and ends with it', () => {
    // Delay, attack, hold and decay take 40 ms: with the second round it is where it was in the first.
    const it = moving([envelope({ loop: 'held' })]);
    it.note();
    const values = it.run(0.2);
    expect(at(values, 78)).toBeCloseTo(at(values, 118), 2);
    expect(Math.max(...values.slice(Math.round((0.09 * RATE) / 16)))).toBe(1);
    it.bank.noteOff();
    const after = it.run(0.05);
    expect(Math.max(...after.slice(1).map((value, i) => value - after[i]))).toBeLessThanOrEqual(0);
    expect(last(after)).toBe(0);
  });

  it('goes round always, past notes and their ends', () => {
    const it = moving([envelope({ loop: 'always' })]);
    const alone = it.run(0.2);
    expect(Math.max(...alone)).toBe(1);
    it.note();
    it.bank.noteOff();
    expect(Math.max(...it.run(0.05))).toBe(1);
  });

  it('is started by the kick or a backing part, and by nothing else; nothing holds it then', () => {
    for (const [startedBy, by] of [
      ['kick', BY_KICK],
      ['haze', BY_PART + 1],
    ] as const) {
      const it = moving([envelope({ startedBy })], [], { patch: parts('drums', 'haze') });
      it.note();
      it.bank.struck(BY_PART, -1);
      expect(Math.max(...it.run(0.05))).toBe(0);
      it.bank.struck(by, -1);
      const values = it.run(0.1);
      expect(Math.max(...values)).toBe(1);
      expect(at(values, 60)).toBeGreaterThan(0.2);
      expect(last(values)).toBe(0);
    }
  });

  it('starts from the level it has reached', () => {
    const it = moving([envelope({ delayMs: 0 })]);
    it.note();
    const before = last(it.run(0.05));
    it.note();
    expect(Math.abs(it.run(0.0004)[0] - before)).toBeLessThan(0.05);
  });
});

describe('note steps', () => {
  const VALUES = [0.1, 0.3, 0.6, 0.9];
  const steps = (set: Partial<MoverOf<'steps'>> = {}) => cleanMover('steps', { values: VALUES, ...set });

  it('come in order, backwards, there and back', () => {
    const order = (o: MoverOf<'steps'>['order']) =>
      Array.from({ length: 9 }, (_, k) => placeInOrder(o, k, 4));
    expect(order('in order')).toEqual([0, 1, 2, 3, 0, 1, 2, 3, 0]);
    expect(order('backwards')).toEqual([3, 2, 1, 0, 3, 2, 1, 0, 3]);
    expect(order('there and back')).toEqual([0, 1, 2, 3, 2, 1, 0, 1, 2]);
    expect(Array.from({ length: 4 }, (_, k) => placeInOrder('there and back', k, 2))).toEqual([0, 1, 0, 1]);
  });

  it('go on with each note, by its number in the line, and not with a tied one', () => {
    const it = moving([steps()]);
    expect([0, 1, 2, 3, 4].map((number) => it.note({ number }))).toEqual([0.1, 0.3, 0.6, 0.9, 0.1]);
    expect(it.note({ number: 5, tie: true })).toBe(0.1);
    expect(it.note({ number: 2 })).toBe(0.6);
    // What is not of the line goes on from there.
    expect([it.note(), it.note()]).toEqual([0.9, 0.1]);
  });

  it('go on with each kick', () => {
    const it = moving([steps({ next: 'kick' })]);
    it.note({ number: 3 });
    const values = [0, 1, 2].map((hit) => {
      it.bank.struck(BY_KICK, hit);
      return it.bank.value[0];
    });
    expect(values).toEqual([0.1, 0.3, 0.6]);
    it.bank.struck(BY_PART, -1);
    expect(it.bank.value[0]).toBe(0.6);
  });

  it.each([1, 0.5, 0.25, 0.125, 1 / 3])(
    'go on in time, each %d beats, to the frame of the loop',
    (rateBeats) => {
      const it = moving([steps({ next: 'time', rateBeats })]);
      it.play();
      const values = it.run(4 * rateBeats * 0.5);
      const perStep = (rateBeats * 0.5 * RATE) / 16;
      values.forEach((value, i) => {
        // The value of the step that holds at the end of this one.
        expect(value).toBe(VALUES[Math.floor((i + 1) / perStep + 1e-6) % 4]);
      });
    },
  );

  it('by chance are never the same twice running, the same again for a seed, and all come', () => {
    const draw = (seed: number) => {
      const it = moving([steps({ order: 'any' })], [], { seed });
      return Array.from({ length: 200 }, (_, number) => it.note({ number }));
    };
    const one = draw(3);
    expect(one.every((value, i) => i === 0 || value !== one[i - 1])).toBe(true);
    expect(draw(3)).toEqual(one);
    expect(draw(4)).not.toEqual(one);
    expect(new Set(one).size).toBe(4);
    // Wherever it is come to from, a step is the same.
    const it = moving([steps({ order: 'any' })], [], { seed: 3 });
    expect([150, 20, 21].map((number) => it.note({ number }))).toEqual([one[150], one[20], one[21]]);
  });

  it('glide evenly from one value to the next', () => {
    const it = moving([steps({ glideMs: 100 })]);
    it.note({ number: 0 });
    it.run(0.2);
    it.note({ number: 2 });
    const values = it.run(0.15);
    expect(values[Math.round((0.05 * RATE) / 16) - 1]).toBeCloseTo(0.35, 2);
    expect(last(values)).toBe(0.6);
  });
});

describe('a follower', () => {
  const follower = (set: Partial<MoverOf<'follower'>> = {}) =>
    cleanMover('follower', { attackMs: 20, releaseMs: 100, floorDb: -40, ...set });

  // y rises as 1 − e^(−t/τ) and falls as e^(−t/τ) for a level that jumps (Giannoulis, Massberg and Reiss 2012).
  it('rises and falls by its time constants, in decibels above its floor', () => {
    const it = moving([follower()]);
    const share = (level: number) => Math.max(0, 1 + (20 * Math.log10(level)) / 40);
    it.bank.inputs.levels[BY_KICK] = 1;
    const up = it.run(0.2);
    [0.01, 0.02, 0.05, 0.1].forEach((t) => {
      expect(up[Math.round((t * RATE) / 16) - 1]).toBeCloseTo(share(1 - Math.exp(-t / 0.02)), 3);
    });
    it.bank.inputs.levels[BY_KICK] = 0;
    const down = it.run(0.6);
    [0.05, 0.1, 0.3].forEach((t) => {
      expect(down[Math.round((t * RATE) / 16) - 1]).toBeCloseTo(share(Math.exp(-t / 0.1)), 3);
    });
    expect(last(down)).toBe(0);
  });

  it('is raised by its gain, and follows the part or the layer it is told to', () => {
    for (const [of, by] of [
      ['self', BY_NOTE],
      ['haze', BY_PART + 1],
    ] as const) {
      const it = moving([follower({ of, gainDb: 10 })], [], { patch: parts('drums', 'haze') });
      it.bank.inputs.levels[by] = 10 ** (-20 / 20);
      expect(last(it.run(1))).toBeCloseTo(0.75, 3);
      it.bank.inputs.levels[by] = 0;
      it.bank.inputs.levels[BY_KICK] = 1;
      expect(last(it.run(2))).toBe(0);
    }
  });

  it('as a gate opens above its threshold', () => {
    const it = moving([follower({ gate: true, thresholdDb: -12, attackMs: 1 })]);
    it.bank.inputs.levels[BY_KICK] = 10 ** (-13 / 20);
    expect(last(it.run(0.1))).toBe(0);
    it.bank.inputs.levels[BY_KICK] = 10 ** (-11 / 20);
    expect(last(it.run(0.05))).toBeCloseTo(1, 6);
  });
});

describe('noise', () => {
  const noise = (set: Partial<MoverOf<'noise'>> = {}) => cleanMover('noise', set);

  it('draws as many values in a second as it is told to, stepped or gone to smoothly', () => {
    const stepped = moving([noise({ smooth: false, rateHz: 50 })]).run(2);
    expect(stepped.filter((value, i) => i > 0 && value !== stepped[i - 1]).length).toBeGreaterThan(95);
    expect(stepped.filter((value, i) => i > 0 && value !== stepped[i - 1]).length).toBeLessThanOrEqual(100);
    const smooth = moving([noise({ rateHz: 50 })]).run(2);
    expect(Math.max(...smooth.slice(1).map((value, i) => Math.abs(value - smooth[i])))).toBeLessThan(0.04);
    for (const values of [stepped, smooth]) {
      expect(Math.min(...values)).toBeGreaterThanOrEqual(0);
      expect(Math.max(...values)).toBeLessThanOrEqual(1);
      expect(values.reduce((sum, value) => sum + value, 0) / values.length).toBeCloseTo(0.5, 1);
    }
  });

  // White noise is even over frequency, pink falls by 3.01 dB an octave: by definition.
  it.each([
    ['white', 0],
    ['pink', -3.01],
  ] as const)('%s at audio rate falls by %d dB an octave', (colour, slope) => {
    const it = moving([noise({ colour, smooth: false, rateHz: 20000 })], [], {
      sampleRateHz: 20000,
      frames: 1,
    });
    const values = it.run(6.6);
    const size = 4096;
    const power = (from: number, to: number) => {
      let sum = 0;
      for (let start = 0; start + size <= values.length; start += size)
        for (let bin = from; bin < to; bin += Math.ceil((to - from) / 24)) {
          let re = 0;
          let im = 0;
          for (let i = 0; i < size; i++) {
            const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size);
            re += w * (values[start + i] - 0.5) * Math.cos((2 * Math.PI * bin * i) / size);
            im += w * (values[start + i] - 0.5) * Math.sin((2 * Math.PI * bin * i) / size);
          }
          sum += re * re + im * im;
        }
      return sum;
    };
    const octaves = [32, 256].map((bin) => 10 * Math.log10(power(bin, bin + 24)));
    expect(Math.abs((octaves[1] - octaves[0]) / 3 - slope)).toBeLessThan(0.5);
  });

  it('is the same for a seed, and another for another', () => {
    const run = (seed: number) => moving([noise()], [], { seed }).run(0.5);
    expect(run(5)).toEqual(run(5));
    expect(run(6)).not.toEqual(run(5));
  });
});

describe('what a note says', () => {
  it('is its touch, its key against the root, its accent, a chance of its own, along a curve', () => {
    const touch = moving([cleanMover('touch')]);
    expect(touch.note({ velocity: 127 })).toBe(1);
    expect(touch.note({ velocity: 64 })).toBeCloseTo(64 / 127, 9);
    const key = moving([cleanMover('key')]);
    // F1 is the root of the sound: in the middle; two octaves up all the way up.
    expect([29, 41, 53, 60, 17, 5].map((pitch) => key.note({ pitch }))).toEqual([0.5, 0.75, 1, 1, 0.25, 0]);
    const accent = moving([cleanMover('accent')]);
    expect([accent.note({ accent: true }), accent.note()]).toEqual([1, 0]);
    const bent = moving([cleanMover('touch', { bend: 1 })]);
    expect(bent.note({ velocity: 64 })).toBeLessThan(0.1);
  });

  it('by chance is the same for a note of the line each time round, and new for a live one', () => {
    const it = moving([cleanMover('chance')]);
    const first = [1, 2, 3].map((source) => it.note({ source, number: source }));
    expect([1, 2, 3].map((source) => it.note({ source, number: source }))).toEqual(first);
    expect(new Set(first).size).toBe(3);
    expect(it.note({ source: 9 })).not.toBe(it.note({ source: 9 }));
    expect(it.note({ source: 2, number: 2 })).toBe(first[1]);
    const before = it.bank.value[0];
    expect(it.note({ source: 7, number: 7, tie: true })).toBe(before);
  });

  it('by chance is even over its range', () => {
    const out = new Float64Array(1);
    const tenths = new Array<number>(10).fill(0);
    for (let place = 0; place < 20000; place++) {
      chanceOf(7, 3, place, out);
      tenths[Math.floor(out[0] * 10)]++;
    }
    // Chi-square with nine degrees of freedom: 27.9 is passed once in a thousand (standard tables).
    const chi = tenths.reduce((sum, n) => sum + (n - 2000) ** 2 / 2000, 0);
    expect(chi).toBeLessThan(27.9);
  });
});

describe('movers that move movers', () => {
  const link = (mover: string, target: string, reachPct: number, more = {}) =>
    cleanLink({ id: `${mover}-on`, mover, target, reachPct, ...more });

  it('set the rate of a wobble with each note: the composition by hand', () => {
    // The rate's row runs by equal ratios from 1/24 to 32 beats: a reach of r and a value of v multiply by 768^(r·v).
    const steps = cleanMover('steps', { values: [0, 1] });
    const it = moving(
      [wobble({ rateBeats: 1, keepsBeat: false }), steps],
      [link('steps-1', 'movers.wobble-1.rateBeats', -20)],
    );
    it.note({ number: 0 });
    expect(last(it.run(0.25))).toBeCloseTo(0.5, 2);
    it.note({ number: 1 });
    const beats = 768 ** -0.2;
    const seconds = 0.1;
    expect(last(it.run(seconds))).toBeCloseTo(1 - (((seconds * 2) / beats) % 1), 2);
  });

  it('go to the nearest note value where the wobble keeps the beat', () => {
    const steps = cleanMover('steps', { values: [0, 1] });
    const it = moving([wobble({ rateBeats: 1 }), steps], [link('steps-1', 'movers.wobble-1.rateBeats', -20)]);
    it.note({ number: 1 });
    // 768^−0.2 is 0.265 beats: a sixteenth is nearest.
    expect(last(it.run(0.0625))).toBeCloseTo(0.5, 2);
  });

  it('move the reach of a link, and through it what that carries', () => {
    const sound = movingSound([]);
    const flat = wobble({ nodes: fall.map((node) => ({ ...node, y: 1 })) });
    const it = moving(
      [flat, cleanMover('touch')],
      [
        cleanLink({ id: 'a', mover: 'wobble-1', target: 'layers.body.levelDb', reachPct: 0 }),
        cleanLink({ id: 'b', mover: 'touch-1', target: 'links.a.reachPct', reachPct: 25 }),
      ],
      { patch: { ground: { ...sound.ground, tempoBpm: 120 } } },
    );
    const place = it.document.links.findIndex(({ id }) => id === 'a');
    it.note({ velocity: 127 });
    it.run(0.01);
    // A reach's row runs from −100 to 100 %: a quarter of it is half.
    expect(it.bank.reach[place]).toBeCloseTo(0.5, 6);
    it.note({ velocity: 1 });
    it.run(0.01);
    expect(it.bank.reach[place]).toBeCloseTo(0.5 / 127, 4);
  });

  it('begin a note in order, wherever they stand in the list', () => {
    const steps = cleanMover('steps', { values: [0, 1] });
    for (const movers of [
      [wobble({}), steps],
      [steps, wobble({})],
    ]) {
      const it = moving(movers, [link('steps-1', 'movers.wobble-1.startDeg', 50)]);
      it.note({ number: 1 });
      const at = movers.findIndex(({ kind }) => kind === 'wobble');
      expect(it.run(0.0004, at)[0]).toBeCloseTo(0.5, 2);
    }
  });

  it('take a macro along', () => {
    const sound = movingSound([]);
    const it = moving(
      [cleanMover('touch')],
      [
        link('touch-1', 'macros.macro-2.valuePct', 40),
        cleanLink({ id: 'm', mover: 'macro-2', target: 'layers.body.levelDb' }),
      ],
      {
        patch: { macros: sound.macros.map((macro, i) => (i === 1 ? { ...macro, valuePct: 20 } : macro)) },
      },
    );
    it.note({ velocity: 127 });
    it.run(0.01);
    expect(it.bank.value[it.document.movers.length + 1]).toBeCloseTo(0.6, 6);
  });
});
