import type { SoundDocument } from '@abyssal/core';
import { create } from 'zustand';
import { audio } from './audio-host';
import { PLACE } from './protocol';
import { useDocumentStore } from '../state/document-store';
import { useView } from '../state/view-store';

/** A change that is being listened to: its name, and which of the two is heard now. */
export interface Hearing {
  readonly name: string | null;
  readonly now: 'before' | 'after';
}

export const useHearing = create<Hearing>(() => ({ name: null, now: 'before' }));

let frame = 0;

/** Ends the listening; what is open is heard again. */
export function endHearing(): void {
  cancelAnimationFrame(frame);
  if (useHearing.getState().name === null) return;
  audio.hearInstead(null);
  useHearing.setState({ name: null, now: 'before' });
}

/**
 * Plays the loop as it is and as it would be, in turns: every time the loop begins anew the other is heard.
 * It ends with the playing, and with any change of the sound.
 */
export async function hearChange(name: string, after: SoundDocument): Promise<void> {
  endHearing();
  await audio.play();
  useHearing.setState({ name, now: 'before' });
  const { revision } = useDocumentStore.getState();
  let last = audio.shared.state[PLACE];
  const watch = () => {
    if (!useView.getState().playing || useDocumentStore.getState().revision !== revision) {
      endHearing();
      return;
    }
    const place = audio.shared.state[PLACE];
    if (place < last - 0.5) {
      const now = useHearing.getState().now === 'before' ? 'after' : 'before';
      audio.hearInstead(now === 'after' ? after : null);
      useHearing.setState({ now });
    }
    last = place;
    frame = requestAnimationFrame(watch);
  };
  frame = requestAnimationFrame(watch);
}
