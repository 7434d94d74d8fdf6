import { numbersOfUnit } from '../../document/index.js';
import { unitKindOf, type GritUnit, type UnitStart } from '../../kinds/units/index.js';
import type { ChainRun } from './chain-run.js';
import { ChainTape } from './chain-tape.js';
import type { ControlSteps } from './control-steps.js';
import type { NoteMarks } from './note-marks.js';
import { UnitSlot } from './unit-slot.js';

/** How many numbers of a unit movers may reach. */
export const countOf = (unit: GritUnit): number => numbersOfUnit(unit).length;

/** Units in order. Those that are off are not built, but their numbers have their places. */
export class UnitChain {
  /** Whole frames by which the chain comes late. */
  readonly lateFrames: number;
  /** Whether its sides differ. */
  readonly stereo: boolean;
  /** By the units' ids. */
  readonly slots: ReadonlyMap<string, UnitSlot>;
  private readonly order: readonly UnitSlot[];
  /** The first that works on two sides; as many as there are where none does. */
  private readonly splitsAt: number;
  private readonly entersStereo: boolean;
  private tape: ChainTape | null = null;
  private run: ChainRun | null = null;

  /** @param at place of the first number of the first unit. */
  constructor(units: readonly GritUnit[], start: UnitStart, at: number, late = 0) {
    const slots = new Map<string, UnitSlot>();
    let { stereo } = start;
    let frames = late;
    let splitsAt = stereo ? 0 : Infinity;
    let place = at;
    for (const unit of units) {
      if (unit.on) {
        if (!stereo && unitKindOf(unit.kind).widens?.(unit)) {
          stereo = true;
          splitsAt = slots.size;
        }
        const slot = new UnitSlot(
          unit,
          { ...start, stereo, seed: seedFor(start.seed, unit.id) },
          frames,
          place,
          countOf(unit),
        );
        slots.set(unit.id, slot);
        frames += slot.lateFrames;
      }
      place += countOf(unit);
    }
    this.slots = slots;
    this.order = [...slots.values()];
    this.splitsAt = splitsAt;
    this.entersStereo = start.stereo;
    this.stereo = stereo;
    this.lateFrames = frames - late;
  }

  /** Writes down what it does from now on, over so many frames. */
  record(frames: number): ChainTape {
    return (this.tape = new ChainTape([...this.slots.keys()], frames));
  }

  /** Writes down what it gives from now on, or gives what was written down instead. */
  follow(run: ChainRun): void {
    this.run = run;
  }

  get empty(): boolean {
    return this.order.length === 0;
  }

  set(units: readonly GritUnit[]): void {
    for (const unit of units) this.slots.get(unit.id)?.set(unit);
  }

  /** Goes on from where the same units stand in another chain, by their ids. */
  copyFrom(other: UnitChain): void {
    for (const [id, slot] of this.slots) {
      const from = other.slots.get(id);
      if (from) slot.copyFrom(from);
    }
  }

  /**
   * Tells those who must know when the next note begins, and all where the loop does: the line stands at `place` at
   * the block's start.
   */
  await(marks: NoteMarks, place: number): void {
    for (let s = 0; s < this.order.length; s++) {
      const slot = this.order[s];
      if (place === 0) slot.comeRound();
      if (slot.ahead) marks.tell(place, slot.late, slot.ahead);
    }
  }

  /** Takes which numbers links carry: their units go step by step where steps are given. */
  takeMoved(moves: (at: number, count: number) => boolean): void {
    for (const slot of this.order) slot.moves = moves(slot.at, slot.count);
  }

  /**
   * Works on the samples from `from` up to `to` in place; `numbers` holds those of its units at the end, `steps`,
   * where they are given, those of every control step of a whole block. Where the sides do not differ going in,
   * `right` is only written to, from the unit on that makes them differ.
   */
  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    steps: ControlSteps | null = null,
  ): void {
    const { order, splitsAt, tape, run } = this;
    if (run?.plays) {
      run.process(left, right, from, to);
      return;
    }
    tape?.take(0, left, this.entersStereo ? right : left, from, to);
    for (let s = 0; s < order.length; s++) {
      if (s === splitsAt && !this.entersStereo) for (let i = from; i < to; i++) right[i] = left[i];
      const other = s < splitsAt ? left : right;
      const slot = order[s];
      if (steps && slot.moves) {
        for (let k = 0, start = 0; k < steps.count; start = steps.ends[k++])
          slot.process(left, other, start, steps.ends[k], steps.rows[k]);
      } else slot.process(left, other, from, to, numbers);
      tape?.take(s + 1, left, other, from, to);
    }
    tape?.advance(to - from);
    run?.process(left, right, from, to);
  }
}

/** A seed for each unit by its id, so that what is random in it stays as it is when it is moved. */
function seedFor(seed: number, id: string): number {
  let mixed = seed >>> 0;
  for (let i = 0; i < id.length; i++) mixed = Math.imul(mixed ^ id.charCodeAt(i), 0x01000193) >>> 0;
  return mixed;
}
