import { cleanLink, cleanMover, parameter, type Lane, type Link } from '../../document/index.js';
import { moving } from '../../testing/moving.js';
import { bankLinks, type BankLane } from './bank-links.js';
import { laneReader } from './lanes.js';
import { ParameterBank } from './parameter-bank.js';

const RATE = 48000;
const FIELDS = ['levelDb', 'filters.0.cutoffHz'];
const rows = [parameter('layers.*.levelDb'), parameter('layers.*.filters.*.cutoffHz')];
const slotOf = (_document: unknown, target: string) => FIELDS.indexOf(target.replace('layers.body.', ''));
/** A wobble that stands at its start, whose value is that of its first node. */
const standing = (y: number) =>
  cleanMover('wobble', {
    rateIn: 'hertz',
    rateHz: 0.02,
    smoothMs: 0,
    nodes: [
      { x: 0, y, bend: 0 },
      { x: 1, y, bend: 0 },
    ],
  });

/** A level at −20 dB and a cutoff at 200 Hz, and a mover that stands at a value and carries one of them. */
function made(link: Partial<Link> | null, { value = 1, sided = false, lanes = [] as BankLane[] } = {}) {
  const own = link
    ? [cleanLink({ id: 'own', mover: 'wobble-1', target: 'layers.body.filters.0.cutoffHz', ...link })]
    : [];
  const it = moving([standing(value)], own);
  const bank = new ParameterBank(rows, [-20, 200], RATE, sided);
  const linksOf = (links: readonly Link[]) => bankLinks({ ...it.document, links: [...links] }, slotOf);
  // The link by which `moving` keeps the mover running carries nothing here.
  const all = it.document.links.map((each) => (each.id === 'own' ? each : { ...each, on: false }));
  bank.begin(linksOf(all), lanes, it.bank);
  return {
    bank,
    movers: it.bank,
    without: () => {
      bank.setLinks([], [], it.bank, false);
    },
    run: (ms: number, place = -1) => {
      for (let i = 0; i < (ms * RATE) / 16000; i++) {
        it.bank.stand(place, 16, Float64Array.of(0.02));
        it.bank.step(16);
        bank.step(16, it.bank);
      }
      return Array.from(bank.value);
    },
  };
}

