import { spawn, type ChildProcess } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { createConnection } from 'mariadb';
import type { DatabaseAddress } from '../address.js';
import { run, startFailure } from './run.js';
import { secretIn } from './secret.js';
import { DatabaseStartError } from './start-error.js';
import { giveTo, systemUser, type SystemUser } from './system-user.js';

/** A MariaDB server of our own on loopback, with its data in a folder of its own. */
export interface OwnDatabase {
  readonly address: DatabaseAddress;
  /** Why it is not started again any more; null while it runs or is started again. */
  givenUp(): string | null;
  /** Ends it, and waits until it has ended. */
  stop(): Promise<void>;
}

const NAME = 'abyssal';
const READY_WITHIN_MS = 60_000;
/** A database that dies so often within so long is not started again. */
const MOST_DEATHS = 5;
const WITHIN_MS = 10 * 60_000;
/** How long a database may take to end by itself, when it is asked to. */
const END_WITHIN_MS = 6000;
/** Longest path of a socket (unix(7)), less what its name adds. */
const LONGEST_SOCKET_FOLDER = 70;

async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => {
    server.listen(0, '127.0.0.1', resolve);
  });
  const { port } = server.address() as { port: number };
  await new Promise((resolve) => {
    server.close(resolve);
  });
  return port;
}

/** Ends a server that an earlier start, killed before it could, left behind on the same data. */
async function endLeftBehind(pidFile: string, dataFolder: string): Promise<void> {
  if (!existsSync(pidFile)) return;
  const pid = Number(readFileSync(pidFile, 'utf8'));
  const isOurs = () => {
    try {
      return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(`--datadir=${dataFolder}\0`);
    } catch {
      return false;
    }
  };
  if (pid > 0 && isOurs()) {
    process.kill(pid, 'SIGTERM');
    for (let waited = 0; isOurs() && waited < 30_000; waited += 100) {
      // One that was stopped does not hear of it.
      if (waited === END_WITHIN_MS) process.kill(pid, 'SIGKILL');
      await sleep(100);
    }
    if (isOurs())
      throw new DatabaseStartError(
        `the database of an earlier start (process ${pid}) does not end; end it first`,
      );
  }
  rmSync(pidFile, { force: true });
}

/**
 * Makes an empty database, beside its place first: one that was cut short is never taken for one that is whole.
 * Debian's script does not quote the path that it is given, so that it is given one without spaces.
 */
async function install(dataFolder: string, user: SystemUser, signal: AbortSignal): Promise<void> {
  const fresh = `${dataFolder}.new`;
  rmSync(fresh, { recursive: true, force: true });
  mkdirSync(fresh);
  const plainFolder = mkdtempSync('/tmp/abyssal-');
  try {
    const plain = join(plainFolder, 'data');
    symlinkSync(fresh, plain);
    await giveTo(user, plainFolder, fresh);
    await run(
      'mariadb-install-db',
      [
        '--no-defaults',
        `--datadir=${plain}`,
        `--user=${user.name}`,
        '--auth-root-authentication-method=socket',
        '--skip-test-db',
      ],
      'preparing the database',
      signal,
    );
  } finally {
    rmSync(plainFolder, { recursive: true, force: true });
  }
  rmSync(dataFolder, { recursive: true, force: true });
  renameSync(fresh, dataFolder);
}

/** What the database says of itself at its start: an account of ours that only the secret opens. */
function initSql(password: string): string {
  return [
    `CREATE DATABASE IF NOT EXISTS ${NAME} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;`,
    `CREATE USER IF NOT EXISTS '${NAME}'@'127.0.0.1' IDENTIFIED BY '${password}';`,
    `ALTER USER '${NAME}'@'127.0.0.1' IDENTIFIED BY '${password}';`,
    `GRANT ALL ON ${NAME}.* TO '${NAME}'@'127.0.0.1';`,
    '',
  ].join('\n');
}

const hasEnded = ({ exitCode, signalCode }: ChildProcess) => exitCode !== null || signalCode !== null;

async function end(child: ChildProcess): Promise<void> {
  if (hasEnded(child) || child.pid === undefined) return;
  const ended = new Promise((resolve) => {
    child.once('exit', resolve);
  });
  child.kill('SIGTERM');
  const timer = setTimeout(() => child.kill('SIGKILL'), END_WITHIN_MS);
  await ended;
  clearTimeout(timer);
}

/** The reason that the database itself wrote down last. */
function lastError(log: string): string {
  const lines = readFileSync(log, 'utf8').split('\n');
  const line = lines.filter((each) => each.includes('[ERROR]')).pop();
  return line ? `: ${line.replace(/^.*\[ERROR\]\s*/, '')}` : '';
}

