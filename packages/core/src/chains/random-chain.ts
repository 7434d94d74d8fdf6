import {
  fromPosition,
  toPosition,
  UNIT_NAMES,
  unitShape,
  type GritUnit,
  type UnitKind,
} from '../document/index.js';
import { Random } from '../dsp/index.js';
import type { GritRunOptions } from '../engine/index.js';
import { CHANCE_STAGES, unitKindOf, type UnitChance } from '../kinds/units/index.js';
import { anyDefault } from '../schema/default.js';
import { dbToGain } from '../units/index.js';
import { levelOf, matchedLevelDb, measuredThrough } from './measure-units.js';

/** How often a stage has none, one or two units. */
const COUNTS: Readonly<Record<UnitChance['stage'], readonly [none: number, one: number, two: number]>> = {
  press: [0.5, 0.5, 0],
  rough: [0, 0.6, 0.4],
  colour: [0.35, 0.65, 0],
  move: [0.3, 0.5, 0.2],
};

/** The kinds that chance takes, by their stages. */
const TAKEN = UNIT_NAMES.flatMap((kind) => {
  const { chance } = unitKindOf(kind);
  return chance ? [{ kind, ...chance }] : [];
});

function howMany(stage: UnitChance['stage'], random: Random): number {
  const [none, one] = COUNTS[stage];
  const drawn = random.next();
  return drawn < none ? 0 : drawn < none + one ? 1 : 2;
}

/** One of a stage's kinds by its weight, other than those that are there. */
function kindOf(stage: UnitChance['stage'], taken: readonly UnitKind[], random: Random): UnitKind | null {
  const open = TAKEN.filter((each) => each.stage === stage && !taken.includes(each.kind));
  let rest = random.next() * open.reduce((sum, { weight }) => sum + weight, 0);
  for (const { kind, weight } of open) {
    rest -= weight;
    if (rest < 0) return kind;
  }
  return null;
}

/** A unit of a kind, its numbers drawn within the kind's bounds, evenly on their own scales. */
function unitByChance(kind: UnitKind, random: Random): GritUnit {
  const shape = unitShape.cases[kind];
  const unit = anyDefault(shape) as GritUnit & Record<string, unknown>;
  for (const [field, [from, to]] of Object.entries(unitKindOf(kind).chance!.within)) {
    const row = (shape.fields as Record<string, unknown>)[field];
    if (!isNumber(row)) throw new TypeError(`${kind} has no number ${field}`);
    const [low, high] = [toPosition(row, from), toPosition(row, to)];
    const value = fromPosition(row, low + random.next() * (high - low));
    (unit as Record<string, unknown>)[field] = row.whole ? Math.round(value) : Number(value.toPrecision(4));
  }
  return unit;
}

type NumberRow = Parameters<typeof toPosition>[0];
const isNumber = (node: unknown): node is NumberRow =>
  (node as { kind?: string } | undefined)?.kind === 'number';

/**
 * A chain by chance, the same for the same seed: something that presses, one or two that roughen, something that
 * colours, what moves, in this order, each kind once and within its own bounds (`UnitKindSpec.chance`). Units of
 * `present` that are locked stay where they stand. There are no more than `most`.
 */
export function randomChain(seed: number, present: readonly GritUnit[], most: number): GritUnit[] {
  const random = new Random(seed, 100);
  const locked = present.flatMap((unit, at) => (unit.locked ? [{ unit, at }] : []));
  const taken: UnitKind[] = [];
  const drawn = CHANCE_STAGES.flatMap((stage) =>
    Array.from({ length: howMany(stage, random) }, () => {
      const kind = kindOf(stage, taken, random);
      if (kind) taken.push(kind);
      return kind ? [unitByChance(kind, random)] : [];
    }).flat(),
  ).slice(0, Math.max(0, most - locked.length));
  const chain = [...drawn];
  for (const { unit, at } of locked) chain.splice(Math.min(at, chain.length), 0, unit);
  const ids = new Set(locked.map(({ unit }) => unit.id));
  return chain.map((unit) => {
    if (locked.some((each) => each.unit === unit)) return unit;
    let n = 1;
    const name = unit.kind.replaceAll(' ', '-');
    while (ids.has(`${name}-${n}`)) n++;
    ids.add(`${name}-${n}`);
    return { ...unit, id: `${name}-${n}` };
  });
}

/** The same chain with the level of every unit that is not locked set so that none is louder than what goes in. */
export function matchedChain(
  units: readonly GritUnit[],
  channels: readonly Float32Array[],
  options: GritRunOptions,
): GritUnit[] {
  let audio = channels;
  return units.map((unit) => {
    const before = levelOf(audio, options.sampleRateHz);
    const { out, measured } = measuredThrough(unit, audio, before, options);
    audio = out;
    if (unit.locked) return unit;
    const levelDb = matchedLevelDb(unit, measured);
    // A unit's level comes last in it: what it would be at another is only louder or softer.
    const gain = dbToGain(levelDb - unit.levelDb);
    audio = out.map((side) => side.map((x) => gain * x));
    return { ...unit, match: true, levelDb };
  });
}
