import {
  cleanLink,
  cleanMover,
  findProblems,
  MOST_LANES,
  MOST_LINKS,
  MOST_MOVERS,
  trenchGrowl,
  type SoundDocument,
} from '@abyssal/core';
import { addLane, addLink, circleOf, full, noLink, removeLink } from './link-edits';

const CUTOFF = 'layers.body.filters.0.cutoffHz';
const sound = (): SoundDocument => {
  const made = structuredClone(trenchGrowl());
  made.links = [];
  return made;
};
const filled = <T>(count: number, make: (i: number) => T): T[] =>
  Array.from({ length: count }, (_, i) => make(i));

describe('links that are made', () => {
  it('have ids of their own and reach up by a quarter', () => {
    const draft = sound();
    addLink(draft, 'wobble-1', CUTOFF);
    addLink(draft, 'envelope-1', CUTOFF, { reachPct: 12 });
    expect(draft.links).toMatchObject([
      { id: 'link-1', mover: 'wobble-1', target: CUTOFF, reachPct: 25, way: 'one way' },
      { id: 'link-2', mover: 'envelope-1', target: CUTOFF, reachPct: 12 },
    ]);
    expect(findProblems(draft)).toEqual([]);
  });

  it('reach down where a number is high as a rule', () => {
    const draft = sound();
    addLink(draft, 'wobble-1', 'layers.sub.levelDb');
    addLink(draft, 'wobble-1', 'movers.wobble-1.amountPct');
    expect(draft.links.map(({ reachPct }) => reachPct)).toEqual([-25, -25]);
  });

  it('of a key go both ways round the value', () => {
    const draft = sound();
    draft.movers.push(cleanMover('key'));
    addLink(draft, 'key-1', CUTOFF);
    expect(draft.links[0].way).toBe('both ways');
  });

  it('are refused where they go round in a circle, with its names', () => {
    const draft = sound();
    addLink(draft, 'steps-1', 'movers.wobble-1.rateBeats');
    expect(noLink(draft, 'envelope-1', 'movers.steps-1.glideMs')).toBeNull();
    expect(noLink(draft, 'wobble-1', 'movers.steps-1.glideMs')).toBe(
      'That would go round in a circle: Wobble 1 moves Pace · glide and Pace moves Wobble 1 · rate.',
    );
    expect(circleOf(draft, draft.links)).toBeNull();
  });

  it('are taken out with what moved their reach', () => {
    const draft = sound();
    addLink(draft, 'wobble-1', CUTOFF);
    addLink(draft, 'macro-1', 'links.link-1.reachPct');
    addLink(draft, 'macro-1', CUTOFF);
    removeLink(draft, 'link-1');
    expect(draft.links.map(({ id }) => id)).toEqual(['link-3']);
  });
});

describe('what a sound is full of', () => {
  it('is said with how many there are', () => {
    const draft = sound();
    expect([full(draft, 'movers'), full(draft, 'links'), full(draft, 'lanes')]).toEqual([null, null, null]);
    draft.movers = filled(MOST_MOVERS, (i) => ({ ...cleanMover('noise'), id: `n-${i}` }));
    draft.links = filled(MOST_LINKS, (i) => cleanLink({ id: `l-${i}`, mover: 'n-1', target: CUTOFF }));
    draft.lanes = filled(MOST_LANES, () => ({ target: CUTOFF, on: true, points: [] }));
    expect(full(draft, 'movers')).toBe('There are 16 movers, as many as a sound takes. Remove one first.');
    expect(full(draft, 'lanes')).toMatch(/^There are 16 lanes/);
    expect(noLink(draft, 'n-2', CUTOFF)).toMatch(/^There are 64 links/);
  });
});

describe('lanes that are made', () => {
  it('stand where the number stands, from end to end of the loop', () => {
    const draft = sound();
    draft.layers[1].panPct = 50;
    addLane(draft, 'layers.body.panPct');
    expect(draft.lanes).toEqual([
      {
        target: 'layers.body.panPct',
        on: true,
        points: [0, 3840].map((tick) => ({ tick, value: 0.75, bend: 0, hold: false })),
      },
    ]);
    expect(findProblems(draft)).toEqual([]);
  });

  it('are not made of what is not there', () => {
    const draft = sound();
    addLane(draft, 'layers.nobody.panPct');
    addLane(draft, 'layers.body.tones.0.source.fm.scale');
    expect(draft.lanes).toEqual([]);
  });
});
