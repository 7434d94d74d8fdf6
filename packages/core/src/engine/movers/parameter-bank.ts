import { toPosition, type NumberNode } from '../../document/index.js';
import type { MoverBank } from './mover-bank.js';

/**
 * A link inside a bank: which value it carries, which mover carries it, how far (a share of the row's range,
 * signed).
 */
export interface BankLink {
  readonly slot: number;
  readonly mover: number;
  readonly reach: number;
}

/**
 * Time constant of each of the two one-poles, one after the other, by which a changed parameter arrives: 95 %
 * of the way in 5 ms. The
 * second takes the corner off the beginning, which would be heard as a tick in a bare sub.
 */
const SETTLE_S = 0.005 / 4.74;

/**
 * The numbers that one part of the engine listens to. A changed number travels to its new value in about 5
 * ms, on its row's
 * own scale; links add what their movers say. Values are right at the end of each control step.
 */
export class ParameterBank {
  /** Present values, in the order of the rows. */
  readonly value: Float64Array;
  private readonly target: Float64Array;
  private readonly position: Float64Array;
  /** Where the first of the two one-poles stands. */
  private readonly lead: Float64Array;
  private readonly linked: Uint8Array;
  /** Columns of the links: which number, which mover, how far. */
  private linkSlot = new Int32Array(0);
  private linkMover = new Int32Array(0);
  private linkReach = new Float64Array(0);
  /** What the links add to each position. */
  private readonly carried: Float64Array;
  /** Whether every number stands where it is to go, but for what links carry. */
  private settled = false;
  private readonly rate: number;
  /** Least value and span of each row: natural logarithms where its scale is logarithmic. */
  private readonly least: Float64Array;
  private readonly span: Float64Array;
  private readonly logarithmic: Uint8Array;

  constructor(
    private readonly rows: readonly NumberNode[],
    values: readonly number[],
    links: readonly BankLink[],
    sampleRateHz: number,
  ) {
    this.value = Float64Array.from(values);
    this.target = Float64Array.from(rows, (row, i) => toPosition(row, values[i]));
    this.position = Float64Array.from(this.target);
    this.lead = Float64Array.from(this.target);
    this.linked = new Uint8Array(rows.length);
    this.carried = new Float64Array(rows.length);
    this.rate = 1 / (SETTLE_S * sampleRateHz);
    this.logarithmic = Uint8Array.from(rows, (row) => (row.scale === 'log' ? 1 : 0));
    this.least = Float64Array.from(rows, (row) => row.min);
    this.span = Float64Array.from(rows, (row) =>
      row.scale === 'log' ? Math.log(row.max / row.min) : row.max - row.min,
    );
    this.setLinks(links);
  }

  /** Takes other links. A number that no link carries any more travels home from where it was carried to. */
  setLinks(links: readonly BankLink[]): void {
    for (let i = 0; i < this.linked.length; i++) {
      const now = links.some((link) => link.slot === i) ? 1 : 0;
      if (this.linked[i] === 1 && now === 0)
        this.lead[i] = this.position[i] = toPosition(this.rows[i], this.value[i]);
      this.linked[i] = now;
    }
    this.linkSlot = Int32Array.from(links, (link) => link.slot);
    this.linkMover = Int32Array.from(links, (link) => link.mover);
    this.linkReach = Float64Array.from(links, (link) => link.reach);
    this.settled = false;
  }

  /** Whether any mover carries a number of this bank. */
  get listens(): boolean {
    return this.linkSlot.length > 0;
  }

  /** Sets where the numbers are to go, in the order of the rows. */
  setTargets(values: readonly number[]): void {
    for (let i = 0; i < values.length; i++) this.target[i] = toPosition(this.rows[i], values[i]);
    this.settled = false;
  }

  /**
   * Goes on from where another bank stands: `from[i]` is the other's place of this one's number i, below 0
   * where it has none.
   */
  copyFrom(other: ParameterBank, from: ArrayLike<number> = this.rows.map((_, i) => i)): void {
    for (let i = 0; i < this.value.length; i++) {
      const at = from[i];
      if (at < 0) continue;
      this.position[i] = other.position[at];
      this.lead[i] = other.lead[at];
      this.value[i] = other.value[at];
    }
    this.settled = false;
  }

  /** Moves the numbers on by `frames`, and the movers with them. */
  step(frames: number, movers: MoverBank): void {
    if (this.listens) movers.step(frames);
    else movers.wait(frames);
    if (this.settled && this.linkSlot.length === 0) return;
    if (this.settled) {
      // Only what is carried moves.
      this.refresh(movers);
      return;
    }
    this.carry(movers);
    const { value, target, lead, position, linked } = this;
    let settled = true;
    const settle = 1 - Math.exp(-frames * this.rate);
    for (let i = 0; i < value.length; i++) {
      const gap = target[i] - position[i];
      if (gap !== 0) {
        settled = false;
        lead[i] += settle * (target[i] - lead[i]);
        const rest = target[i] - lead[i];
        if (gap < 1e-7 && gap > -1e-7 && rest < 1e-7 && rest > -1e-7) lead[i] = position[i] = target[i];
        else position[i] += settle * (lead[i] - position[i]);
      } else if (linked[i] === 0) continue;
      this.place(i);
    }
    this.settled = settled;
  }

  /** Computes what links carry from where the movers stand, without moving on. */
  refresh(movers: MoverBank): void {
    const { linkSlot } = this;
    this.carry(movers);
    for (let l = 0; l < linkSlot.length; l++) this.place(linkSlot[l]);
  }

  private carry(movers: MoverBank): void {
    const { linkSlot, linkMover, linkReach, carried } = this;
    for (let l = 0; l < linkSlot.length; l++) carried[linkSlot[l]] = 0;
    for (let l = 0; l < linkSlot.length; l++)
      carried[linkSlot[l]] += linkReach[l] * movers.value[linkMover[l]];
  }

  /** Computes a number from where it stands and where it is carried. */
  private place(i: number): void {
    const { value, least, span } = this;
    let at = this.linked[i] === 1 ? this.position[i] + this.carried[i] : this.position[i];
    if (at < 0) at = 0;
    else if (at > 1) at = 1;
    value[i] = this.logarithmic[i] === 1 ? least[i] * Math.exp(at * span[i]) : least[i] + at * span[i];
  }
}
