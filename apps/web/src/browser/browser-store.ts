import { clear, createStore, del, entries, get, keys, set } from 'idb-keyval';

/** The browser could not keep or find something; `message` is one clear sentence. */
export class BrowserStoreError extends Error {
  override readonly name = 'BrowserStoreError';
  constructor(
    message: string,
    /** Whether there is no room left. */
    readonly full: boolean,
  ) {
    super(message);
  }
}

const LONGEST_MS = 5000;

function toError(error: unknown): BrowserStoreError {
  if (error instanceof BrowserStoreError) return error;
  return error instanceof Error && error.name === 'QuotaExceededError'
    ? new BrowserStoreError('The browser has no room left to keep unsaved work.', true)
    : new BrowserStoreError('The browser does not let this page keep unsaved work.', false);
}

/** What a store answers, within some seconds: a transaction that never ends must not hold up a save. */
async function inTime<T>(work: () => Promise<T>): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  try {
    return await Promise.race([
      work(),
      new Promise<never>((_resolve, reject) => {
        timer = setTimeout(() => {
          reject(new BrowserStoreError('The browser’s own store does not answer.', false));
        }, LONGEST_MS);
      }),
    ]);
  } catch (error) {
    throw toError(error);
  } finally {
    clearTimeout(timer);
  }
}

/** Things by key in the browser (IndexedDB). Every call throws a `BrowserStoreError` where it fails. */
export class BrowserStore<T> {
  private readonly store;

  constructor(name: string) {
    this.store = createStore(`abyssal-${name}`, name);
  }

  get = (key: string): Promise<T | undefined> => inTime(() => get<T>(key, this.store));
  set = (key: string, value: T): Promise<void> => inTime(() => set(key, value, this.store));
  delete = (key: string): Promise<void> => inTime(() => del(key, this.store));
  entries = (): Promise<[string, T][]> => inTime(() => entries<string, T>(this.store));
  keys = (): Promise<string[]> => inTime(() => keys<string>(this.store));
  clear = (): Promise<void> => inTime(() => clear(this.store));
}
