import { toPosition, type NumberNode } from '../../document/index.js';
import { bendInPlace } from '../../dsp/index.js';
import type { BankLane, BankLink } from './bank-links.js';
import type { Carriers } from './carriers.js';

/**
 * Time constant of each of the two one-poles, one after the other, by which a changed parameter arrives: 95 %
 * of the way in 5 ms. The
 * second takes the corner off the beginning, which would be heard as a tick in a bare sub.
 */
const SETTLE_S = 0.005 / 4.74;
/** A gap under this, as a share of the range, is none. */
const CLOSED = 1e-7;
/** The bits of all movers. */
const ALL = -1;
/**
 * What links and lanes say of one side: the sum of what links carry, and what is left of the gap between what
 * was carried before an edit and what is carried after it, which closes as a changed number travels.
 */
class Carried {
  readonly sum: Float64Array;
  /** What was carried before an edit. */
  readonly was: Float64Array;
  readonly gap: Float64Array;
  readonly gapLead: Float64Array;

  constructor(rows: number) {
    this.sum = new Float64Array(rows);
    this.was = new Float64Array(rows);
    this.gap = new Float64Array(rows);
    this.gapLead = new Float64Array(rows);
  }

  copyFrom(other: Carried, i: number, at: number): void {
    this.sum[i] = other.sum[at];
    this.gap[i] = other.gap[at];
    this.gapLead[i] = other.gapLead[at];
  }

  /** The gap of each number opens by as much as its sum is no longer what it was. */
  openAll(): void {
    const { sum, was, gap, gapLead } = this;
    for (let i = 0; i < sum.length; i++) {
      gap[i] += was[i] - sum[i];
      gapLead[i] += was[i] - sum[i];
    }
  }

  /** Closes the gap of a number by a share; says whether anything is left of it. */
  close(i: number, settle: number): boolean {
    const { gap, gapLead } = this;
    if (gap[i] === 0 && gapLead[i] === 0) return false;
    gapLead[i] -= settle * gapLead[i];
    gap[i] += settle * (gapLead[i] - gap[i]);
    if (gap[i] > CLOSED || gap[i] < -CLOSED || gapLead[i] > CLOSED || gapLead[i] < -CLOSED) return true;
    gap[i] = gapLead[i] = 0;
    return false;
  }
}

/** Places of numbers, rising, and for each of them a bit for every mover and macro that carries it. */
interface Slots {
  readonly at: Int32Array;
  readonly movers: Int32Array;
}

/**
 * The links that carry, number after number: those of linked number s begin at `start[s]`, the bent ones among them
 * at `bent[s]`. `fixed` is what the straight ones carry when their movers are all the way down; `mover`, `place` and
 * `link` say of each whose it is, where it stands in the document, and its column.
 */
interface Runs {
  readonly start: Int32Array;
  readonly bent: Int32Array;
  readonly fixed: Float64Array;
  readonly mover: Int32Array;
  readonly place: Int32Array;
  readonly link: Int32Array;
}

const runsOf = (slots: number, links: number): Runs => ({
  start: new Int32Array(slots + 1),
  bent: new Int32Array(slots),
  fixed: new Float64Array(slots),
  mover: new Int32Array(links),
  place: new Int32Array(links),
  link: new Int32Array(links),
});

/**
 * The numbers that one part of the engine listens to. A changed number travels to its new value in about 5
 * ms, on its row's
 * own scale, and so does what an edit makes of a link; lanes say where a number stands, links add what their
 * movers say. Values are right at the end of each control step.
 */
export class ParameterBank {
  /** Present values, in the order of the rows. */
  readonly value: Float64Array;
  /** The same for the right side: the same array where no link carries the two apart. */
  readonly right: Float64Array;
  /** Where each number stands with all that carries it, 0 to 1: of the left side. */
  readonly place: Float64Array;
  /** Where the document has the numbers, and where they are to go now. */
  private readonly base: Float64Array;
  private readonly target: Float64Array;
  private readonly position: Float64Array;
  /** Where the first of the two one-poles stands. */
  private readonly lead: Float64Array;
  private readonly carried: readonly Carried[];
  /** Columns of the links, sorted by the number that they reach; those of number i begin at `starts[i]`. */
  private links: readonly BankLink[] = [];
  private readonly starts: Int32Array;
  /** The numbers that links reach, and all of them. */
  private linkedSlots: Slots = { at: new Int32Array(0), movers: new Int32Array(0) };
  private readonly allSlots: Slots;
  private linkMover = new Int32Array(0);
  private linkPlace = new Int32Array(0);
  private linkFrom = new Float64Array(0);
  /** What carries now. */
  private runs: Runs = runsOf(0, 0);
  private linkBend = new Float64Array(0);
  private linkBoth = new Uint8Array(0);
  private linkOpposed = new Uint8Array(0);
  private lanes: readonly BankLane[] = [];
  /** Whether every number stands where it is to go, but for what links carry. */
  private settled = false;
  /** Whether any gap is open. */
  private mending = false;
  private readonly rate: number;
  /** Least value and span of each row: natural logarithms where its scale is logarithmic. */
  private readonly least: Float64Array;
  private readonly span: Float64Array;
  private readonly logarithmic: Uint8Array;
  /** How many gaps are open in this step. */
  private readonly open = new Int32Array(1);
  /** How often links had been switched when it looked last. */
  private readonly switched = new Int32Array(1);
  /** What a link carries, and a bend with the progress before it. */
  private readonly scratch = new Float64Array(3);

