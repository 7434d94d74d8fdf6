import { MOST_WAV_BYTES } from '@abyssal/core';
import express, { type NextFunction, type Request, type Response } from 'express';
import { Refusal } from '../problem/problem.js';

const raw = express.raw({ type: () => true, limit: MOST_WAV_BYTES });

const tooLarge = () =>
  new Refusal(413, 'too-large', `The file is larger than ${MOST_WAV_BYTES / 1024 / 1024} MB; trim it first.`);

/**
 * Takes in a file as the body of a request, up to a bound. What lies beyond it is not kept. A request that says
 * beforehand that it is too large is answered at once, and the connection is closed.
 */
export function takeUpload(request: Request, response: Response, next: NextFunction): void {
  if (Number(request.headers['content-length'] ?? 0) > MOST_WAV_BYTES) {
    response.setHeader('Connection', 'close');
    request.resume();
    next(tooLarge());
    return;
  }
  raw(request, response, (error?: unknown) => {
    next((error as { type?: string } | undefined)?.type === 'entity.too.large' ? tooLarge() : error);
  });
}
