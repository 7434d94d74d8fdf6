import type { NextFunction, Request, RequestHandler, Response } from 'express';
import { Refusal } from '../problem/problem.js';

const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'];
const READS = ['GET', 'HEAD', 'OPTIONS'];

const elsewhere = () =>
  new Refusal(403, 'from-elsewhere', 'Abyssal takes changes only from its own page, not from one elsewhere.');

/**
 * A name that somebody else owns may be pointed at loopback, and a page under that name would read and write here
 * as if it were ours: only the names and the port that the server listens at are answered.
 */
const ownHost: RequestHandler = (request, _response, next) => {
  const { localPort: port } = request.socket;
  const host = request.headers.host?.toLowerCase() ?? '';
  const own = LOOPBACK.some((name) => host === `${name}:${port}` || (port === 80 && host === name));
  next(
    own
      ? undefined
      : new Refusal(
          403,
          'unknown-host',
          'This address is not one of Abyssal’s: open it at the address that it prints.',
        ),
  );
};

/** Changes come from our own page, or from a program that is no browser: browsers say where a request began. */
const ownOrigin: RequestHandler = (request, _response, next) => {
  const { origin, host, 'sec-fetch-site': site } = request.headers;
  const own =
    READS.includes(request.method) ||
    ((origin === undefined || origin.toLowerCase() === `http://${host?.toLowerCase()}`) &&
      (site === undefined || site === 'same-origin' || site === 'none'));
  next(own ? undefined : elsewhere());
};

/** Routes that take something other than JSON. */
const TYPES: Readonly<Record<string, readonly string[]>> = {
  'POST /api/assets': ['audio/wav', 'audio/x-wav', 'audio/wave', 'audio/vnd.wave'],
};
const JSON_TYPE = ['application/json'];

const hasBody = ({ headers }: Request) =>
  headers['transfer-encoding'] !== undefined || Number(headers['content-length'] ?? 0) > 0;

/** Each route takes only its own type of content: a form, which any page can send, fits none. */
const ownType: RequestHandler = (request: Request, _response: Response, next: NextFunction) => {
  const given = request.headers['content-type']?.split(';')[0].trim().toLowerCase();
  if (READS.includes(request.method) || (given === undefined && !hasBody(request))) {
    next();
    return;
  }
  const wanted = TYPES[`${request.method} ${request.path.replace(/\/+$/, '')}`] ?? JSON_TYPE;
  next(
    given !== undefined && wanted.includes(given)
      ? undefined
      : new Refusal(415, 'content-type', `This address takes ${wanted[0]}; name it as the Content-Type.`),
  );
};

/** Who is let in: what comes from elsewhere gets 403, what comes as something else 415. */
export const doors: readonly RequestHandler[] = [ownHost, ownOrigin, ownType];
