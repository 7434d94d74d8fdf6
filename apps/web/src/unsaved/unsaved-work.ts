import { whatDiffers, type SoundDocument } from '@abyssal/core';
import { create } from 'zustand';
import { isHealthy } from '../api/assets';
import { ApiProblem } from '../api/problem';
import { queries } from '../api/queries';
import { readSound } from '../api/sounds';
import { dropJournal, readJournals, type BrokenJournal, type Journal } from '../browser/journals';
import { inTurn, openWindows, windowId } from '../browser/window-id';
import { forgetEnded, hearWindows } from '../browser/windows';
import { sameDocument } from '../state/same-document';
import { useSession } from '../state/session';
import { tell } from '../state/view-store';
import { send } from './send';

/**
 * How unsaved work stands: a window has it open; it waits for the server; or a person has to choose, because
 * the sound was saved or deleted elsewhere, or the server refuses it.
 */
export type Standing = 'open' | 'waiting' | 'saved-elsewhere' | 'deleted' | 'refused';

export interface UnsavedWork {
  readonly journal: Journal;
  readonly standing: Standing;
  /** Why it was refused. */
  readonly reason: string | null;
  /** The sound as the server has it, and what the work has other than it; null where that is not known. */
  readonly theirs: { readonly version: number; readonly document: SoundDocument } | null;
  readonly differs: readonly string[] | null;
}

export const isToChoose = ({ standing }: UnsavedWork): boolean =>
  standing === 'saved-elsewhere' || standing === 'deleted' || standing === 'refused';

/** All work in this browser that the server does not have. */
export const useUnsaved = create<{
  readonly works: readonly UnsavedWork[];
  readonly broken: readonly BrokenJournal[];
}>(() => ({ works: [], broken: [] }));

const CHECK_MS = 3000;

const work = (journal: Journal, standing: Standing, more: Partial<UnsavedWork> = {}): UnsavedWork => ({
  journal,
  standing,
  reason: null,
  theirs: null,
  differs: null,
  ...more,
});

/** What was found before and still holds, so that a choice that waits is not asked of the server again and again. */
const knownOf = (journal: Journal): UnsavedWork | undefined =>
  useUnsaved
    .getState()
    .works.find(
      (known) =>
        known.journal.soundId === journal.soundId &&
        known.journal.writer === journal.writer &&
        known.journal.at === journal.at,
    );

/** Drops a journal, unless its sound was opened here again meanwhile and writes to it. */
async function dropDelivered(journal: Journal): Promise<void> {
  if (journal.writer !== windowId || useSession.getState().id !== journal.soundId) await dropJournal(journal);
}

/** Sends a journal; null where the server has it now. */
async function deliver(journal: Journal): Promise<UnsavedWork | null> {
  try {
    await send(journal);
    await dropDelivered(journal);
    return null;
  } catch (error) {
    if (!(error instanceof ApiProblem))
      return work(journal, 'refused', { reason: error instanceof Error ? error.message : String(error) });
    if (error.away) return work(journal, 'waiting');
    if (error.status === 404) return work(journal, 'deleted');
    if (error.status !== 412) return work(journal, 'refused', { reason: error.message });
  }
  const theirs = await readSound(journal.soundId).catch(() => null);
  if (!theirs) return work(journal, 'waiting');
  if (sameDocument(journal.document, theirs.document)) {
    await dropDelivered(journal);
    return null;
  }
  if (sameDocument(journal.sent, theirs.document))
    return deliver({ ...journal, version: theirs.version, sent: null });
  return work(journal, 'saved-elsewhere', {
    theirs,
    differs: whatDiffers(theirs.document, journal.document),
  });
}

async function look(): Promise<void> {
  const [{ journals, broken }, open] = await Promise.all([readJournals(), openWindows(), forgetEnded()]);
  const works: UnsavedWork[] = [];
  let healthy: boolean | null = null;
  let saved = 0;
  let told = 0;
  for (const journal of journals) {
    const here = useSession.getState().id === journal.soundId;
    const elsewhere = journal.writer !== windowId && open.has(journal.writer);
    const known = knownOf(journal);
    if (elsewhere || (here && journal.writer === windowId)) works.push(work(journal, 'open'));
    else if (known && isToChoose(known)) works.push(known);
    else if (here || !(healthy ??= await isHealthy())) works.push(work(journal, 'waiting'));
    else {
      const left = await deliver(journal);
      if (left) works.push(left);
      else {
        saved++;
        // What is saved as soon as its sound is left is nothing to tell.
        if (known?.standing === 'waiting' || journal.writer !== windowId) told++;
      }
    }
  }
  useUnsaved.setState({ works, broken });
  if (saved > 0) await queries.invalidateQueries({ queryKey: ['sounds'] });
  if (told > 0)
    tell(told === 1 ? 'Unsaved work of a sound was saved.' : `Unsaved work of ${told} sounds was saved.`);
}

let looking: Promise<void> | null = null;
let again = false;

/** Looks at all unsaved work now, and sends what can be sent. */
export function lookAtUnsaved(): Promise<void> {
  if (looking) {
    again = true;
    return looking;
  }
  looking = inTurn('sender', look)
    .catch(() => undefined)
    .finally(() => {
      looking = null;
      if (again) {
        again = false;
        void lookAtUnsaved();
      }
    });
  return looking;
}

/**
 * Takes unsaved work of every sound to the server in the background, from the start of the page on: when a
 * sound is left, when the server is back, and whatever windows that were closed have left.
 */
export function sendInBackground(): Promise<void> {
  useSession.subscribe(({ id }, before) => {
    if (id !== before.id) void lookAtUnsaved();
  });
  hearWindows(() => void lookAtUnsaved());
  window.addEventListener('online', () => void lookAtUnsaved());
  setInterval(() => {
    void lookAtUnsaved();
  }, CHECK_MS);
  return lookAtUnsaved();
}
