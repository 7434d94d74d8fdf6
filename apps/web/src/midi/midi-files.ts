import {
  MACRO_IDS,
  MOST_LANES,
  type Lane,
  type MidiControl,
  type MidiLane,
  type SoundDocument,
} from '@abyssal/core';
import { bindingsOf, type Bound } from './bindings';

/** Controllers of the macros that no control is bound to, from the first macro on: those of the simulated faders. */
const MACROS_FROM = 20;
/** Controllers that MIDI 1.0 leaves undefined, for parameters that no control is bound to. */
const PARAMETERS_FROM = 102;
const PARAMETERS_TO = 119;

const macroTarget = (index: number) => `macros.${MACRO_IDS[index]}.valuePct`;

/** The lanes of a sound for a MIDI file, each by the control that it is bound to, or by one that is free. */
export function lanesOut(document: SoundDocument, ofBrowser: readonly Bound[]): MidiLane[] {
  const bound = new Map(
    bindingsOf(document, ofBrowser).map(({ target, control }) => [target, control as MidiControl]),
  );
  let next = PARAMETERS_FROM;
  return document.lanes.flatMap(({ on, target, points }): MidiLane[] => {
    if (!on) return [];
    const macro = MACRO_IDS.findIndex((_id, i) => macroTarget(i) === target);
    const control = bound.get(target) ?? (macro >= 0 ? (`cc ${MACROS_FROM + macro}` as const) : null);
    if (control) return [{ control, points }];
    return next > PARAMETERS_TO ? [] : [{ control: `cc ${next++}`, points }];
  });
}

/**
 * What the controls of a MIDI file move in a sound, as lanes in place of those that are there for the same; and
 * the controls that nothing is bound to.
 */
export function lanesIn(
  document: SoundDocument,
  found: readonly MidiLane[],
  ofBrowser: readonly Bound[],
): { readonly lanes: Lane[]; readonly left: string[] } {
  const bindings = bindingsOf(document, ofBrowser);
  const taken: Lane[] = [];
  const left: string[] = [];
  for (const { control, points } of found) {
    const number = Number(control.startsWith('cc ') ? control.slice(3) : NaN) - MACROS_FROM;
    const target =
      bindings.find((each) => each.control === control)?.target ??
      (number >= 0 && number < MACRO_IDS.length ? macroTarget(number) : null);
    if (target === null) left.push(control);
    else taken.push({ target, on: true, points: [...points] });
  }
  const kept = document.lanes.filter(({ target }) => !taken.some((lane) => lane.target === target));
  return { lanes: [...kept, ...taken].slice(0, MOST_LANES), left };
}
