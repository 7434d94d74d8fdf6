import { MACROS, MOST_SWITCHES } from '../../schema/bounds.js';
import { choice, flag, list, nullable, number, object, text, type Infer } from '../../schema/schema.js';
import { movable, whole } from '../../schema/shape-parts.js';
import type { MoverRunner } from './mover-kind.js';

/** What a macro switches: on from a value on and off below it, or the other way round. */
const switchShape = object({
  target: text(100, '', /^[A-Za-z0-9.-]{3,100}$/),
  fromPct: number('From', '%', 0.5, 100, 50, 'From this value of the macro on it is switched.', {
    step: 0.5,
  }),
  on: flag(true),
});

/** How a control of a MIDI controller tells its place: as it stands, or in steps, in one of three ways. */
export const CONTROL_WAYS = ['absolute', 'two’s complement', 'from 64', 'sign bit'] as const;

/** A control of a MIDI controller: `cc 74`, `bend`, `pressure` or `note pressure`; on a channel, or on any (0). */
export const controlShape = object({
  control: text(16, 'cc 1', /^(cc ([0-9]|[1-9][0-9]|1[01][0-9])|bend|pressure|note pressure)$/),
  channel: number('Channel', '', 0, 16, 0, 'MIDI channel; 0 is any.', whole),
  way: choice(CONTROL_WAYS, 'absolute'),
});

export const macroShape = object({
  /** Empty while it goes by its number. */
  name: text(40),
  valuePct: number('Macro', '%', 0, 100, 0, 'Where the macro stands.', { ...movable, step: 0.5 }),
  switches: list(switchShape, 0, MOST_SWITCHES),
  /** The control that moves it. */
  control: nullable(controlShape),
});

export type Macro = Infer<typeof macroShape>;
export type ControlBinding = Infer<typeof controlShape>;
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
