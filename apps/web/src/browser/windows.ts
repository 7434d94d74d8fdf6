import { create } from 'zustand';
import { openWindows, windowId } from './window-id';

/** What windows of one browser tell each other of a sound. */
interface Word {
  readonly from: string;
  readonly soundId: string;
  readonly kind: 'hello' | 'here' | 'editing' | 'saved' | 'left' | 'deleted';
}

/** Other windows on the sound that is open here: whether each has work that is not saved. */
export const useOtherWindows = create<{ readonly editing: ReadonlyMap<string, boolean> }>(() => ({
  editing: new Map(),
}));

const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('abyssal');
let here: string | null = null;
let editing = false;
const listeners = new Set<(word: Word) => void>();

const say = (kind: Word['kind'], soundId: string | null = here): void => {
  if (soundId) channel?.postMessage({ from: windowId, soundId, kind } satisfies Word);
};

function note(writer: string, isEditing: boolean | null): void {
  useOtherWindows.setState(({ editing: before }) => {
    const next = new Map(before);
    if (isEditing === null) next.delete(writer);
    else next.set(writer, isEditing);
    return { editing: next };
  });
}

channel?.addEventListener('message', ({ data }: MessageEvent<Word>) => {
  if (data.soundId === here) {
    if (data.kind === 'hello') say(editing ? 'editing' : 'here');
    note(data.from, data.kind === 'left' ? null : data.kind === 'editing');
  }
  for (const listener of listeners) listener(data);
});

/** Tells the other windows which sound is open here, or that none is. */
export function enter(soundId: string | null): void {
  say('left');
  here = soundId;
  editing = false;
  useOtherWindows.setState({ editing: new Map() });
  say('hello');
}

/** Tells the other windows on the sound whether it has work here that is not saved. */
export function tellEditing(isEditing: boolean): void {
  if (isEditing !== editing) say(isEditing ? 'editing' : 'here');
  editing = isEditing;
}

export const tellSaved = (soundId: string): void => {
  say('saved', soundId);
};
export const tellDeleted = (soundId: string): void => {
  say('deleted', soundId);
};

/** Hears what other windows say; returns how to stop. */
export function hearWindows(listener: (word: Pick<Word, 'kind' | 'soundId'>) => void): () => void {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

/** Forgets windows that ended without a word. */
export async function forgetEnded(): Promise<void> {
  const open = await openWindows();
  for (const writer of useOtherWindows.getState().editing.keys()) if (!open.has(writer)) note(writer, null);
}

if (typeof window !== 'undefined')
  window.addEventListener('pagehide', () => {
    say('left');
  });
