import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { MOST_WAV_BYTES } from '@abyssal/core';
import { Refusal } from '../problem/problem.js';

/** A file that was taken in: where it lies, and what its bytes are. */
export interface Received {
  readonly path: string;
  readonly hash: string;
  readonly size: number;
}

/** Longest pause between two pieces of a file, in ms: one that is sent no further gives its place up. */
const LONGEST_PAUSE_MS = 15_000;

export const tooLarge = () =>
  new Refusal(413, 'too-large', `The file is larger than ${MOST_WAV_BYTES / 1024 / 1024} MB; trim it first.`);

/** Passes bytes on, counts and hashes them, and refuses more than a recording may have. */
class Measure extends Transform {
  size = 0;
  readonly hash = createHash('sha256');

  override _transform(
    piece: Buffer,
    _encoding: string,
    done: (error: Error | null, piece?: Buffer) => void,
  ): void {
    this.size += piece.length;
    if (this.size > MOST_WAV_BYTES) {
      done(tooLarge());
      return;
    }
    this.hash.update(piece);
    done(null, piece);
  }
}

/**
 * Takes a file in as it comes, into a folder: at no time is it in memory as a whole. Throws a `Refusal` for one
 * that is too large or stops coming. Whoever has it removes it.
 */
export async function receive(from: Readable, folder: string): Promise<Received> {
  const path = join(folder, randomUUID());
  const measure = new Measure();
  const stalled = new AbortController();
  const restart = () => {
    clearTimeout(timer);
    timer = setTimeout(() => {
      stalled.abort();
    }, LONGEST_PAUSE_MS);
  };
  let timer: ReturnType<typeof setTimeout> | undefined;
  restart();
  measure.on('data', restart);
  try {
    await pipeline(from, measure, createWriteStream(path), { signal: stalled.signal });
    return { path, hash: measure.hash.digest('hex'), size: measure.size };
  } catch (error) {
    await rm(path, { force: true });
    throw stalled.signal.aborted
      ? new Refusal(408, 'stalled', 'The file stopped coming; send it again.')
      : error;
  } finally {
    clearTimeout(timer);
  }
}
