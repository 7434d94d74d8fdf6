import { execFileSync, spawnSync } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { userInfo } from 'node:os';
import { join } from 'node:path';
import { cleanSound } from '@abyssal/core';
import {
  canRunAs,
  ended,
  endAll,
  freshFolder,
  isProblem,
  launch,
  Running,
  until,
} from '../testing/running.js';

const folders: string[] = [];
const fresh = (...inner: string[]) => {
  const outer = freshFolder('abyssal-start-');
  folders.push(outer);
  return join(outer, ...inner);
};
const isRoot = userInfo().uid === 0;
/** Every database that runs on a folder. */
const databases = (folder: string): number[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((pid) => {
      try {
        return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(`--datadir=${folder}`);
      } catch {
        return false;
      }
    })
    .map(Number);

/** Starts on a folder, asks for the list, and ends; resolves with how it ended. */
async function tried(
  data: string,
  { args = [] as string[], env = process.env, as = null as string | null } = {},
): Promise<{ status: number | null; words: string }> {
  const started = launch(['--no-demo', '--data', data, ...args], { env, as });
  try {
    const address = await started.address;
    const { status } = await fetch(`${address}/api/sounds`);
    started.end();
    await ended(started.child);
    return { status, words: started.words() };
  } catch {
    return { status: null, words: started.words() };
  }
}

afterAll(async () => {
  await endAll();
  for (const folder of folders) rmSync(folder, { recursive: true, force: true });
});

describe('a data folder', () => {
  it('may be called anything', async () => {
    for (const name of ['My Projects', 'Bässe – täglich', `it's "one" $HOME; \\ (2)`])
      expect([name, await tried(fresh(name, 'data'))]).toEqual([name, { status: 200, words: '' }]);
  }, 120_000);

  it('is taken over from an earlier user of the database', async () => {
    const closed = fresh('closed');
    mkdirSync(closed);
    const data = join(closed, 'data');
    // Where `mysql` cannot enter, root runs the database itself; later it can.
    chmodSync(closed, 0o700);
    expect(await tried(data)).toEqual({ status: 200, words: '' });
    chmodSync(closed, 0o755);
    expect(await tried(data)).toEqual({ status: 200, words: '' });
    chmodSync(closed, 0o700);
    expect(await tried(data)).toEqual({ status: 200, words: '' });
  }, 120_000);

  it('that is a file, or lies in one, is refused in one sentence', async () => {
    const file = fresh('file');
    writeFileSync(file, 'x');
    for (const data of [file, join(file, 'data')]) {
      const { status, words } = await tried(data);
      expect([status, words]).toEqual([null, `${data} is a file, or lies below one; give --data a folder\n`]);
    }
  }, 30_000);

  it('with an empty secret gets a new one, never an account without a password', async () => {
    const data = fresh('data');
    expect((await tried(data)).status).toBe(200);
    writeFileSync(join(data, 'mariadb.secret'), '');
    expect((await tried(data)).status).toBe(200);
    expect(readFileSync(join(data, 'mariadb.secret'), 'utf8')).toMatch(/^[0-9a-f]{48}$/);
  }, 60_000);

  // As root, everything may be written: what an ordinary user meets is tried as one, where one can read this.
  (isRoot && canRunAs('nobody') ? describe : describe.skip)('of an ordinary user', () => {
    it('works', async () => {
      const home = fresh();
      execFileSync('chown', ['nobody', home]);
      expect(await tried(join(home, 'my data'), { as: 'nobody' })).toEqual({ status: 200, words: '' });
    }, 60_000);

    it('that may not be written in is refused in one sentence', async () => {
      const data = fresh('data');
      mkdirSync(data);
      const { status, words } = await tried(data, { as: 'nobody' });
      expect([status, words]).toEqual([
        null,
        `nothing can be written in ${data}; give --data a folder that you may write in\n`,
      ]);
    }, 30_000);
  });
});

describe('a second start on the same data', () => {
  let running: Running;
  beforeAll(async () => {
    running = await Running.start('--no-demo');
  }, 120_000);
  afterAll(() => running.remove(), 60_000);

  it('names the address of the first, which goes on', async () => {
    const pid = running.databasePid();
    const second = launch(['--data', running.data]);
    expect(await ended(second.child)).toBe(1);
    expect(second.words()).toBe(
      `Abyssal already runs on ${running.data}: it is at ${running.address} (process ${running.child.pid}); give another --data to run a second one\n`,
    );
    expect([running.databasePid(), databases(running.data)]).toEqual([pid, [pid]]);
    expect((await running.call('GET', '/health')).status).toBe(200);
  });

  it('is let in when the first is dead, even where its number belongs to somebody else by now', async () => {
    await running.stop('SIGKILL');
    writeFileSync(
      join(running.data, 'owner.json'),
      JSON.stringify({ pid: process.pid, began: '1', address: 'http://127.0.0.1:1' }),
    );
    await running.again();
    expect((await running.call('GET', '/health')).status).toBe(200);
    expect(databases(running.data)).toHaveLength(1);
  }, 60_000);

  it('of two at once one is let in', async () => {
    await running.stop();
    const both = [
      launch(['--no-demo', '--data', running.data]),
      launch(['--no-demo', '--data', running.data]),
    ];
    const found = await Promise.allSettled(both.map(({ address }) => address));
    expect(found.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    for (const { end, child } of both) {
      end();
      await ended(child);
    }
    await running.again();
  }, 60_000);
});

describe('ending', () => {
  const within = async (ms: number, child: Parameters<typeof ended>[0]) => {
    const began = Date.now();
    await ended(child);
    return Date.now() - began < ms;
  };

  it('comes within ten seconds at any moment of a start, and leaves nothing behind', async () => {
    for (const after of [150, 600, 1500, 3000]) {
      const data = fresh('data');
      const { child } = launch(['--data', data]);
      await new Promise((done) => {
        setTimeout(done, after);
      });
      child.kill('SIGTERM');
      expect([after, await within(10_000, child)]).toEqual([after, true]);
      expect(databases(data)).toEqual([]);
    }
  }, 90_000);

  it('comes within ten seconds where the database hangs', async () => {
    const running = await Running.start('--no-demo');
    process.kill(running.databasePid(), 'SIGSTOP');
    void running.call('GET', '/sounds').catch(() => undefined);
    running.child.kill('SIGTERM');
    expect(await within(10_000, running.child)).toBe(true);
    expect(databases(running.data)).toEqual([]);
    await running.remove();
  }, 90_000);

  it('of a start that fails takes what it began along', async () => {
    const taken = await Running.start('--no-demo');
    const data = fresh('data');
    const { child, words } = launch(['--no-demo', '--data', data, '--port', String(taken.port())]);
    expect(await ended(child)).toBe(1);
    expect(words()).toBe(`port ${taken.port()} is taken; give another with --port\n`);
    expect(databases(data)).toEqual([]);
    await taken.remove();
  }, 60_000);
});

describe('a database', () => {
  it('that is missing is one sentence', async () => {
    const bin = fresh();
    // All of the system's programs but MariaDB's.
    for (const name of ['id', 'runuser', 'test', 'chown'])
      spawnSync('ln', ['-s', `/usr/bin/${name}`, join(bin, name)]);
    const { status, words } = await tried(fresh('data'), { env: { ...process.env, PATH: bin } });
    expect(status).toBeNull();
    expect(words).toMatch(/^mariadb-install-db is missing: install Debian's package mariadb-server .*\n$/);
  });

  it('that dies five times in ten minutes is given up, on the terminal and in health', async () => {
    const running = await Running.start('--no-demo');
    let words = '';
    running.child.stderr!.on('data', (text: Buffer) => {
      words += text.toString();
    });
    for (let death = 1; death <= 5; death++) {
      const pid = running.databasePid();
      process.kill(pid, 'SIGKILL');
      if (death < 5)
        expect(
          await until(() => running.databasePid() !== pid && existsSync(`/proc/${running.databasePid()}`)),
        ).toBe(true);
    }
    expect(await until(() => words !== '')).toBe(true);
    expect(words).toMatch(/^The database died 5 times within 10 minutes and is not started again; .*\n$/);
    const { status, body } = await running.call('GET', '/health');
    expect([status, body.status, body.reason]).toEqual([503, 'database given up', words.trim()]);
    await running.remove();
  }, 90_000);
});

/** Whether a file system of a few MB can be made here. */
const canMount = () => {
  const at = fresh();
  const made = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=1m', 'tmpfs', at]).status === 0;
  if (made) spawnSync('umount', [at]);
  return made;
};

(isRoot && canMount() ? describe : describe.skip)('a full disk', () => {
  it('is said as such; what is there can be read, and is saved again once there is room', async () => {
    const disk = fresh();
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=330m,mode=755', 'tmpfs', disk]);
    const running = await Running.on(join(disk, 'data'), '--no-demo');
    try {
      const { id } = (await running.call('POST', '/sounds', { document: cleanSound('Before') })).body;
      const rest = join(disk, 'rest');
      spawnSync('dd', ['if=/dev/zero', `of=${rest}`, 'bs=1M']);
      const answer = await running.call('POST', '/sounds', { document: cleanSound('More') });
      isProblem(answer, 507, /^The disk of the server is full, .*Your work stays in this browser/);
      expect((await running.call('GET', `/sounds/${id}`)).body.document.name).toBe('Before');
      expect((await running.call('GET', '/sounds?search=before')).body.items).toHaveLength(1);
      expect((await running.call('DELETE', `/sounds/${id}`)).status).toBe(204);
      rmSync(rest);
      expect((await running.call('POST', '/sounds', { document: cleanSound('After') })).status).toBe(201);
    } finally {
      await running.stop();
      spawnSync('umount', [disk]);
    }
  }, 120_000);
});