describe('a parameter bank', () => {
  it('brings a changed number 95 % of the way in 5 ms, without going past', () => {
    const { bank, run } = made(null);
    bank.setTargets([-10, 200]);
    const [level] = run(5);
    expect(level).toBeGreaterThan(-10.6);
    expect(level).toBeLessThanOrEqual(-10);
    expect(run(40)[0]).toBe(-10);
  });

  it('begins gently: the first step is the smallest of the way up', () => {
    const { bank, run } = made(null);
    bank.setTargets([0, 200]);
    const first = run(0.3)[0] + 20;
    const second = run(0.3)[0] + 20 - first;
    expect(first).toBeLessThan(second);
  });

  it("adds what a mover says on the scale of the row, and holds it to the row's ends", () => {
    // Half of three decades above 200 Hz.
    expect(made({ reachPct: 50 }).run(10)[1]).toBeCloseTo(200 * 10 ** 1.5, -1);
    expect(made({ reachPct: 100 }).run(10)[1]).toBeCloseTo(20000, 3);
  });

  it('lets a number travel home when its link is taken away, and to where another carries it', () => {
    const { run, without } = made({ reachPct: 50 });
    run(10);
    without();
    expect(run(1)[1]).toBeGreaterThan(300);
    expect(run(40)[1]).toBeCloseTo(200, 6);
  });

  it('carries one way from the value, both ways round it, from where it is told to, along a bend', () => {
    const octaves = (link: Partial<Link>, value: number) =>
      Math.log10(made(link, { value }).run(1)[1] / 200) / 3;
    expect(octaves({ reachPct: 20 }, 0.25)).toBeCloseTo(0.05, 9);
    expect(octaves({ reachPct: 20, way: 'both ways' }, 0.25)).toBeCloseTo(-0.1, 9);
    expect(octaves({ reachPct: -20, way: 'both ways' }, 0.25)).toBeCloseTo(0.1, 9);
    expect(octaves({ reachPct: 40, fromPct: -20 }, 0.5)).toBeCloseTo(0.1, 9);
    // (e^(6·b·t) − 1)/(e^(6·b) − 1), as every bend.
    const bent = (t: number) => (Math.exp(3 * t) - 1) / (Math.exp(3) - 1);
    expect(octaves({ reachPct: 20, bend: 0.5 }, 0.25)).toBeCloseTo(0.2 * bent(0.25), 9);
    // Both ways it is the same to either side.
    expect(octaves({ reachPct: 20, bend: 0.5, way: 'both ways' }, 0.25)).toBeCloseTo(-0.2 * bent(0.5), 9);
  });

  it('carries left and right apart where a link is opposed', () => {
    const { bank, run } = made({ reachPct: 10, sides: 'opposed' }, { sided: true });
    run(1);
    expect(bank.value[1]).toBeCloseTo(200 * 10 ** 0.3, 6);
    expect(bank.right[1]).toBeCloseTo(200 * 10 ** -0.3, 6);
    expect(bank.right[0]).toBe(bank.value[0]);
  });

  // Each moves the cutoff alone; wobble-2 is moved itself, and so is the reach of its link.
  it.each(['wobble-1', 'envelope-1', 'steps-1', 'noise-1', 'touch-1', 'chance-1', 'wobble-2'])(
    'finds anew only what has moved, and misses nothing of what %s does',
    (mover) => {
      const movers = [
        ...(['wobble', 'envelope', 'steps', 'noise', 'touch', 'chance'] as const).map((kind) =>
          cleanMover(kind),
        ),
        cleanMover('wobble', { id: 'wobble-2', rateIn: 'hertz', rateHz: 3 }),
      ];
      const own = [
        cleanLink({ id: 'own', mover, target: 'layers.body.filters.0.cutoffHz', reachPct: 10 }),
        cleanLink({ id: 'rate', mover: 'touch-1', target: 'movers.wobble-2.rateHz' }),
        cleanLink({ id: 'reach', mover: 'steps-1', target: 'links.own.reachPct' }),
      ];
      const links = own.filter(({ id }) => id !== 'reach' || mover === 'wobble-2');
      const [one, all] = [0, 1].map(() => {
        const it = moving(movers, links);
        const numbers = new ParameterBank(rows, [-20, 200], RATE);
        const mine = it.document.links.map((link) => ({ ...link, on: !link.id.startsWith('cutoff') }));
        numbers.begin(bankLinks({ ...it.document, links: mine }, slotOf), [], it.bank);
        return { ...it, numbers };
      });
      for (let step = 0; step < 3000; step++) {
        for (const each of [one, all]) {
          if (step % 700 === 0) each.note({ velocity: 20 + (step % 90), source: step });
          each.bank.step(16);
          // One is told that all has moved.
          if (each === all) each.bank.changed[0] = -1;
          each.numbers.step(16, each.bank);
        }
        expect([...one.numbers.value]).toEqual([...all.numbers.value]);
      }
    },
  );

  it('follows a lane while the loop runs, and goes home when it stops', () => {
    const points = [
      { tick: 0, value: 0.5, bend: 0, hold: true },
      { tick: 100, value: 1, bend: 0, hold: true },
    ];
    const { run } = made(null, { lanes: [{ slot: 0, reader: laneReader({ points }) }] });
    // The level's row runs from −60 to 12 dB.
    expect(run(30, 0)[0]).toBeCloseTo(-24, 6);
    expect(run(30, 6000)[0]).toBeCloseTo(12, 6);
    expect(run(30)[0]).toBeCloseTo(-20, 6);
  });
});

describe('a lane', () => {
  const lane = (points: Partial<Lane['points'][number]>[]) => {
    const reader = laneReader({
      points: points.map((point) => ({ tick: 0, value: 0, bend: 0, hold: false, ...point })),
    });
    return (tick: number) => {
      const out = new Float64Array(1);
      reader.read(Float64Array.of(0, 0, tick), out, 0);
      return out[0];
    };
  };

  it('goes straight, bent or in steps from point to point, and comes round from the last to the first', () => {
    const at = lane([
      { tick: 100, value: 0.2 },
      { tick: 200, value: 0.6, hold: true },
      { tick: 300, value: 1, bend: 1 },
      { tick: 400, value: 0 },
    ]);
    expect([0, 99, 500].map(at)).toEqual([0, 0, 0]);
    expect(at(150)).toBeCloseTo(0.4, 12);
    expect([200, 299].map(at)).toEqual([0.6, 0.6]);
    expect(at(350)).toBeGreaterThan(0.9);
    expect(lane([{ tick: 50, value: 0.3 }])(10)).toBe(0.3);
  });

  it('takes the later of two points at one place', () => {
    expect(
      lane([{ value: 0.1 }, { tick: 100, value: 0.2 }, { tick: 100, value: 0.9 }, { tick: 200, value: 0.9 }])(
        100,
      ),
    ).toBe(0.9);
  });
});