  constructor(
    private readonly rows: readonly NumberNode[],
    values: readonly number[],
    sampleRateHz: number,
    sided = false,
  ) {
    const count = rows.length;
    this.value = Float64Array.from(values);
    this.right = sided ? Float64Array.from(values) : this.value;
    this.base = Float64Array.from(rows, (row, i) => toPosition(row, values[i]));
    this.target = Float64Array.from(this.base);
    this.position = Float64Array.from(this.base);
    this.lead = Float64Array.from(this.base);
    this.place = Float64Array.from(this.base);
    this.carried = Array.from({ length: sided ? 2 : 1 }, () => new Carried(count));
    this.allSlots = { at: Int32Array.from(rows, (_row, i) => i), movers: new Int32Array(count).fill(ALL) };
    this.starts = new Int32Array(count + 1);
    this.rate = 1 / (SETTLE_S * sampleRateHz);
    this.logarithmic = Uint8Array.from(rows, (row) => (row.scale === 'log' ? 1 : 0));
    this.least = Float64Array.from(rows, (row) => row.min);
    this.span = Float64Array.from(rows, (row) =>
      row.scale === 'log' ? Math.log(row.max / row.min) : row.max - row.min,
    );
  }

  /** Takes the links and lanes that it begins with: nothing travels to where they carry. */
  begin(links: readonly BankLink[], lanes: readonly BankLane[], movers: Carriers): void {
    this.takeLinks(links);
    this.lanes = lanes;
    this.findRuns(movers);
    this.sumUp(0, this.rows.length, ALL, movers);
  }

  /**
   * Finds which links carry at all, the straight ones of each number before those that bend or go round its value.
   * Movers are switched by edits, links by macros: both are mended.
   */
  private findRuns({ on, linkOn }: Carriers): void {
    const { starts, runs, linkMover, linkPlace, linkFrom, linkBoth, linkBend } = this;
    const { at } = this.linkedSlots;
    let k = 0;
    for (let s = 0; s < at.length; s++) {
      runs.start[s] = k;
      runs.fixed[s] = 0;
      for (let bent = 0; bent < 2; bent++) {
        if (bent === 1) runs.bent[s] = k;
        for (let l = starts[at[s]]; l < starts[at[s] + 1]; l++) {
          if (on[linkMover[l]] === 0 || linkOn[linkPlace[l]] === 0) continue;
          if ((linkBoth[l] === 1 || linkBend[l] !== 0 ? 1 : 0) !== bent) continue;
          if (bent === 0) runs.fixed[s] += linkFrom[l];
          runs.mover[k] = linkMover[l];
          runs.place[k] = linkPlace[l];
          runs.link[k++] = l;
        }
      }
    }
    runs.start[at.length] = k;
  }

  /**
   * Takes other links and lanes. What they, or their movers (`moved`), carry otherwise than before is travelled
   * to.
   */
  setLinks(links: readonly BankLink[], lanes: readonly BankLane[], movers: Carriers, moved: boolean): void {
    this.lanes = lanes;
    const same = sameLinks(links, this.links);
    if (same && !moved) return;
    if (!same) this.takeLinks(links);
    this.mend(movers);
  }

  private takeLinks(links: readonly BankLink[]): void {
    this.links = links;
    const sorted = [...links].sort((a, b) => a.slot - b.slot);
    this.linkMover = Int32Array.from(sorted, ({ mover }) => mover);
    this.linkPlace = Int32Array.from(sorted, ({ link }) => link);
    this.linkFrom = Float64Array.from(sorted, ({ from }) => from);
    this.linkBend = Float64Array.from(sorted, ({ bend }) => bend);
    this.linkBoth = Uint8Array.from(sorted, ({ both }) => (both ? 1 : 0));
    this.linkOpposed = Uint8Array.from(sorted, ({ opposed }) => (opposed ? 1 : 0));
    const at = Int32Array.from(new Set(sorted.map(({ slot }) => slot)));
    this.linkedSlots = {
      at,
      movers: at.map((i) =>
        sorted.reduce((bits, { slot, mover }) => (slot === i ? bits | (1 << mover) : bits), 0),
      ),
    };
    this.runs = runsOf(at.length, sorted.length);
    this.starts.fill(0);
    for (const { slot } of sorted) this.starts[slot + 1]++;
    for (let i = 0; i < this.rows.length; i++) this.starts[i + 1] += this.starts[i];
  }

