import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { chownSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir, userInfo } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { createConnection } from 'mariadb';
import type { DatabaseAddress } from './address.js';

/** A MariaDB that cannot be started, with one sentence that says why and what to do. */
export class DatabaseStartError extends Error {
  override readonly name = 'DatabaseStartError';
}

/** A MariaDB server of our own on loopback, with its data in a folder of its own. */
export interface OwnDatabase {
  readonly address: DatabaseAddress;
  /** Ends it, and waits until it has ended. */
  stop(): Promise<void>;
}

const NAME = 'abyssal';
const READY_WITHIN_MS = 60_000;
const MOST_RESTARTS = 5;

function run(program: string, args: readonly string[], what: string): void {
  try {
    execFileSync(program, args, { stdio: ['ignore', 'ignore', 'pipe'] });
  } catch (error) {
    const { stderr, code } = error as { stderr?: Buffer; code?: string };
    if (code === 'ENOENT')
      throw new DatabaseStartError(`${program} is missing: install Debian's package mariadb-server`);
    throw new DatabaseStartError(
      `${what} failed: ${
        String(stderr ?? '')
          .trim()
          .split('\n')
          .pop() ?? ''
      }`,
    );
  }
}

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

interface SystemUser {
  readonly name: string;
  readonly uid: number;
  readonly gid: number;
}

/**
 * The system user that the server runs as. Root hands over to Debian's `mysql`, unless that user cannot enter
 * the folder, as below
 * root's own home: then it stays root, which MariaDB does only when it is told to. It listens on loopback
 * either way.
 */
function runAs(folder: string): SystemUser {
  const me = userInfo();
  const self = { name: me.username, uid: me.uid, gid: me.gid };
  if (me.uid !== 0) return self;
  try {
    execFileSync('runuser', ['-u', 'mysql', '--', 'test', '-x', folder], { stdio: 'ignore' });
    const id = (flag: string) => Number(execFileSync('id', [flag, 'mysql'], { encoding: 'utf8' }));
    return { name: 'mysql', uid: id('-u'), gid: id('-g') };
  } catch {
    return self;
  }
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
    for (let waited = 0; isOurs() && waited < 30_000; waited += 100) await sleep(100);
    if (isOurs())
      throw new DatabaseStartError(
        `another Abyssal is running its database on ${dataFolder} (process ${pid}); end it first, or give another --data`,
      );
  }
  rmSync(pidFile, { force: true });
}

async function waitUntilReady(address: DatabaseAddress, process: ChildProcess, log: string): Promise<void> {
  for (let waited = 0; waited < READY_WITHIN_MS; waited += 150) {
    if (process.exitCode !== null) throw new DatabaseStartError(`MariaDB ended at once; ${log} says why`);
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
 * Starts a MariaDB on loopback with its data under `folder`, made on first use. A server left behind by a
 * start that was killed is
 * ended first; one that dies while it is wanted is started again. Throws a `DatabaseStartError`.
 */
export async function startOwnDatabase(folder: string): Promise<OwnDatabase> {
  mkdirSync(folder, { recursive: true });
  const user = runAs(folder);
  const dataFolder = join(folder, 'mariadb');
  const pidFile = join(folder, 'mariadb.pid');
  const secretFile = join(folder, 'mariadb.secret');
  const log = join(folder, 'mariadb.log');
  await endLeftBehind(pidFile, dataFolder);

  if (!existsSync(join(dataFolder, 'mysql'))) {
    // A first start that was cut short leaves half a folder, in which nothing has been kept yet.
    rmSync(dataFolder, { recursive: true, force: true });
    mkdirSync(dataFolder, { recursive: true });
    chownSync(dataFolder, user.uid, user.gid);
    run(
      'mariadb-install-db',
      [
        '--no-defaults',
        `--datadir=${dataFolder}`,
        `--user=${user.name}`,
        '--auth-root-authentication-method=socket',
        '--skip-test-db',
      ],
      'preparing the database',
    );
  }
  if (!existsSync(secretFile)) writeFileSync(secretFile, randomBytes(24).toString('hex'), { mode: 0o600 });
  const password = readFileSync(secretFile, 'utf8').trim();
  const initFile = join(dataFolder, 'init.sql');
  writeFileSync(
    initFile,
    [
      `CREATE DATABASE IF NOT EXISTS ${NAME} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;`,
      `CREATE USER IF NOT EXISTS '${NAME}'@'127.0.0.1' IDENTIFIED BY '${password}';`,
      `ALTER USER '${NAME}'@'127.0.0.1' IDENTIFIED BY '${password}';`,
      `GRANT ALL ON ${NAME}.* TO '${NAME}'@'127.0.0.1';`,
      '',
    ].join('\n'),
    { mode: 0o600 },
  );
  chownSync(initFile, user.uid, user.gid);
  writeFileSync(log, '', { flag: 'a' });
  chownSync(log, user.uid, user.gid);

  const port = await freePort();
  const address: DatabaseAddress = { host: '127.0.0.1', port, username: NAME, password, database: NAME };
  let wanted = true;
  let restarts = 0;
  let child: ChildProcess;
  const launch = (): ChildProcess => {
    const started = spawn(
      'mariadbd',
      [
        '--no-defaults',
        `--user=${user.name}`,
        `--datadir=${dataFolder}`,
        '--bind-address=127.0.0.1',
        `--port=${port}`,
        `--socket=${join(tmpdir(), `abyssal-${process.pid}-${port}.sock`)}`,
        `--init-file=${initFile}`,
        `--log-error=${log}`,
        '--skip-name-resolve',
        '--max-allowed-packet=128M',
        '--innodb-buffer-pool-size=64M',
        '--innodb-log-file-size=160M',
        '--performance-schema=OFF',
      ],
      { stdio: 'ignore', detached: true },
    );
    if (started.pid) writeFileSync(pidFile, String(started.pid));
    started.once('exit', () => {
      if (wanted && restarts++ < MOST_RESTARTS)
        setTimeout(() => {
          if (wanted) child = launch();
        }, 1000);
    });
    return started;
  };
  child = launch();
  await waitUntilReady(address, child, log);
  return {
    address,
    async stop() {
      wanted = false;
      if (child.exitCode === null && child.signalCode === null) {
        const ended = new Promise((resolve) => {
          child.once('exit', resolve);
        });
        child.kill('SIGTERM');
        await ended;
      }
      if (existsSync(pidFile) && readFileSync(pidFile, 'utf8') === String(child.pid)) rmSync(pidFile);
    },
  };
}
