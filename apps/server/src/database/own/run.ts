import { spawn } from 'node:child_process';
import { DatabaseStartError } from './start-error.js';

/** Why a program of MariaDB's could not be started. */
export function startFailure(program: string, error: unknown): DatabaseStartError {
  return new DatabaseStartError(
    (error as NodeJS.ErrnoException).code === 'ENOENT'
      ? `${program} is missing: install Debian's package mariadb-server (apt-get install mariadb-server)`
      : `${program} could not be started: ${(error as Error).message}`,
  );
}

/** Runs a program to its end; it is ended where `signal` says so. Throws a `DatabaseStartError`. */
export function run(
  program: string,
  args: readonly string[],
  what: string,
  signal: AbortSignal,
): Promise<void> {
  return new Promise((resolve, reject) => {
    // A group of its own: a script is ended with all that it began.
    const child = spawn(program, args, { stdio: ['ignore', 'ignore', 'pipe'], detached: true });
    let words = '';
    child.stderr.on('data', (text: Buffer) => {
      words = `${words}${text.toString()}`.slice(-4000);
    });
    const end = () => {
      if (child.pid) process.kill(-child.pid, 'SIGKILL');
    };
    signal.addEventListener('abort', end, { once: true });
    child.once('error', (error) => {
      reject(startFailure(program, error));
    });
    child.once('close', (code) => {
      signal.removeEventListener('abort', end);
      if (code === 0) resolve();
      else
        reject(
          new DatabaseStartError(
            `${what} failed: ${words.trim().split('\n').pop() || `it ended with ${code}`}`,
          ),
        );
    });
  });
}
