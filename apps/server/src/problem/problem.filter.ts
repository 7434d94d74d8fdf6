import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { Response } from 'express';
import { BaseError, ConnectionError, DatabaseError, TimeoutError } from 'sequelize';
import { diskFull, Refusal } from './problem.js';

const log = new Logger('Problem');

/** Codes of a database that has gone away in the middle of a query. */
const AWAY =
  /ER_(SOCKET|CONNECTION|CMD_|GET_CONNECTION|POOL)|ECONN|EPIPE|socket has unexpectedly been closed|ER_SERVER_SHUTDOWN|1053/i;

function isAway(error: unknown): boolean {
  if (error instanceof ConnectionError || error instanceof TimeoutError) return true;
  if (error instanceof DatabaseError)
    return AWAY.test(`${(error.original as { code?: string }).code ?? ''} ${error.message}`);
  return error instanceof BaseError && error.name === 'SequelizeConnectionAcquireTimeoutError';
}

/** Codes of a disk without room: the system's own, and MariaDB's. */
const FULL = /ENOSPC|EDQUOT|ER_RECORD_FILE_FULL|ER_DISK_FULL|ER_TEMP_FILE_WRITE|No space left|errno: 28/;

const isFull = (error: unknown): boolean => {
  const { code, original, message } = error as Partial<NodeJS.ErrnoException> & {
    readonly original?: { readonly code?: string };
  };
  return FULL.test(`${code ?? ''} ${original?.code ?? ''} ${message ?? ''}`);
};

/** What body parsers and Node's own streams throw. */
interface HttpishError {
  readonly status?: number;
  readonly statusCode?: number;
  readonly type?: string;
}

const tooLarge = () =>
  new Refusal(413, 'too-large', 'The request is too large: a sound may take up to 4 MB.');

function toProblem(error: unknown): Refusal {
  if (error instanceof Refusal) return error;
  if (isFull(error)) return diskFull();
  if (isAway(error))
    return new Refusal(
      503,
      'database-away',
      'The database does not answer. Your work stays in this browser and is saved once it is back.',
    );
  if (error instanceof HttpException) {
    const status = error.getStatus();
    if (status === 413) return tooLarge();
    return new Refusal(
      status,
      status === 404 ? 'not-found' : 'refused',
      status === 404 ? 'There is no page at this address.' : error.message,
    );
  }
  const { status, statusCode, type } = error as HttpishError;
  if (type === 'entity.too.large') return tooLarge();
  if ((status ?? statusCode ?? 500) < 500)
    return new Refusal(status ?? statusCode ?? 400, 'refused', 'The request could not be read.');
  return new Refusal(
    500,
    'unexpected',
    'Something went wrong in the server; nothing was changed. Try again.',
  );
}

/** Turns every error into problem details; only what nobody foresaw is logged. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    const problem = toProblem(error);
    if (problem.getStatus() === 500) log.error(error instanceof Error ? error.stack : String(error));
    if (response.headersSent) return;
    response
      .status(problem.getStatus())
      .type('application/problem+json')
      .send(JSON.stringify(problem.details()));
  }
}
