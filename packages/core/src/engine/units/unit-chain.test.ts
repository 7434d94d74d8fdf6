import { UNIT_NAMES, unitShape, type GritUnit } from '../../document/index.js';
import { Random } from '../../dsp/index.js';
import { unitKindOf } from '../../kinds/units/index.js';
import { anyDefault } from '../../schema/default.js';
import type { SchemaNode } from '../../schema/schema.js';
import { aloneWith, numbersFor, rmsOf, through, unitOf } from '../../testing/chain.js';
import { noise, RATE, saw } from '../../testing/signals.js';
import { chainLate } from './late-frames.js';
import { UnitChain } from './unit-chain.js';

/** A value of a node by chance: numbers anywhere in their range, one in three at an end. */
function byChance(node: SchemaNode, random: Random): unknown {
  switch (node.kind) {
    case 'number': {
      const end = random.next() < 1 / 3;
      const t = end ? Math.round(random.next()) : random.next();
      const value =
        node.scale === 'log' ? node.min * (node.max / node.min) ** t : node.min + t * (node.max - node.min);
      return node.whole ? Math.round(value) : Math.min(node.max, Math.max(node.min, value));
    }
    case 'choice':
      return node.options[Math.floor(random.next() * node.options.length)];
    case 'flag':
      return random.next() < 0.7;
    case 'list':
      return Array.from({ length: node.max }, () => byChance(node.of, random));
    case 'object':
      return Object.fromEntries(
        Object.entries(node.fields).map(([key, field]) => [key, byChance(field, random)]),
      );
    default:
      return anyDefault(node);
  }
}
const randomUnit = (kind: (typeof UNIT_NAMES)[number], seed: number): GritUnit =>
  ({
    ...(byChance(unitShape.cases[kind], new Random(seed)) as object),
    kind,
    on: true,
  }) as GritUnit;

describe('any unit', () => {
  const loud = saw(55, 0.4, { belowHz: 8000 });
  const hiss = noise(loud.length, 7);

  it.each(UNIT_NAMES)(
    '%s stays finite and bounded at any settings, and falls silent after its input',
    (kind) => {
      for (let seed = 1; seed <= 10; seed++) {
        const { id: _id, ...unit } = randomUnit(kind, seed);
        const x = [loud, hiss].map((side) =>
          Float32Array.from({ length: 3 * loud.length }, (_, i) => side[i] ?? 0),
        );
        const y = through(x, [unit]);
        for (const side of y) {
          expect(side.every(Number.isFinite)).toBe(true);
          expect(side.reduce((most, v) => Math.max(most, Math.abs(v)), 0)).toBeLessThan(2000);
        }
      }
    },
  );

  it.each(UNIT_NAMES)('%s gives the same for the same seed, in mono as in two equal sides', (kind) => {
    const { id: _id, ...unit } = unitOf(kind);
    const [mono] = through(loud, [unit]);
    const [left] = through([loud, loud], [unit]);
    expect(through(loud, [unit])[0]).toEqual(mono);
    for (let i = 0; i < mono.length; i += 97) expect(Math.abs(mono[i] - left[i])).toBeLessThan(1e-6);
  });

  it.each(UNIT_NAMES)('%s goes on from where another stands', (kind) => {
    const unit = unitOf(
      kind,
      kind === 'combs'
        ? { combs: [{}] }
        : kind === 'equaliser'
          ? { sections: [{ gainDb: 9, way: 'tail' }] }
          : {},
    );
    const run = (chain: UnitChain, from: number, to: number) => {
      const out: number[] = [];
      const [left, right] = [new Float64Array(64), new Float64Array(64)];
      for (let at = from; at < to; at += 16) {
        for (let i = 0; i < 16; i++) left[i] = right[i] = loud[at + i];
        chain.process(left, right, 0, 16, numbersFor(unit));
        out.push(...left.subarray(0, 16));
      }
      return out;
    };
    const first = new UnitChain([unit], aloneWith(), 0);
    const next = new UnitChain([unit], aloneWith(), 0);
    run(first, 0, 4800);
    next.copyFrom(first);
    const [a, b] = [run(first, 4800, 6400), run(next, 4800, 6400)];
    a.forEach((v, i) => {
      expect(Math.abs(v - b[i])).toBeLessThan(1e-9);
    });
  });

  it.each(UNIT_NAMES)('every number of %s is heard', (kind) => {
    const start: Record<string, object> = {
      combs: { combs: [{ tuned: 'free' }] },
      equaliser: {
        sections: [
          { gainDb: 9, way: 'wandering' },
          { gainDb: -9, way: 'tail' },
        ],
      },
      compressor: { thresholdDb: -40, sideHighHz: 90 },
      filter: { mode: 'vowel', resonancePct: 40 },
      delay: { timing: 'ms', ms: 30, driveDb: 3 },
      pan: { panPct: 50 },
      'glare control': { mostDb: 3 },
      'multiband compressor': { bands: '4' },
      crush: { bits: 5 },
    };
    // With a peak at 3 kHz, for what looks for one.
    const peak = { kind: 'equaliser', sections: [{ hz: 3000, gainDb: 15, q: 6 }] };
    const softer = (x: number, i: number) => (i < 9600 ? x : 0.05 * x);
    const hit = through(loud, [peak])[0].map(softer);
    const beside = hiss.map(softer);
    const moved = (unit: GritUnit) => {
      const chain = new UnitChain([unit], { ...aloneWith({ hz: Float64Array.of(87) }), stereo: true }, 0);
      const marks = {
        tell: (place: number, _late: number, out: Float64Array) => (out[0] = 9600 - (place % 9600)),
      };
      const numbers = numbersFor(unit);
      const out = new Float64Array(2 * hit.length);
      const [left, right] = [new Float64Array(16), new Float64Array(16)];
      for (let at = 0; at < hit.length; at += 16) {
        for (let i = 0; i < 16; i++) {
          left[i] = hit[at + i];
          right[i] = 0.7 * hit[at + i] + 0.2 * beside[at + i];
        }
        chain.await(marks as never, at);
        chain.process(left, right, 0, 16, numbers);
        out.set(left, 2 * at);
        out.set(right, 2 * at + 16);
      }
      return out;
    };
    const base = {
      ...start[kind],
      wetPct: 60,
      ...((unitShape.cases[kind].fields as object) && 'emphasisDb' in unitShape.cases[kind].fields
        ? { emphasisDb: 6 }
        : {}),
    };
    const unit = unitOf(kind, base);
    const before = moved(unit);
    const idle = unitKindOf(kind).idle?.(unit as never) ?? [];
    for (const [field, node] of movable(unitShape.cases[kind])) {
      if (idle.includes(field)) continue;
      const changed = structuredClone(unit) as unknown as Record<string, unknown>;
      set(changed, field, node.default === node.max ? (node.min + node.max) / 2 : node.max);
      const off = moved(changed as unknown as GritUnit).map((v, i) => v - before[i]);
      expect([field, rmsOf(off) > 1e-6]).toEqual([field, true]);
    }
  });
});

