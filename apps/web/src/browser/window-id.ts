/**
 * Every load of the page is a window of its own, with an id. It holds a lock under that id for as long as it
 * lives, so that other windows can tell whose work somebody still has open.
 */
const PREFIX = 'abyssal window ';
const BEFORE = 'abyssal window';
const WAIT_MS = 400;

export const windowId = crypto.randomUUID();

const locks = (globalThis.navigator as Navigator | undefined)?.locks;

/**
 * The window that this page was before it was loaded again may not have let go yet. A page that was duplicated
 * takes the memory of the other along, which lives on: then waiting ends after a moment.
 */
async function awaitOneBefore(): Promise<void> {
  try {
    const before = sessionStorage.getItem(BEFORE);
    sessionStorage.setItem(BEFORE, windowId);
    if (before && locks)
      await locks.request(PREFIX + before, { signal: AbortSignal.timeout(WAIT_MS) }, () => undefined);
  } catch {
    // It still lives, or the browser keeps nothing.
  }
}

const ready = (async () => {
  void locks?.request(PREFIX + windowId, () => new Promise<never>(() => undefined));
  await awaitOneBefore();
})();

/** Ids of the windows that are open now, this one among them. */
export async function openWindows(): Promise<ReadonlySet<string>> {
  await ready;
  const held = (await locks?.query())?.held ?? [];
  const ids = held.flatMap(({ name }) => (name?.startsWith(PREFIX) ? [name.slice(PREFIX.length)] : []));
  return new Set([...ids, windowId]);
}

/** Runs work in one window after another. */
export async function inTurn(name: string, work: () => Promise<void>): Promise<void> {
  if (!locks) return work();
  await locks.request(`abyssal ${name}`, work);
}
