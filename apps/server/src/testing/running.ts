import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { request, type IncomingHttpHeaders } from 'node:http';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { createConnection, type Connection } from 'mariadb';

const MAIN = resolve(__dirname, '../../dist/start/main.js');

export interface Answer {
  readonly status: number;
  readonly headers: Headers;
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- What a test expects of it is checked there.
  readonly body: any;
}

/** A folder of its own, which the user that the database runs as can enter. */
export function freshFolder(name = 'abyssal-server-'): string {
  const folder = mkdtempSync(join(tmpdir(), name));
  spawnSync('chmod', ['755', folder]);
  return folder;
}

export const ended = (child: ChildProcess): Promise<number | null> =>
  new Promise((done) => {
    if (child.exitCode !== null || child.signalCode !== null) done(child.exitCode);
    else child.once('exit', done);
  });

/** A command as another user, which root may ask for. */
const asUser = (user: string, command: readonly string[]) => [
  'setpriv',
  '--reuid',
  user,
  '--regid',
  'nogroup',
  '--clear-groups',
  ...command,
];

/** Whether a user can run the built server where it lies. */
export function canRunAs(user: string): boolean {
  const [program, ...args] = asUser(user, [
    process.execPath,
    '-e',
    `require('fs').accessSync(${JSON.stringify(MAIN)})`,
  ]);
  return spawnSync(program, args).status === 0;
}

/** What was started and may still run. */
const started = new Set<ChildProcess>();

/** Ends whatever a test that failed has left running. */
export async function endAll(): Promise<void> {
  for (const child of started) {
    child.kill('SIGTERM');
    await ended(child);
  }
}

export interface Launched {
  readonly child: ChildProcess;
  /** What it wrote on standard error. */
  readonly words: () => string;
  readonly address: Promise<string>;
  /** Asks it to end. */
  readonly end: () => void;
}

/** Starts the built server, as another user where root wants that, and does not wait for it. */
export function launch(
  args: readonly string[],
  { env = process.env, as = null }: { env?: NodeJS.ProcessEnv; as?: string | null } = {},
): Launched {
  const node = [process.execPath, MAIN, '--port', '0', ...args];
  const [program, ...rest] = as ? asUser(as, node) : node;
  const child = spawn(program, rest, { stdio: ['ignore', 'pipe', 'pipe'], env });
  started.add(child);
  child.once('close', () => started.delete(child));
  let words = '';
  child.stderr.on('data', (text: Buffer) => {
    words += text.toString();
  });
  const address = new Promise<string>((done, fail) => {
    child.stdout.on('data', (text: Buffer) => {
      const found = /http:\/\/[\d.:]+/.exec(text.toString());
      if (found) done(found[0]);
    });
    child.once('close', () => {
      fail(new Error(words));
    });
  });
  address.catch(() => undefined);
  return {
    child,
    words: () => words,
    address,
    end: () => {
      child.kill('SIGTERM');
    },
  };
}

/** Whether something comes true within 20 s. */
export async function until(check: () => Promise<boolean> | boolean): Promise<boolean> {
  for (let i = 0; i < 100; i++) {
    if (await check()) return true;
    await new Promise((done) => {
      setTimeout(done, 200);
    });
  }
  return false;
}

/** A running server with data of its own. */
export class Running {
  private constructor(
    readonly data: string,
    private args: readonly string[],
    public child: ChildProcess,
    public address: string,
  ) {}

  static start(...args: string[]): Promise<Running> {
    return Running.on(freshFolder(), ...args);
  }

  static async on(data: string, ...args: string[]): Promise<Running> {
    const { child, address } = launch(['--data', data, ...args]);
    return new Running(data, args, child, await address);
  }

  /** Starts it again on the same data, once it has ended. */
  async again(...args: string[]): Promise<void> {
    const { child, address } = launch(['--data', this.data, ...(args.length > 0 ? args : this.args)]);
    this.child = child;
    this.address = await address;
  }

  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    this.child.kill(signal);
    await ended(this.child);
  }

  async remove(): Promise<void> {
    await this.stop();
    rmSync(this.data, { recursive: true, force: true });
  }

  databasePid(): number {
    return Number(readFileSync(join(this.data, 'mariadb.pid'), 'utf8'));
  }

  databaseAddress(): { port: number; password: string } {
    const [, port] = /--port=(\d+)/.exec(readFileSync(`/proc/${this.databasePid()}/cmdline`, 'utf8'))!;
    return { port: Number(port), password: readFileSync(join(this.data, 'mariadb.secret'), 'utf8') };
  }

  port(): number {
    return Number(new URL(this.address).port);
  }

  /** A connection to its database, as the server has. */
  database(): Promise<Connection> {
    const { port, password } = this.databaseAddress();
    return createConnection({ host: '127.0.0.1', port, user: 'abyssal', database: 'abyssal', password });
  }

  /**
   * One request on a connection of its own: one kept open may have been closed by the server while a test was busy
   * with itself. Bytes are sent as a WAV, text as JSON.
   */
  async call(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer> {
    const bytes = body instanceof Uint8Array;
    const response = await fetch(`${this.address}/api${path}`, {
      method,
      headers: {
        Connection: 'close',
        ...(body === undefined ? {} : { 'Content-Type': bytes ? 'audio/wav' : 'application/json' }),
        ...headers,
      },
      body:
        bytes || typeof body === 'string' || body === undefined
          ? (body as string | undefined)
          : JSON.stringify(body),
    });
    const text = await response.text();
    return {
      status: response.status,
      headers: response.headers,
      body: /json/.test(response.headers.get('content-type') ?? '') ? JSON.parse(text) : text,
    };
  }

  /** A request with headers that a browser would not let a page set. */
  raw(
    method: string,
    path: string,
    headers: Record<string, string>,
    body = '',
  ): Promise<{ status: number; headers: IncomingHttpHeaders; body: string }> {
    return new Promise((done, fail) => {
      const sent = request(
        `${this.address}${path}`,
        { method, headers, setHost: !('Host' in headers) },
        (response) => {
          let text = '';
          response.on('data', (piece: Buffer) => {
            text += piece.toString();
          });
          response.on('end', () => {
            done({ status: response.statusCode!, headers: response.headers, body: text });
          });
        },
      );
      sent.on('error', fail);
      sent.end(body);
    });
  }
}

/** That an answer is problem details with one sentence. */
export function isProblem({ status, headers, body }: Answer, wanted: number, title: RegExp): void {
  expect(status).toBe(wanted);
  expect(headers.get('content-type')).toMatch(/^application\/problem\+json/);
  expect(body).toMatchObject({ type: expect.stringMatching(/^urn:abyssal:problem:/), status: wanted });
  expect(body.title).toMatch(title);
  expect(body.title).not.toMatch(/\n/);
}
