/**
 * Text kept at once (localStorage), for a page that is going away and cannot wait for IndexedDB. Where the
 * browser forbids it or has no room, nothing is kept and nothing fails: the copy in IndexedDB, at most one
 * change older, remains.
 */
const PREFIX = 'abyssal draft ';

function trying<T>(work: (storage: Storage) => T, otherwise: T): T {
  try {
    return work(localStorage);
  } catch {
    return otherwise;
  }
}

export const keepLastWords = (key: string, text: string): void => {
  trying((storage) => {
    storage.setItem(PREFIX + key, text);
  }, undefined);
};

export const dropLastWords = (key: string): void => {
  trying((storage) => {
    storage.removeItem(PREFIX + key);
  }, undefined);
};

export const allLastWords = (): [key: string, text: string][] =>
  trying(
    (storage) =>
      Array.from({ length: storage.length }, (_, i) => storage.key(i) ?? '')
        .filter((key) => key.startsWith(PREFIX))
        .map((key): [string, string] => [key.slice(PREFIX.length), storage.getItem(key) ?? '']),
    [],
  );
