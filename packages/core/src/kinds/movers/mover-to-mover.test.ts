import { cleanLink, cleanMover } from '../../document/index.js';
import { fall, last, moving, movingSound, wobble } from '../../testing/moving.js';

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