/** The numbers of a shape that movers may reach, by their fields. */
function movable(node: SchemaNode, at = ''): [string, SchemaNode & { kind: 'number' }][] {
  switch (node.kind) {
    case 'number':
      return node.movable ? [[at, node]] : [];
    case 'object':
      return Object.entries(node.fields).flatMap(([key, field]) => movable(field, at ? `${at}.${key}` : key));
    case 'list':
      return Array.from({ length: node.max }, (_, i) => movable(node.of, `${at}.${i}`)).flat();
    default:
      return [];
  }
}
function set(unit: Record<string, unknown>, field: string, value: number): void {
  const parts = field.split('.');
  const last = parts.pop()!;
  const inner = parts.reduce((part, key) => part[key] as Record<string, unknown>, unit);
  inner[last] = value;
}

it.each(UNIT_NAMES)('%s says beforehand by how much it comes late', (kind) => {
  for (const unit of [
    unitOf(kind),
    ...(kind === 'compressor' || kind === 'limiter' ? [unitOf(kind, { lookAheadMs: 4.2 })] : []),
  ])
    for (const sampleRateHz of [44100, 48000, 96000]) {
      const chain = new UnitChain([unit], { ...aloneWith(), sampleRateHz }, 0);
      expect(chain.lateFrames).toBe(chainLate([unit], sampleRateHz));
    }
});

it('a unit keeps what is random in it when it is moved, and two of a kind differ', () => {
  const x = noise(RATE / 2, 3);
  const hissing = (id: string) => ({ kind: 'tape', id, hissDb: -40 });
  const still = { kind: 'tilt', id: 'still', tiltDb: 0 };
  const [first] = through(x, [hissing('a'), still]);
  const [moved] = through(x, [still, hissing('a')]);
  expect(rmsOf(first.map((v, i) => v - moved[i]))).toBeLessThan(1e-6);
  const [other] = through(x, [hissing('b')]);
  expect(rmsOf(first.map((v, i) => v - other[i]))).toBeGreaterThan(1e-3);
});
