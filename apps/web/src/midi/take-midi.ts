import {
  fromPosition,
  clampValue,
  MidiStream,
  resolveTarget,
  stepsOf,
  targetLabel,
  toPosition,
  type MidiSaid,
} from '@abyssal/core';
import { playNote } from '../audio/live';
import { pathOf, setAt, valueAt } from '../state/path';
import { edit, useDocumentStore } from '../state/document-store';
import { tell } from '../state/view-store';
import { bind, bindingsOf, learn, useControls, type Bound } from './bindings';
import { PickUp } from './pick-up';

/** Share of the range of a step of a relative control. */
const STEP = 1 / 128;

const streams = new Map<string, MidiStream>();
const pickUp = new PickUp();

type Control = Extract<MidiSaid, { what: 'control' }>;

const words = ({ control, channel, value }: Control) =>
  `${control} on channel ${channel + 1}: ${Math.round(100 * value)} %`;

/** Moves what a control is bound to. */
function move(bound: Bound, said: Control): void {
  const { document } = useDocumentStore.getState();
  const found = document && resolveTarget(document, bound.target);
  const path = document && pathOf(document, bound.target);
  if (!document || !found || !path) return;
  const { row } = found;
  const value = valueAt(document, path) as number;
  const stands = toPosition(row, value);
  let to = said.value;
  if (bound.way !== 'absolute') to = stands + STEP * stepsOf(said.raw, bound.way);
  else if (!pickUp.takes(bound.target, said.value, stands)) return;
  const next = clampValue(row, fromPosition(row, to));
  if (next !== value)
    edit(
      targetLabel(document, bound.target)?.toLowerCase() ?? 'control',
      (draft) => {
        setAt(draft, path, next);
      },
      `control ${bound.target}`,
    );
  pickUp.stands(bound.target, toPosition(row, next));
}

function takeControl(said: Control): void {
  const { learning, ofBrowser } = useControls.getState();
  useControls.setState({ heard: words(said) });
  const { document } = useDocumentStore.getState();
  if (!document) return;
  if (learning !== null) {
    learn(null);
    bind({ target: learning, control: said.control, channel: said.channel + 1, way: 'absolute' });
    tell(`${targetLabel(document, learning) ?? learning} is moved by ${said.control} from now on.`);
    return;
  }
  for (const bound of bindingsOf(document, ofBrowser))
    if (bound.control === said.control && (bound.channel === 0 || bound.channel === said.channel + 1))
      move(bound, said);
}

/** Takes bytes of a MIDI controller, real or simulated; each has a stream of its own. */
export function takeMidi(bytes: Iterable<number>, from = 'simulated'): void {
  let stream = streams.get(from);
  if (!stream) streams.set(from, (stream = new MidiStream()));
  for (const said of stream.take(bytes)) {
    if (said.what === 'note') playNote(said.pitch, said.velocity);
    else takeControl(said);
  }
}

let access: MIDIAccess | null = null;

/** Listens to every controller that the browser knows, now and later. Returns their names. */
export async function listenToControllers(): Promise<string[]> {
  if (!('requestMIDIAccess' in navigator)) {
    tell('This browser has no Web MIDI; play from the computer keyboard or the simulated controller.');
    return [];
  }
  try {
    access ??= await navigator.requestMIDIAccess();
  } catch {
    tell('The browser did not allow MIDI. Allow it for this page in the browser’s settings, then try again.');
    return [];
  }
  const listen = () => {
    access?.inputs.forEach((input) => {
      input.onmidimessage = (event) => {
        if (event.data) takeMidi(event.data, input.id);
      };
    });
  };
  access.onstatechange = listen;
  listen();
  return [...access.inputs.values()].map((input) => input.name ?? 'controller');
}