async function waitUntilReady(
  address: DatabaseAddress,
  child: ChildProcess,
  log: string,
  signal: AbortSignal,
): Promise<void> {
  for (const began = Date.now(); Date.now() - began < READY_WITHIN_MS;) {
    signal.throwIfAborted();
    if (hasEnded(child)) throw new DatabaseStartError(`MariaDB ended at once${lastError(log)} (see ${log})`);
    try {
      const connection = await createConnection({ ...address, user: address.username, connectTimeout: 1000 });
      await connection.end();
      return;
    } catch {
      await sleep(150);
    }
  }
  throw new DatabaseStartError(`MariaDB did not answer within ${READY_WITHIN_MS / 1000} s; see ${log}`);
}

/**
 * Starts a MariaDB on loopback with its data under `folder`, made on first use. A server left behind by a start
 * that was killed is ended first; one that dies while it is wanted is started again, unless it dies again and
 * again: then `tell` is given one sentence. A start that fails, or that `signal` ends, ends what it began. The
 * folder must be ours, see `ownFolder`. Throws a `DatabaseStartError`.
 */
export async function startOwnDatabase(
  folder: string,
  tell: (sentence: string) => void,
  signal: AbortSignal,
): Promise<OwnDatabase> {
  const user = await systemUser(folder);
  const dataFolder = join(folder, 'mariadb');
  const pidFile = join(folder, 'mariadb.pid');
  const log = join(folder, 'mariadb.log');
  await endLeftBehind(pidFile, dataFolder);
  if (!existsSync(join(dataFolder, 'mysql'))) await install(dataFolder, user, signal);
  const password = secretIn(join(folder, 'mariadb.secret'));
  const initFile = join(dataFolder, 'init.sql');
  writeFileSync(initFile, initSql(password), { mode: 0o600 });
  writeFileSync(log, '', { flag: 'a' });
  await giveTo(user, dataFolder, log);

  const port = await freePort();
  const address: DatabaseAddress = { host: '127.0.0.1', port, username: NAME, password, database: NAME };
  const sockets = tmpdir().length > LONGEST_SOCKET_FOLDER ? '/tmp' : tmpdir();
  let wanted = true;
  let givenUp: string | null = null;
  let deaths: number[] = [];
  let child: ChildProcess;
  const died = () => {
    if (!wanted) return;
    const now = Date.now();
    deaths = [...deaths.filter((at) => now - at < WITHIN_MS), now];
    if (deaths.length >= MOST_DEATHS) {
      givenUp = `The database died ${MOST_DEATHS} times within ${WITHIN_MS / 60_000} minutes and is not started again; ${log} says why. End Abyssal and start it again.`;
      tell(givenUp);
      return;
    }
    setTimeout(() => {
      if (wanted) child = launch();
    }, 1000);
  };
  const launch = (): ChildProcess => {
    const started = spawn(
      'mariadbd',
      [
        '--no-defaults',
        `--user=${user.name}`,
        `--datadir=${dataFolder}`,
        '--bind-address=127.0.0.1',
        `--port=${port}`,
        `--socket=${join(sockets, `abyssal-${process.pid}-${port}.sock`)}`,
        `--init-file=${initFile}`,
        `--log-error=${log}`,
        '--skip-name-resolve',
        '--max-allowed-packet=128M',
        '--innodb-buffer-pool-size=64M',
        '--innodb-log-file-size=160M',
        '--performance-schema=OFF',
        // Searches look thousands of rows up by their keys.
        '--innodb-adaptive-hash-index=ON',
      ],
      { stdio: 'ignore', detached: true },
    );
    if (started.pid) writeFileSync(pidFile, String(started.pid));
    started.once('exit', died);
    started.once('error', died);
    return started;
  };
  const stop = async () => {
    wanted = false;
    await end(child);
    if (existsSync(pidFile) && readFileSync(pidFile, 'utf8') === String(child.pid)) rmSync(pidFile);
  };
  signal.throwIfAborted();
  // A death while it is starting is told at once, not tried again.
  wanted = false;
  child = launch();
  const noProgram = new Promise<never>((_resolve, reject) => {
    child.once('error', (error) => {
      reject(startFailure('mariadbd', error));
    });
  });
  try {
    await Promise.race([waitUntilReady(address, child, log, signal), noProgram]);
  } catch (error) {
    await stop();
    throw error;
  }
  wanted = true;
  return { address, givenUp: () => givenUp, stop };
}
