import { switchedBy, type SoundDocument, type Switched } from '../../document/index.js';
import type { Carriers } from './carriers.js';

/** Time in which something comes or goes, along a line bent at both ends: a corner would tick in a bare sub. */
const FADE_S = 0.01;

/** What a macro switches: from a value of it on, on or off. */
export interface SwitchRule {
  readonly slot: number;
  /** Place of the macro among all that moves. */
  readonly macro: number;
  readonly from: number;
  readonly on: boolean;
}

/** The rules by which macros switch what `slotOf` knows (−1 for what it does not). */
export function switchRules(document: SoundDocument, slotOf: (what: Switched) => number): SwitchRule[] {
  return document.macros.flatMap(({ switches }, m) =>
    switches.flatMap(({ target, fromPct, on }) => {
      const what = switchedBy(document, target);
      const slot = what ? slotOf(what) : -1;
      return slot < 0 ? [] : [{ slot, macro: document.movers.length + m, from: fromPct / 100, on }];
    }),
  );
}

/** Whether a rule switches its slot on as the macros stand. */
export const switchesOn = ({ macro, from, on }: SwitchRule, movers: Carriers): boolean =>
  movers.value[macro] >= from === on;

/** What may be switched, by the document or by macros: how far each is there, 0 to 1, without a click. */
export class Switches {
  readonly level: Float64Array;
  /** How far each has come on that line. */
  private readonly way: Float64Array;
  private readonly target: Float64Array;
  private readonly rate: number;
  private rules: readonly SwitchRule[] = [];
  private settled = true;

  /** @param names by which slots are known to another's. */
  constructor(
    private readonly names: readonly string[],
    sampleRateHz: number,
  ) {
    const slots = names.length;
    this.level = new Float64Array(slots).fill(1);
    this.way = new Float64Array(slots).fill(1);
    this.target = new Float64Array(slots).fill(1);
    this.rate = 1 / (FADE_S * sampleRateHz);
  }

  /** Takes what is on of itself, and the rules by which macros switch it. */
  set(on: readonly boolean[], rules: readonly SwitchRule[]): void {
    this.rules = rules;
    for (let s = 0; s < this.target.length; s++) this.target[s] = on[s] ? 1 : 0;
    this.settled = false;
  }

  /** Stands where it is to go. */
  begin(movers: Carriers): void {
    this.ask(movers);
    this.level.set(this.target);
    this.way.set(this.target);
  }

  copyFrom(other: Switches): void {
    this.names.forEach((name, s) => {
      const from = other.names.indexOf(name);
      if (from < 0) return;
      this.level[s] = other.level[from];
      this.way[s] = other.way[from];
    });
    this.settled = false;
  }

  private ask(movers: Carriers): void {
    const { rules, target } = this;
    for (let r = 0; r < rules.length; r++) {
      const to = switchesOn(rules[r], movers) ? 1 : 0;
      if (target[rules[r].slot] === to) continue;
      target[rules[r].slot] = to;
      this.settled = false;
    }
  }

  /** Whether nothing comes or goes now. */
  get still(): boolean {
    return this.settled;
  }

  step(frames: number, movers: Carriers): void {
    if (this.rules.length > 0) this.ask(movers);
    if (this.settled) return;
    const { level, way, target } = this;
    const step = frames * this.rate;
    this.settled = true;
    for (let s = 0; s < level.length; s++) {
      const rest = target[s] - way[s];
      if (rest === 0) continue;
      way[s] = rest > step ? way[s] + step : rest < -step ? way[s] - step : target[s];
      level[s] = way[s] * way[s] * (3 - 2 * way[s]);
      if (way[s] !== target[s]) this.settled = false;
    }
  }
}
