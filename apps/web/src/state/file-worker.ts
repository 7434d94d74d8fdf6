import { FormatError } from '@abyssal/core';
import { releaseProxy, wrap, type Remote } from 'comlink';
import { beginWorker } from './begin-worker';
import type { FileDecoder } from './decode.worker';

/** Longest time that a file may take to be read. */
const LONGEST_MS = 60_000;
const most = () => Math.max(1, Math.min(4, navigator.hardwareConcurrency - 1));

interface Hand {
  readonly worker: Worker;
  readonly decoder: Remote<FileDecoder>;
}

const idle: Hand[] = [];
let hands = 0;
const waiting: ((hand: Hand) => void)[] = [];

function begin(): Hand {
  const worker = beginWorker();
  return { worker, decoder: wrap<FileDecoder>(worker) };
}

function take(): Hand | Promise<Hand> {
  const free = idle.pop();
  if (free) return free;
  if (hands < most()) {
    hands++;
    return begin();
  }
  return new Promise((resolve) => {
    waiting.push(resolve);
  });
}

function giveBack(hand: Hand): void {
  const next = waiting.shift();
  if (next) next(hand);
  else idle.push(hand);
}

function replace({ worker, decoder }: Hand): void {
  worker.terminate();
  decoder[releaseProxy]();
  const next = waiting.shift();
  if (next) next(begin());
  else hands--;
}

/**
 * Reads a file in a worker, beside others; one that does not end within a minute is refused, and its worker is
 * replaced, so that the files after it are read. Throws a `FormatError`.
 */
export async function readInWorker<T>(
  work: (decoder: Remote<FileDecoder>) => Promise<T>,
  longestMs = LONGEST_MS,
): Promise<T> {
  const hand = await take();
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_resolve, reject) => {
    timer = setTimeout(() => {
      reject(new FormatError('the file took too long to read; trim it first'));
    }, longestMs);
    hand.worker.onerror = () => {
      reject(new FormatError('the file could not be read: there is not enough memory for it'));
    };
  });
  try {
    const found = await Promise.race([work(hand.decoder), late]);
    giveBack(hand);
    return found;
  } catch (error) {
    replace(hand);
    throw error;
  } finally {
    clearTimeout(timer);
  }
}
