import { assetsOf, plainText, type SoundDocument } from '@abyssal/core';
import { create } from 'zustand';
import { isHealthy } from '../api/assets';
import { ApiProblem } from '../api/problem';
import { createSound, readSound, updateSound } from '../api/sounds';
import { closeDocument, openDocument, replaceDocument, useDocumentStore } from './document-store';
import { keepDraft, keepDraftNow, readDraft, type KeptDraft } from './drafts';
import { sendRecording } from './recordings';
import { takeTyped } from './take-typed';
import { tell } from './view-store';

/** How the open sound stands to the server. */
export type SaveState = 'saved' | 'unsaved' | 'saving' | 'away' | 'conflict' | 'refused';

export interface SessionState {
  readonly id: string | null;
  readonly version: number;
  readonly save: SaveState;
  /** Why it was refused. */
  readonly reason: string | null;
}

const SAVE_AFTER_MS = 800;
const TRY_AGAIN_MS = 2000;

export const useSession = create<SessionState>(() => ({ id: null, version: 0, save: 'saved', reason: null }));

let timer: ReturnType<typeof setTimeout> | undefined;
/** The state sent last whose answer never came. */
let sent: SoundDocument | null = null;
/** Counts openings, so that what belongs to a sound that was left comes too late. */
let opening = 0;

const draftNow = (dirty: boolean): KeptDraft | null => {
  const { document } = useDocumentStore.getState();
  return document && { document, version: useSession.getState().version, dirty, at: Date.now(), sent };
};

function later(ms: number): void {
  clearTimeout(timer);
  timer = setTimeout(() => {
    void save();
  }, ms);
}

async function save(): Promise<void> {
  const { id, version, save: state } = useSession.getState();
  const { document, revision } = useDocumentStore.getState();
  if (!id || !document || state === 'conflict' || state === 'saving') return;
  const mine = opening;
  if (state === 'away' && !(await isHealthy())) {
    if (mine === opening) later(TRY_AGAIN_MS);
    return;
  }
  useSession.setState({ save: 'saving' });
  try {
    for (const hash of assetsOf(document)) await sendRecording(hash);
    const kept = await updateSound(id, version, document);
    if (mine !== opening) return;
    if (state === 'away') tell('The server answers again, and your work is saved.');
    sent = null;
    const changed = useDocumentStore.getState().revision !== revision;
    useSession.setState({ version: kept.version, save: changed ? 'unsaved' : 'saved', reason: null });
    const draft = draftNow(changed);
    if (draft) void keepDraft(id, draft);
    if (changed) later(SAVE_AFTER_MS);
  } catch (error) {
    if (mine !== opening) return;
    if (!(error instanceof ApiProblem)) throw error;
    if (error.status === 412) await meetOtherVersion(id, mine);
    else if (error.away) {
      sent = document;
      if (state !== 'away') tell(error.message);
      useSession.setState({ save: 'away' });
      const draft = draftNow(true);
      if (draft) void keepDraft(id, draft);
      later(TRY_AGAIN_MS);
    } else useSession.setState({ save: 'refused', reason: error.message });
  }
}

const same = (a: SoundDocument | null, b: SoundDocument) =>
  a !== null && JSON.stringify(a) === JSON.stringify(b);

/**
 * The server has another version. Where it is our own, sent before and kept without our hearing of it, we go
 * on from it.
 */
async function meetOtherVersion(id: string, mine: number): Promise<void> {
  const kept = await readSound(id).catch(() => null);
  if (mine !== opening) return;
  if (kept && same(sent, kept.document)) {
    sent = null;
    useSession.setState({ version: kept.version, save: 'unsaved' });
    later(0);
  } else useSession.setState({ save: 'conflict' });
}

useDocumentStore.subscribe(({ revision }, before) => {
  const { id, save: state } = useSession.getState();
  if (!id || revision === before.revision || before.document === null) return;
  const draft = draftNow(true);
  if (draft) void keepDraft(id, draft);
  if (state === 'saved' || state === 'refused') useSession.setState({ save: 'unsaved' });
  if (state !== 'conflict' && state !== 'away') later(SAVE_AFTER_MS);
});

/** Takes what is being typed, and keeps what is not saved yet, of a page that may not come back. */
function keepAtOnce(): void {
  takeTyped();
  const { id, save: state } = useSession.getState();
  const draft = draftNow(true);
  if (id && draft && state !== 'saved') keepDraftNow(id, draft);
}

window.addEventListener('pagehide', keepAtOnce);
window.addEventListener('visibilitychange', () => {
  if (document.visibilityState === 'hidden') keepAtOnce();
});
// Before the router hears of it: by then the field is gone.
window.addEventListener('popstate', takeTyped, { capture: true });

function begin(id: string, document: SoundDocument, version: number, state: SaveState): void {
  useSession.setState({ id: null });
  openDocument(document);
  useSession.setState({ id, version, save: state, reason: null });
  if (state === 'unsaved' || state === 'away') later(state === 'away' ? TRY_AGAIN_MS : 0);
}

/**
 * Opens a sound: what the browser has not saved yet comes before what the server has. Throws an `ApiProblem`
 * when neither has it.
 */
export async function openSound(id: string): Promise<void> {
  const mine = ++opening;
  clearTimeout(timer);
  const draft = await readDraft(id);
  try {
    const kept = await readSound(id);
    if (mine !== opening) return;
    sent = draft?.dirty ? draft.sent : null;
    const ours = draft?.dirty && (draft.version === kept.version || same(draft.sent, kept.document));
    if (draft?.dirty)
      begin(id, draft.document, ours ? kept.version : draft.version, ours ? 'unsaved' : 'conflict');
    else {
      begin(id, kept.document, kept.version, 'saved');
      void keepDraft(id, {
        document: kept.document,
        version: kept.version,
        dirty: false,
        at: Date.now(),
        sent: null,
      });
    }
  } catch (error) {
    if (mine !== opening) return;
    if (!draft || !(error instanceof ApiProblem && error.away)) throw error;
    sent = draft.sent;
    begin(id, draft.document, draft.version, draft.dirty ? 'away' : 'saved');
  }
}

/** Leaves the open sound; what is not saved yet is saved first, or stays in the browser. */
export async function leaveSound(): Promise<void> {
  clearTimeout(timer);
  if (useSession.getState().save === 'unsaved') await save();
  opening++;
  clearTimeout(timer);
  useSession.setState({ id: null, save: 'saved' });
  closeDocument();
}

/** After a later save elsewhere: takes the server's state. Undo brings one's own back. */
export async function takeTheirs(): Promise<void> {
  const { id } = useSession.getState();
  if (!id) return;
  const kept = await readSound(id);
  useSession.setState({ version: kept.version, save: 'saved' });
  replaceDocument('Reloaded', kept.document);
}

/** After a later save elsewhere: keeps one's own state as another sound, and returns its id. */
export async function keepAsCopy(): Promise<string | null> {
  const { document } = useDocumentStore.getState();
  const { id, version } = useSession.getState();
  if (!document || !id) return null;
  const copy = await createSound({ ...document, name: `${plainText(document.name, 72)}, copy` });
  await keepDraft(id, { document, version, dirty: false, at: Date.now(), sent: null });
  return copy.id;
}

/** Tries to save at once. */
export function saveNow(): void {
  later(0);
}
