import type { IncomingMessage } from 'node:http';
import { Refusal } from '../problem/problem.js';

const tooLarge = (mostBytes: number) =>
  new Refusal(413, 'too-large', `The file is larger than ${mostBytes / 1024 / 1024} MB; trim it first.`);

/**
 * Takes in the body of a request up to a bound. What lies beyond it is not kept, and the connection is
 * closed.
 */
export async function readBody(request: IncomingMessage, mostBytes: number): Promise<Buffer> {
  const refuse = (): never => {
    request.resume();
    throw tooLarge(mostBytes);
  };
  if (Number(request.headers['content-length'] ?? 0) > mostBytes) refuse();
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size > mostBytes) refuse();
    chunks.push(chunk);
  }
  return Buffer.concat(chunks, size);
}