  /** What links carry now that was carried otherwise just before is travelled to. */
  mend(movers: Carriers): void {
    const { carried } = this;
    for (const { was, sum } of carried) {
      was.set(sum);
      sum.fill(0);
    }
    this.findRuns(movers);
    this.sumUp(0, this.rows.length, ALL, movers);
    for (const each of carried) each.openAll();
    this.mending = true;
  }

  /** Whether any mover carries a number of this bank. */
  get linked(): boolean {
    return this.linkedSlots.at.length > 0;
  }

  /** Whether nothing moves but by movers. */
  get still(): boolean {
    return this.settled && !this.mending;
  }

  /** Whether a number from one place up to another is carried by a link. */
  carries(from: number, to: number): boolean {
    return this.starts[to] > this.starts[from];
  }

  /** Sets where the numbers are to go, in the order of the rows. */
  setTargets(values: readonly number[]): void {
    const { base, target, rows } = this;
    for (let i = 0; i < values.length; i++) target[i] = base[i] = toPosition(rows[i], values[i]);
    this.settled = false;
  }

  /**
   * Goes on from where another bank stands: `from[i]` is the other's place of this one's number i, below 0
   * where it has none.
   */
  copyFrom(other: ParameterBank, from: ArrayLike<number>, movers: Carriers): void {
    for (let i = 0; i < this.value.length; i++) {
      const at = from[i];
      if (at < 0) continue;
      this.position[i] = other.position[at];
      this.lead[i] = other.lead[at];
      this.value[i] = other.value[at];
      this.place[i] = other.place[at];
      if (this.right !== this.value) this.right[i] = other.right[at];
      this.carried.forEach((carried, side) => {
        carried.copyFrom(other.carried[side < other.carried.length ? side : 0], i, at);
      });
    }
    this.settled = false;
    this.mend(movers);
  }

  /** A number stands where it is to go at once. */
  jump(i: number): void {
    this.lead[i] = this.position[i] = this.target[i];
    this.stand(this.allSlots, i, i + 1, ALL);
  }

  /** Moves the numbers on by `frames` to where the movers carry them. */
  step(frames: number, movers: Carriers): void {
    if (movers.switched[0] !== this.switched[0]) {
      this.switched[0] = movers.switched[0];
      this.mend(movers);
    }
    this.travel(frames, movers.inputs.place);
    this.carry(0, this.rows.length, frames, movers);
    this.arrive();
    movers.changed[0] = 0;
  }

  /** Moves the numbers themselves on by `frames`; lanes say where they are to go. */
  travel(frames: number, place: Float64Array): void {
    if (this.lanes.length > 0) this.readLanes(place);
    if (this.settled) return;
    const { target, lead, position } = this;
    let settled = true;
    const settle = 1 - Math.exp(-frames * this.rate);
    for (let i = 0; i < target.length; i++) {
      const gap = target[i] - position[i];
      if (gap === 0) continue;
      settled = false;
      lead[i] += settle * (target[i] - lead[i]);
      const rest = target[i] - lead[i];
      if (gap < CLOSED && gap > -CLOSED && rest < CLOSED && rest > -CLOSED) lead[i] = position[i] = target[i];
      else position[i] += settle * (lead[i] - position[i]);
    }
    this.settled = settled;
    // Once more, so that the last of the way is placed as well.
    this.mending = true;
  }

  private readLanes(place: Float64Array): void {
    const { lanes, target, base, scratch } = this;
    for (let l = 0; l < lanes.length; l++) {
      const { slot, reader } = lanes[l];
      scratch[0] = base[slot];
      if (place[0] >= 0) reader.read(place, scratch, 0);
      if (scratch[0] === target[slot]) continue;
      target[slot] = scratch[0];
      this.settled = false;
    }
  }

  /**
   * Finds what links carry of the numbers from one place up to another, and where these stand then; says whether
   * any may stand elsewhere than before.
   */
  carry(from: number, to: number, frames: number, movers: Carriers): boolean {
    if (!this.mending) return this.carryLinked(from, to, movers.changed[0], movers);
    const settle = 1 - Math.exp(-frames * this.rate);
    this.sumUp(from, to, ALL, movers);
    for (let i = from; i < to; i++) {
      for (let side = 0; side < this.carried.length; side++) {
        this.open[0] += this.carried[side].close(i, settle) ? 1 : 0;
      }
    }
    this.stand(this.allSlots, from, to, ALL);
    return true;
  }

