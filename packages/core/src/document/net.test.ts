import { cleanMover, cleanLink, cleanSound } from './defaults.js';
import { circleIn, linksInto, netOf } from './net.js';
import { asBuilt, switchTargets } from './switches.js';
import type { SoundDocument } from './shape.js';
import { linkTargets, targetLabel } from './targets.js';
import { findProblems } from './validate.js';

const movers = [
  cleanMover('wobble', { name: 'Wobble 1' }),
  cleanMover('envelope', { name: 'Snap' }),
  cleanMover('steps', { name: 'Steps' }),
];
const link = (id: string, mover: string, target: string, more = {}) =>
  cleanLink({ id, mover, target, ...more });
function sound(links: SoundDocument['links']): SoundDocument {
  return { ...cleanSound(), movers, links };
}
const CUTOFF = 'layers.body.filters.0.cutoffHz';

describe('the order of movers', () => {
  const names = (links: SoundDocument['links'], of = [0]) =>
    netOf(sound(links), of).map(({ kind, index }) =>
      kind === 'source' ? movers[index].id : links[index].id,
    );

  it('runs what a link needs, and no more', () => {
    expect(names([link('a', 'wobble-1', CUTOFF), link('b', 'envelope-1', 'layers.sub.levelDb')])).toEqual([
      'wobble-1',
    ]);
    expect(
      linksInto(
        sound([
          link('a', 'wobble-1', CUTOFF),
          link('b', 'envelope-1', 'units.soft-clip-1.driveDb'),
          link('c', 'wobble-1', CUTOFF, { on: false }),
        ]),
        'body',
      ),
    ).toEqual([0]);
  });

  it('runs what moves a mover or a reach first', () => {
    const links = [
      link('a', 'wobble-1', CUTOFF),
      link('b', 'steps-1', 'movers.wobble-1.rateBeats'),
      link('c', 'envelope-1', 'links.a.reachPct'),
      link('d', 'steps-1', 'movers.envelope-1.attackMs'),
    ];
    const order = names(links);
    const before = (first: string, then: string) => {
      expect(order.indexOf(first)).toBeLessThan(order.indexOf(then));
      expect(order.indexOf(first)).toBeGreaterThanOrEqual(0);
    };
    before('steps-1', 'wobble-1');
    before('steps-1', 'envelope-1');
    before('envelope-1', 'a');
  });
});

describe('circles', () => {
  it('are refused with a sentence that names them', () => {
    const links = [
      link('a', 'wobble-1', 'movers.envelope-1.attackMs'),
      link('b', 'envelope-1', 'movers.wobble-1.rateBeats'),
    ];
    expect(circleIn(sound(links))).toBe('Snap moves Wobble 1 · rate and Wobble 1 moves Snap · attack');
    expect(findProblems(sound(links))).toEqual([
      {
        path: 'links',
        message: 'go round in a circle: Snap moves Wobble 1 · rate and Wobble 1 moves Snap · attack',
      },
    ]);
  });

  it('of a mover with itself, over macros and over reaches are found; what is off goes round nowhere', () => {
    expect(circleIn(sound([link('a', 'wobble-1', 'movers.wobble-1.rateBeats')]))).toBe(
      'Wobble 1 moves Wobble 1 · rate',
    );
    expect(circleIn(sound([link('a', 'wobble-1', 'movers.wobble-1.rateBeats', { on: false })]))).toBeNull();
    const macro = [
      link('a', 'wobble-1', 'macros.macro-1.valuePct'),
      link('b', 'macro-1', 'movers.wobble-1.amountPct'),
    ];
    expect(circleIn(sound(macro))).toContain('Macro 1 moves Wobble 1 · amount');
    // The mover that carries a link is moved by what moves that link's reach through itself.
    const reach = [
      link('a', 'wobble-1', 'movers.envelope-1.attackMs'),
      link('b', 'envelope-1', 'links.a.reachPct'),
    ];
    expect(circleIn(sound(reach))).not.toBeNull();
    expect(
      circleIn(sound([link('a', 'wobble-1', CUTOFF), link('b', 'wobble-1', 'links.a.reachPct')])),
    ).toBeNull();
  });
});

describe('targets', () => {
  it('are layers, mix, movers, reaches and macros, with words and groups', () => {
    const made = sound([link('a', 'wobble-1', CUTOFF)]);
    const all = new Map(linkTargets(made).map((each) => [each.target, each]));
    expect(all.get(CUTOFF)).toMatchObject({ group: 'Body', label: 'Body · filter 1 · cutoff' });
    expect(all.get('movers.wobble-1.rateBeats')).toMatchObject({ group: 'Movers', label: 'Wobble 1 · rate' });
    expect(all.get('links.a.reachPct')).toMatchObject({
      label: 'Reach of Wobble 1 on Body · filter 1 · cutoff',
    });
    expect(all.get('macros.macro-3.valuePct')).toMatchObject({ label: 'Macro 3' });
    expect(targetLabel(made, 'macros.macro-9.valuePct')).toBeNull();
    for (const target of all.keys()) expect(targetLabel(made, target)).toBe(all.get(target)!.label);
  });

  it('leave out what has no effect now', () => {
    const targets = linkTargets(sound([])).map(({ target }) => target);
    for (const idle of [
      'movers.wobble-1.rateHz',
      'layers.body.tones.0.fixedHz',
      'layers.body.filters.0.vowelPct',
      'layers.body.acts.two.amountPct',
      'layers.body.feedback.amountPct',
    ])
      expect(targets).not.toContain(idle);
  });
});

describe('what macros switch', () => {
  const switching = (target: string): SoundDocument => {
    const made = sound([link('a', 'wobble-1', CUTOFF, { on: false })]);
    const macros = made.macros.map((macro, i) =>
      i === 0 ? { ...macro, switches: [{ target, fromPct: 50, on: true }] } : macro,
    );
    return { ...made, macros };
  };

  it('is there when a sound is built, and nothing else is changed', () => {
    expect(asBuilt(cleanSound()).layers[0].on).toBe(true);
    const same = sound([]);
    expect(asBuilt(same)).toBe(same);
    const filter = asBuilt(switching('layers.sub.filters.1.on'));
    expect(filter.layers[0].filters.map(({ on }) => on)).toEqual([false, true]);
    expect(filter.layers[1]).toBe(filter.layers[1]);
    expect(asBuilt(switching('links.a.on')).links[0].on).toBe(true);
    expect(findProblems(switching('layers.sub.filters.1.on'))).toEqual([]);
  });

  it('is told where there is no such thing', () => {
    expect(findProblems(switching('layers.deep.on')).map(({ path }) => path)).toEqual([
      'macros[0].switches[0].target',
    ]);
    expect(switchTargets(cleanSound()).map(({ label }) => label)).toContain('Body · filter 2');
  });
});
