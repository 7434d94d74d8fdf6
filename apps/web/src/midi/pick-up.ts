/** A control that stands this near to a value has it, as a share of the range. */
const NEAR = 0.02;

/** Where a control stood last, and the value it set; null before the first time. */
interface Last {
  readonly at: number;
  readonly set: number | null;
}

/**
 * Picks values up without a jump: a control moves a value only from where it has reached it, or passed it, and
 * as long as nothing else has moved that value since.
 */
export class PickUp {
  private readonly last = new Map<string, Last>();

  /** A control of a target goes to a place, 0 to 1, while the value stands at another: whether it takes it along. */
  takes(target: string, at: number, stands: number): boolean {
    const last = this.last.get(target);
    const holds = last !== undefined && last.set !== null && Math.abs(last.set - stands) < 1e-6;
    const passed = last !== undefined && (last.at - stands) * (at - stands) <= 0;
    const takes = holds || passed || Math.abs(at - stands) < NEAR;
    this.last.set(target, { at, set: null });
    return takes;
  }

  /** The value that was set stands here now: as whole steps of its row may have rounded it. */
  stands(target: string, at: number): void {
    const last = this.last.get(target);
    if (last) this.last.set(target, { ...last, set: at });
  }
}
