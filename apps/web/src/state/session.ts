import type { SoundDocument } from '@abyssal/core';
import { create } from 'zustand';
import { isHealthy } from '../api/assets';
import { ApiProblem } from '../api/problem';
import { readSound, restoreSound, updateSound } from '../api/sounds';
import {
  dropJournal,
  keepJournal,
  keepJournalNow,
  readJournals,
  useKeeping,
  type Journal,
} from '../browser/journals';
import { seenSounds, withRoom } from '../browser/stores';
import { openWindows, windowId } from '../browser/window-id';
import { enter, hearWindows, tellEditing, tellSaved } from '../browser/windows';
import { createCopy } from './create-copy';
import { closeDocument, openDocument, replaceDocument, useDocumentStore } from './document-store';
import { sendRecordings } from './recordings';
import { sameDocument } from './same-document';
import { takeTyped } from './take-typed';
import { tell } from './view-store';

/** How the open sound stands to the server. */
export type SaveState =
  'saved' | 'unsaved' | 'saving' | 'away' | 'failed' | 'refused' | 'conflict' | 'deleted';

export interface SessionState {
  readonly id: string | null;
  readonly version: number;
  readonly save: SaveState;
  /** Why it was refused or failed. */
  readonly reason: string | null;
}

const SAVE_AFTER_MS = 800;
const TRY_AGAIN_MS = 2000;
/** After what is not likely to pass by itself. */
const TRY_LATER_MS = 20_000;

export const useSession = create<SessionState>(() => ({ id: null, version: 0, save: 'saved', reason: null }));

/** A person has to choose first. */
const waits = (save: SaveState) => save === 'conflict' || save === 'deleted';

let timer: ReturnType<typeof setTimeout> | undefined;
/** The state sent last whose answer never came. */
let sent: SoundDocument | null = null;
/** What was taken over from another window, which the background sender may be sending at this moment. */
let takenOver: SoundDocument | null = null;
/** Counts openings, so that what belongs to a sound that was left comes too late. */
let opening = 0;
/** While a state of the server's takes the place of the open one, which is no work to be saved. */
let adopting = false;

function journalNow(): Journal | null {
  const { document } = useDocumentStore.getState();
  const { id, version } = useSession.getState();
  if (!id || !document) return null;
  return { soundId: id, writer: windowId, document, version, at: Date.now(), sent };
}

function keepWork(): void {
  const journal = journalNow();
  if (journal) void keepJournal(journal);
}

function later(ms: number): void {
  clearTimeout(timer);
  timer = setTimeout(() => {
    void save();
  }, ms);
}

async function save(): Promise<void> {
  const { id, version, save: state } = useSession.getState();
  const { document, revision } = useDocumentStore.getState();
  if (!id || !document || waits(state) || state === 'saving') return;
  const mine = opening;
  if (state === 'away' && !(await isHealthy())) {
    if (mine === opening) later(TRY_AGAIN_MS);
    return;
  }
  useSession.setState({ save: 'saving' });
  try {
    await sendRecordings(document);
    // Should the page end before the answer comes, whoever goes on from the journal knows it may be kept.
    sent = document;
    keepWork();
    const kept = await updateSound(id, version, document);
    tellSaved(id);
    if (mine !== opening) return;
    if (state === 'away') tell('The server answers again, and your work is saved.');
    sent = null;
    const changed = useDocumentStore.getState().revision !== revision;
    useSession.setState({ version: kept.version, save: changed ? 'unsaved' : 'saved', reason: null });
    if (changed) {
      keepWork();
      later(SAVE_AFTER_MS);
    } else void dropJournal({ soundId: id, writer: windowId });
  } catch (error) {
    if (mine === opening) await meetFailure(id, error);
  }
}

