import { readdirSync, readFileSync } from 'node:fs';
import { cleanSound } from '@abyssal/core';
import { isProblem, Running, until } from '../testing/running.js';

let running: Running;
const call: Running['call'] = (...given) => running.call(...given);
const databasePid = () => running.databasePid();

beforeAll(async () => {
  running = await Running.start();
}, 120_000);
afterAll(() => running.remove(), 60_000);

describe('a database that goes away', () => {
  const healthy = async () => (await call('GET', '/health')).status === 200;

  it('is told, and is used again when it is back', async () => {
    expect((await call('GET', '/health')).body).toEqual({ status: 'ok' });
    process.kill(databasePid(), 'SIGSTOP');
    // The signal is on its way to each of its threads for a moment.
    const still = () =>
      readdirSync(`/proc/${databasePid()}/task`).every((thread) =>
        / T /.test(readFileSync(`/proc/${databasePid()}/task/${thread}/stat`, 'utf8')),
      );
    try {
      expect(await until(() => Promise.resolve(still()))).toBe(true);
      const [health, list] = await Promise.all([call('GET', '/health'), call('GET', '/sounds')]);
      expect([health.status, health.body.status]).toEqual([503, 'database away']);
      isProblem(list, 503, /The database does not answer\. Your work stays in this browser/);
    } finally {
      process.kill(databasePid(), 'SIGCONT');
    }
    expect(await until(healthy)).toBe(true);
    expect((await call('GET', '/sounds')).status).toBe(200);
  }, 60_000);

  it('is started again when it dies', async () => {
    const { id } = (await call('POST', '/sounds', { document: { ...cleanSound(), name: 'Survivor' } })).body;
    process.kill(databasePid(), 'SIGKILL');
    expect(await until(async () => !(await healthy()))).toBe(true);
    expect(await until(healthy)).toBe(true);
    expect((await call('GET', `/sounds/${id}`)).body.document.name).toBe('Survivor');
  }, 60_000);

  it('left behind by a killed server is taken over, with nothing lost and the demo not loaded again', async () => {
    const before = (await call('GET', '/sounds?limit=100')).body.items.length;
    await running.stop('SIGKILL');
    await running.again();
    expect((await call('GET', '/sounds?limit=100')).body.items.length).toBe(before);
  }, 60_000);

  it('ends with the server', async () => {
    const pid = databasePid();
    await running.stop();
    expect(() => process.kill(pid, 0)).toThrow();
    await running.again('--no-demo');
    expect(await healthy()).toBe(true);
  }, 60_000);
});
