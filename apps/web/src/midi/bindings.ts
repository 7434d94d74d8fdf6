import { CONTROL_WAYS, MACRO_IDS, type ControlBinding, type SoundDocument } from '@abyssal/core';
import { create } from 'zustand';
import { edit, useDocumentStore } from '../state/document-store';

/** A control and what it moves. */
export interface Bound extends ControlBinding {
  readonly target: string;
}

const KEY = 'abyssal.controls';

/** Bindings to parameters as this browser keeps them; what cannot be read is none. */
function kept(): Bound[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(found) ? found.filter(isBound) : [];
  } catch {
    return [];
  }
}

function isBound(value: unknown): value is Bound {
  if (typeof value !== 'object' || value === null) return false;
  const { target, control, channel, way } = value as Partial<Record<keyof Bound, unknown>>;
  return (
    typeof target === 'string' &&
    typeof control === 'string' &&
    typeof channel === 'number' &&
    (CONTROL_WAYS as readonly unknown[]).includes(way)
  );
}

interface ControlsState {
  /** Bindings to parameters: they stay with the browser, those to macros go with the sound. */
  readonly ofBrowser: readonly Bound[];
  /** The target that waits for a control to be moved; null while none does. */
  readonly learning: string | null;
  /** What a controller has said last, in words. */
  readonly heard: string | null;
}

export const useControls = create<ControlsState>(() => ({ ofBrowser: kept(), learning: null, heard: null }));

useControls.subscribe(({ ofBrowser }, before) => {
  if (ofBrowser === before.ofBrowser) return;
  try {
    localStorage.setItem(KEY, JSON.stringify(ofBrowser));
  } catch {
    // A browser that keeps nothing forgets them with the page.
  }
});

const macroOf = (target: string) => MACRO_IDS.findIndex((id) => target === `macros.${id}.valuePct`);

/** All bindings that hold for a sound: its macros', and the browser's. */
export function bindingsOf({ macros }: Pick<SoundDocument, 'macros'>, ofBrowser: readonly Bound[]): Bound[] {
  return [
    ...macros.flatMap(({ control }, i) =>
      control ? [{ ...control, target: `macros.${MACRO_IDS[i]}.valuePct` }] : [],
    ),
    ...ofBrowser,
  ];
}

/** Binds a control to a target, in place of what either was bound to before. */
export function bind(bound: Bound): void {
  const { target, ...control } = bound;
  const same = (other: ControlBinding) =>
    other.control === control.control && other.channel === control.channel;
  const index = macroOf(target);
  const taken = useDocumentStore
    .getState()
    .document?.macros.some((macro, i) => i !== index && macro.control !== null && same(macro.control));
  if (index >= 0 || taken)
    edit('bind a control', (draft) => {
      for (const macro of draft.macros) if (macro.control && same(macro.control)) macro.control = null;
      if (index >= 0) draft.macros[index].control = control;
    });
  useControls.setState(({ ofBrowser }) => {
    const others = ofBrowser.filter((other) => other.target !== target && !same(other));
    return { ofBrowser: index >= 0 ? others : [...others, bound] };
  });
}

/** Lets a target go from its control. */
export function unbind(target: string): void {
  const index = macroOf(target);
  if (index >= 0)
    edit('let go of a control', (draft) => {
      draft.macros[index].control = null;
    });
  else
    useControls.setState(({ ofBrowser }) => ({
      ofBrowser: ofBrowser.filter((other) => other.target !== target),
    }));
}

/** Waits for a control to be moved, to bind it to a target; null ends the waiting. */
export const learn = (target: string | null): void => {
  useControls.setState({ learning: target });
};
