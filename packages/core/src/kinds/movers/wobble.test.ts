import { fall, last, moving, movingSound, wobble } from '../../testing/moving.js';
import { BY_KICK } from './mover-kind.js';
import { wobbleHz } from './wobble.js';

const RATE = 48000;

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
