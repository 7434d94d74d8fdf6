import { statfs } from 'node:fs/promises';
import type { RequestHandler } from 'express';
import { diskFull } from '../problem/problem.js';

/** Bytes that stay free on the disk: MariaDB does not outlive a disk on which it cannot write any more. */
const KEPT_FREE = 64 * 1024 * 1024;

/**
 * Refuses what would fill the disk of a folder. Reads and deletions go on, and so does everything once there is
 * room.
 */
export function roomOn(folder: string): RequestHandler {
  return (request, _response, next) => {
    if (request.method !== 'POST' && request.method !== 'PUT') {
      next();
      return;
    }
    const wanted = KEPT_FREE + 2 * Number(request.headers['content-length'] ?? 0);
    statfs(folder).then(
      ({ bavail, bsize }) => {
        next(bavail * bsize < wanted ? diskFull() : undefined);
      },
      () => {
        next();
      },
    );
  };
}