/** Whatever went wrong, the work stays in the browser, and is tried again or waits for a choice. */
async function meetFailure(id: string, error: unknown): Promise<void> {
  const problem = error instanceof ApiProblem ? error : null;
  if (problem?.status === 412) await meetOtherVersion(id, opening);
  else if (problem?.status === 404) useSession.setState({ save: 'deleted', reason: null });
  else if (problem?.away) {
    useSession.setState({ save: 'away', reason: problem.message });
    // A disk that is full stays so for longer than a server is away.
    later(problem.status === 507 ? TRY_LATER_MS : TRY_AGAIN_MS);
  } else {
    const reason = error instanceof Error ? error.message : String(error);
    useSession.setState({ save: problem && problem.status < 500 ? 'refused' : 'failed', reason });
    later(TRY_LATER_MS);
  }
  keepWork();
}

/**
 * The server has another version. Where it is our own, sent before and kept without our hearing of it, we go
 * on from it.
 */
async function meetOtherVersion(id: string, mine: number): Promise<void> {
  const kept = await readSound(id).catch(() => null);
  if (mine !== opening) return;
  if (kept && (sameDocument(sent, kept.document) || sameDocument(takenOver, kept.document))) {
    sent = null;
    useSession.setState({ version: kept.version, save: 'unsaved', reason: null });
    later(0);
  } else useSession.setState({ save: 'conflict', reason: null });
}

useDocumentStore.subscribe(({ revision }, before) => {
  const { id, save: state } = useSession.getState();
  if (!id || adopting || revision === before.revision || before.document === null) return;
  keepWork();
  if (state === 'saved' || state === 'refused' || state === 'failed')
    useSession.setState({ save: 'unsaved' });
  if (!waits(state) && state !== 'away') later(SAVE_AFTER_MS);
});

useSession.subscribe(({ id, save: state }) => {
  if (id) tellEditing(state !== 'saved');
});

/** Takes what is being typed, and keeps what is not saved yet, of a page that may not come back. */
function keepAtOnce(): void {
  takeTyped();
  const journal = journalNow();
  if (journal && useSession.getState().save !== 'saved') keepJournalNow(journal);
}

window.addEventListener('pagehide', keepAtOnce);
window.addEventListener('visibilitychange', () => {
  if (document.visibilityState === 'hidden') keepAtOnce();
});
// Before the router hears of it: by then the field is gone.
window.addEventListener('popstate', takeTyped, { capture: true });
window.addEventListener('beforeunload', (event) => {
  // Only where the work would be gone: else it waits in the browser.
  if (useSession.getState().save !== 'saved' && useKeeping.getState().failure) event.preventDefault();
});

/** Puts a state of the server's in the place of the open one, as one undo step. */
function adopt(label: string, document: SoundDocument): void {
  adopting = true;
  try {
    replaceDocument(label, document);
  } finally {
    adopting = false;
  }
}

async function follow(id: string): Promise<void> {
  const mine = opening;
  const kept = await readSound(id).catch(() => null);
  const { save: state, version } = useSession.getState();
  if (!kept || mine !== opening || state !== 'saved' || kept.version <= version) return;
  adopt('changes of another window', kept.document);
  useSession.setState({ version: kept.version });
}

hearWindows(({ kind, soundId }) => {
  const { id, save: state } = useSession.getState();
  if (soundId !== id) return;
  if (kind === 'saved' && state === 'saved') void follow(soundId);
  if (kind === 'deleted') {
    clearTimeout(timer);
    if (state !== 'saved') keepWork();
    useSession.setState({ save: 'deleted', reason: null });
  }
});

function begin(id: string, document: SoundDocument, version: number, state: SaveState): void {
  useSession.setState({ id: null });
  openDocument(document);
  useSession.setState({ id, version, save: state, reason: null });
  enter(id);
  if (state === 'saved') return;
  tellEditing(true);
  keepWork();
  if (!waits(state)) later(state === 'away' ? TRY_AGAIN_MS : 0);
}

/** The newest work on a sound that no open window is at. */
async function workLeft(id: string): Promise<Journal | null> {
  const { journals, broken } = await readJournals();
  const set = broken.filter(({ soundId }) => soundId === id);
  if (set.length > 0)
    tell(
      'Unsaved work on this sound cannot be read and was set aside: the Library has it under Unsaved work.',
    );
  const open = await openWindows();
  return (
    journals
      .filter(({ soundId, writer }) => soundId === id && (writer === windowId || !open.has(writer)))
      .pop() ?? null
  );
}