  /** Finds anew what is linked to any of the movers in `bits`; says whether that is anything. */
  private carryLinked(from: number, to: number, bits: number, movers: Carriers): boolean {
    if (bits === 0 || !this.sumUp(from, to, bits, movers)) return false;
    this.stand(this.linkedSlots, from, to, bits);
    return true;
  }

  /** All numbers have been carried. */
  arrive(): void {
    if (!this.mending) return;
    this.mending = this.open[0] > 0 || !this.settled;
    this.open[0] = 0;
  }

  /** Computes what links carry from where the movers stand, without moving on. */
  refresh(movers: Carriers): void {
    this.carryLinked(0, this.rows.length, ALL, movers);
  }

  /**
   * Adds up what the links of those numbers carry that are linked to any of the movers in `bits`; says whether
   * there are any. The arrays stand in constants and the loop in here: this is run at every control step.
   */
  private sumUp(from: number, to: number, bits: number, movers: Carriers): boolean {
    const { linkedSlots, scratch } = this;
    const { at, movers: carriers } = linkedSlots;
    const { start, bent, fixed, mover, place, link } = this.runs;
    const { span, value } = movers;
    const { sum } = this.carried[0];
    let any = false;
    for (let s = 0; s < at.length; s++) {
      if (at[s] < from || at[s] >= to || (carriers[s] & bits) === 0) continue;
      any = true;
      let carries = fixed[s];
      for (let k = start[s]; k < bent[s]; k++) carries += span[place[k]] * value[mover[k]];
      for (let k = bent[s]; k < start[s + 1]; k++) {
        this.bend(link[k], movers);
        carries += scratch[0];
      }
      sum[at[s]] = carries;
      if (this.carried.length > 1) this.sumUpRight(s, movers);
    }
    return any;
  }

  /** Of the right side: links that carry the two apart take there what they give to the left. */
  private sumUpRight(s: number, movers: Carriers): void {
    const { linkOpposed, scratch, carried } = this;
    const { start, link } = this.runs;
    const i = this.linkedSlots.at[s];
    let sum = carried[0].sum[i];
    for (let k = start[s]; k < start[s + 1]; k++) {
      if (linkOpposed[link[k]] === 0) continue;
      this.bend(link[k], movers);
      sum -= 2 * scratch[0];
    }
    carried[1].sum[i] = sum;
  }

  /** Writes what a link carries to the scratch, by its bend, and from its value both ways where it goes so. */
  private bend(l: number, { reach, value }: Carriers): void {
    const { scratch, linkBend, linkBoth } = this;
    let from = this.linkFrom[l];
    let at = value[this.linkMover[l]];
    let far = reach[this.linkPlace[l]];
    if (linkBoth[l] === 1) {
      // The nearer half of the mover's way carries it to the other side.
      from = 0;
      at = 2 * at - 1;
      if (at < 0) {
        at = -at;
        far = -far;
      }
    }
    scratch[1] = at;
    scratch[2] = linkBend[l];
    if (linkBend[l] !== 0) bendInPlace(scratch, 1);
    scratch[0] = from + (far - from) * scratch[1];
  }

  /** Computes those numbers from where they stand and where they are carried. */
  private stand(slots: Slots, from: number, to: number, bits: number): void {
    const { value, right, carried } = this;
    if (right !== value) this.standOn(slots, from, to, bits, carried[1], right);
    this.standOn(slots, from, to, bits, carried[0], value);
  }

  private standOn(
    slots: Slots,
    from: number,
    to: number,
    bits: number,
    { sum, gap }: Carried,
    value: Float64Array,
  ): void {
    const { position, least, span, logarithmic, place } = this;
    // All of them stand at their own places.
    for (let s = slots === this.allSlots ? from : 0; s < slots.at.length; s++) {
      const i = slots.at[s];
      if (i >= to) return;
      if (i < from || (slots.movers[s] & bits) === 0) continue;
      let at = position[i] + sum[i] + gap[i];
      if (at < 0) at = 0;
      else if (at > 1) at = 1;
      const way = at * span[i];
      value[i] = logarithmic[i] === 1 ? least[i] * Math.exp(way) : least[i] + way;
      place[i] = at;
    }
  }
}

const sameLinks = (a: readonly BankLink[], b: readonly BankLink[]) =>
  a.length === b.length &&
  a.every((link, i) => {
    const other = b[i];
    return (
      link.slot === other.slot &&
      link.mover === other.mover &&
      link.link === other.link &&
      link.reach === other.reach &&
      link.from === other.from &&
      link.bend === other.bend &&
      link.both === other.both &&
      link.opposed === other.opposed
    );
  });
