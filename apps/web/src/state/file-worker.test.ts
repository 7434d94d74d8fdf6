import { FormatError } from '@abyssal/core';

interface FakeWorker {
  ended: boolean;
  onerror: (() => void) | null;
  terminate: () => void;
}
const workers: FakeWorker[] = [];
(globalThis as { Worker?: unknown }).Worker = class {
  ended = false;
  onerror = null;
  constructor() {
    workers.push(this);
  }
  terminate() {
    this.ended = true;
  }
};
Object.defineProperty(globalThis, 'navigator', { value: { hardwareConcurrency: 3 }, configurable: true });
jest.mock('comlink', () => {
  const releaseProxy = Symbol('release');
  return { releaseProxy, wrap: (worker: object) => ({ worker, [releaseProxy]: () => undefined }) };
});
// The place of the worker's own file is the bundler's to say.
jest.mock('./begin-worker', () => ({ beginWorker: () => new Worker('') }));

/* eslint-disable-next-line @typescript-eslint/no-require-imports */
const { readInWorker } = require('./file-worker') as typeof import('./file-worker');

const forever = () => new Promise<never>(() => undefined);

beforeEach(() => {
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
});

describe('files read beside the page', () => {
  it('go side by side on a few workers, which serve again', async () => {
    expect(await Promise.all([1, 2, 3, 4, 5].map((n) => readInWorker(() => Promise.resolve(n))))).toEqual([
      1, 2, 3, 4, 5,
    ]);
    expect(workers).toHaveLength(2);
    expect(workers.some(({ ended }) => ended)).toBe(false);
  });

  it('that never end are refused, their workers replaced, and the files behind them are read', async () => {
    const before = workers.length;
    const refused = [readInWorker(forever, 5000), readInWorker(forever, 5000)].map((read) =>
      expect(read).rejects.toThrow(new FormatError('the file took too long to read; trim it first')),
    );
    const behind = readInWorker(() => Promise.resolve('read'));
    await jest.advanceTimersByTimeAsync(5000);
    await Promise.all(refused);
    expect(await behind).toBe('read');
    expect(workers.slice(0, before).every(({ ended }) => ended)).toBe(true);
    expect(workers.filter(({ ended }) => !ended)).toHaveLength(1);
  });

  it('for which there is no memory are refused, and nothing waits for the worker that died', async () => {
    const refused = expect(readInWorker(forever)).rejects.toThrow(/not enough memory/);
    await jest.advanceTimersByTimeAsync(0);
    workers.filter(({ ended }) => !ended).forEach(({ onerror }) => onerror?.());
    await refused;
    expect(await readInWorker(() => Promise.resolve('read'))).toBe('read');
  });
});