/** Goes on in this window with work that another left. */
function takeOver(left: Journal, document: SoundDocument, version: number, state: SaveState): void {
  sent = left.sent;
  takenOver = left.document;
  begin(left.soundId, document, version, state);
  if (left.writer !== windowId) void dropJournal(left);
}

/**
 * Opens a sound: what the browser has not saved yet comes before what the server has. Throws an `ApiProblem`
 * when neither has it.
 */
export async function openSound(id: string): Promise<void> {
  const mine = ++opening;
  clearTimeout(timer);
  const left = await workLeft(id);
  try {
    const kept = await readSound(id);
    if (mine !== opening) return;
    if (left && !sameDocument(left.document, kept.document)) {
      const ours = left.version === kept.version || sameDocument(left.sent, kept.document);
      takeOver(left, left.document, ours ? kept.version : left.version, ours ? 'unsaved' : 'conflict');
    } else {
      if (left) void dropJournal(left);
      sent = takenOver = null;
      begin(id, kept.document, kept.version, 'saved');
      const { document, version } = kept;
      withRoom(() => seenSounds.set(id, { document, version })).catch(() => undefined);
    }
  } catch (error) {
    if (mine !== opening) return;
    if (left) {
      const gone = error instanceof ApiProblem && error.status === 404;
      takeOver(left, left.document, left.version, gone ? 'deleted' : 'away');
      return;
    }
    const seen = await seenSounds.get(id).catch(() => undefined);
    if (mine !== opening) return;
    if (!seen || !(error instanceof ApiProblem && error.away)) throw error;
    sent = takenOver = null;
    begin(id, seen.document, seen.version, 'saved');
  }
}

/** Leaves the open sound; what is not saved yet is in the browser, from where the background sender takes it. */
export function leaveSound(): void {
  clearTimeout(timer);
  opening++;
  enter(null);
  useSession.setState({ id: null, save: 'saved', reason: null });
  closeDocument();
}

/** After a later save elsewhere: takes the server's state. Undo brings one's own back. */
export async function takeTheirs(): Promise<void> {
  const { id } = useSession.getState();
  if (!id) return;
  const kept = await readSound(id);
  adopt('Reloaded', kept.document);
  useSession.setState({ version: kept.version, save: 'saved' });
  void dropJournal({ soundId: id, writer: windowId });
}

/** After a later save elsewhere: puts one's own state over theirs. Undo brings theirs back. */
export async function keepMine(): Promise<void> {
  const { document } = useDocumentStore.getState();
  const { id } = useSession.getState();
  if (!id || !document) return;
  const kept = await readSound(id);
  adopt('Reloaded', kept.document);
  useSession.setState({ version: kept.version, save: 'saved' });
  replaceDocument('my own over theirs', document);
  saveNow();
}

/** Keeps one's own state as another sound, and returns its id. */
export async function keepAsCopy(): Promise<string | null> {
  const { document } = useDocumentStore.getState();
  const { id } = useSession.getState();
  if (!document || !id) return null;
  const copy = await createCopy(document);
  await dropJournal({ soundId: id, writer: windowId });
  useSession.setState({ save: 'saved' });
  return copy.id;
}

/** After the sound was deleted elsewhere: brings it back, and goes on with the state that is open. */
export async function bringBack(): Promise<void> {
  const { id, version } = useSession.getState();
  if (!id) return;
  const kept = await restoreSound(id);
  const ours = kept.version === version;
  useSession.setState({ version: kept.version, save: ours ? 'unsaved' : 'conflict' });
  if (ours) saveNow();
}

/** After the sound was deleted elsewhere: leaves it so, and lets go of what is open. */
export function letGo(): void {
  const { id } = useSession.getState();
  if (id) void dropJournal({ soundId: id, writer: windowId });
}

/** Tries to save at once. */
export function saveNow(): void {
  later(0);
}
