import { DocumentError, readDocument, type SoundDocument } from '@abyssal/core';
import { create } from 'zustand';
import { allLastWords, dropLastWords, keepLastWords } from './last-words';
import { journals, withRoom, type Journal } from './stores';

export type { Journal };

/** A journal that cannot be read; it stays where it is until it is thrown away. */
export interface BrokenJournal {
  readonly key: string;
  readonly soundId: string;
  /** Why, in one sentence. */
  readonly reason: string;
  /** All that is there, as text. */
  readonly text: string;
}

/** Why the browser keeps no unsaved work at present; null while it does. */
export const useKeeping = create<{ readonly failure: string | null }>(() => ({ failure: null }));

const keyOf = ({ soundId, writer }: Pick<Journal, 'soundId' | 'writer'>) => `${soundId} ${writer}`;

/** Writes one state after another: while one is being written, only the newest of each journal waits. */
const waiting = new Map<string, Journal | null>();
let writing: Promise<void> | null = null;

async function writeAll(): Promise<void> {
  while (waiting.size > 0) {
    const [[key, journal]] = waiting;
    waiting.delete(key);
    try {
      if (journal) await withRoom(() => journals.set(key, journal));
      else await journals.delete(key);
      dropLastWords(key);
      useKeeping.setState({ failure: null });
    } catch (error) {
      // Taking away what could not be kept either is no loss.
      if (journal) useKeeping.setState({ failure: (error as Error).message });
      else dropLastWords(key);
    }
  }
  writing = null;
}

function write(key: string, journal: Journal | null): Promise<void> {
  waiting.set(key, journal);
  writing ??= writeAll();
  return writing;
}

/** Keeps a journal; where that fails, `useKeeping` says so. */
export const keepJournal = (journal: Journal): Promise<void> => write(keyOf(journal), journal);

/** Drops a journal: the server has the work, or nobody wants it. */
export const dropJournal = (journal: Pick<Journal, 'soundId' | 'writer'>): Promise<void> =>
  write(keyOf(journal), null);

/** Keeps a journal at once, for a page that is going away and cannot wait. */
export const keepJournalNow = (journal: Journal): void => {
  keepLastWords(keyOf(journal), JSON.stringify(journal));
};

export const dropBroken = async ({ key }: BrokenJournal): Promise<void> => {
  dropLastWords(key);
  await journals.delete(key);
};

/** Documents of journals that were checked before: looking at them again and again must not hold the page up. */
const checked = new Map<string, Pick<Journal, 'at' | 'document'>>();

function checkedDocument(key: string, at: number, document: unknown): SoundDocument {
  const known = checked.get(key);
  if (known?.at === at) return known.document;
  const read = readDocument(document);
  checked.set(key, { at, document: read });
  return read;
}

/** A journal from what was found under a key. Throws where it is none. */
function read(key: string, found: unknown): Journal | null {
  const [soundId, writer = ''] = key.split(' ');
  const { document, version, at, sent, dirty } = found as Partial<Journal> & { readonly dirty?: boolean };
  // What versions before journals kept of a saved sound.
  if (dirty === false) return null;
  if (typeof version !== 'number' || typeof at !== 'number')
    throw new TypeError('It does not say what it began from.');
  return { soundId, writer, document: checkedDocument(key, at, document), version, at, sent: sent ?? null };
}

function explain(error: unknown): string {
  if (error instanceof DocumentError) return `It is no valid sound: ${error.message}`;
  if (error instanceof SyntaxError) return 'It is cut off or garbled.';
  return error instanceof Error ? error.message : String(error);
}

/** All unsaved work in this browser, the oldest first, and what of it cannot be read. */
export async function readJournals(): Promise<{
  readonly journals: readonly Journal[];
  readonly broken: readonly BrokenJournal[];
}> {
  await writing;
  const found = new Map<string, Journal>();
  const broken: BrokenJournal[] = [];
  const take = (key: string, text: () => string, value: () => unknown) => {
    try {
      const journal = read(key, value());
      const known = found.get(key);
      if (journal && (!known || journal.at >= known.at)) found.set(key, journal);
    } catch (error) {
      broken.push({ key, soundId: key.split(' ')[0], reason: explain(error), text: text() });
    }
  };
  for (const [key, value] of await journals.entries().catch(() => []))
    take(
      key,
      () => JSON.stringify(value),
      () => value,
    );
  for (const [key, text] of allLastWords())
    take(
      key,
      () => text,
      () => JSON.parse(text) as unknown,
    );
  return { journals: [...found.values()].sort((a, b) => a.at - b.at), broken };
}
