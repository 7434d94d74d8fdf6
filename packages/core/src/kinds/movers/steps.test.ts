import { cleanMover, type MoverOf } from '../../document/index.js';
import { last, moving } from '../../testing/moving.js';
import { BY_KICK, BY_PART } from './mover-kind.js';
import { placeInOrder } from './steps.js';

const RATE = 48000;

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
