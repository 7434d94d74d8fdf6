import { MACROS, MOST_SWITCHES } from '../../schema/bounds.js';
import { flag, list, number, object, text, type Infer } from '../../schema/schema.js';
import { movable } from '../../schema/shape-parts.js';
import type { MoverRunner } from './mover-kind.js';

/** What a macro switches: on from a value on and off below it, or the other way round. */
const switchShape = object({
  target: text(100, '', /^[A-Za-z0-9.-]{3,100}$/),
  fromPct: number('From', '%', 0.5, 100, 50, 'From this value of the macro on it is switched.', { step: 0.5 }),
  on: flag(true),
});

export const macroShape = object({
  /** Empty while it goes by its number. */
  name: text(40),
  valuePct: number('Macro', '%', 0, 100, 0, 'Where the macro stands.', { ...movable, step: 0.5 }),
  switches: list(switchShape, 0, MOST_SWITCHES),
});

export type Macro = Infer<typeof macroShape>;
export type MacroSwitch = Macro['switches'][number];

/** Ids by which links and lanes know the macros, in their order. */
export const MACRO_IDS: readonly string[] = Array.from({ length: MACROS }, (_, i) => `macro-${i + 1}`);

/** A macro under way: it stands where its number does. */
export class MacroRunner implements MoverRunner<Macro> {
  private readonly state = new Float64Array(1);

  set(): void {
    // Its only number comes by `tune`.
  }

  tune(numbers: Float64Array, at: number): void {
    this.state[0] = numbers[at] / 100;
  }

  copyFrom(other: MacroRunner): void {
    this.state.set(other.state);
  }

  tell(values: Float64Array, at: number): void {
    values[at] = this.state[0];
  }

  step(_frames: number, values: Float64Array, at: number): void {
    this.tell(values, at);
  }
}
