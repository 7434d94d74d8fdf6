import { cleanSound, writeWav } from '@abyssal/core';
import { Running } from '../testing/running.js';

let running: Running;
let id = '';
const host = () => running.address.replace('http://', '');

beforeAll(async () => {
  running = await Running.start('--no-demo');
  ({ id } = (await running.call('POST', '/sounds', { document: cleanSound('Kept') })).body);
}, 120_000);
afterAll(() => running.remove(), 60_000);

const still = async () => {
  const { body } = await running.call('GET', `/sounds/${id}`);
  expect([body.document.name, body.version]).toEqual(['Kept', 1]);
};
const problem = (body: string) => JSON.parse(body) as { title: string; status: number };

describe('doors', () => {
  it('answer under the names of loopback only: a name that was pointed at it gets 403', async () => {
    for (const name of ['evil.example', `evil.example:${running.port()}`, '127.0.0.1', '127.0.0.1:1', '']) {
      for (const path of ['/api/sounds', `/api/sounds/${id}`, '/', '/api/docs', '/index.html']) {
        const { status, body } = await running.raw('GET', path, { Host: name });
        expect([path, name, status]).toEqual([path, name, 403]);
        expect(problem(body).title).toMatch(/open it at the address that it prints/);
      }
    }
    for (const name of ['127.0.0.1', 'localhost', 'LOCALHOST'])
      expect((await running.raw('GET', '/api/health', { Host: `${name}:${running.port()}` })).status).toBe(
        200,
      );
  });

  it('take changes from their own page or from no page, and from nowhere else', async () => {
    const put = (headers: Record<string, string>) =>
      running.raw(
        'PUT',
        `/api/sounds/${id}`,
        { 'Content-Type': 'application/json', 'If-Match': '"1"', ...headers },
        JSON.stringify({ document: cleanSound('Overwritten') }),
      );
    for (const headers of [
      { Origin: 'http://evil.example' },
      { Origin: 'null' },
      { Origin: `https://${host()}` },
      { Origin: 'http://localhost:9' },
      { 'Sec-Fetch-Site': 'cross-site' },
      { 'Sec-Fetch-Site': 'same-site' },
      { Origin: running.address, 'Sec-Fetch-Site': 'cross-site' },
    ] as Record<string, string>[]) {
      const { status, body } = await put(headers);
      expect([headers, status]).toEqual([headers, 403]);
      expect(problem(body).title).toMatch(/only from its own page/);
      expect((await running.raw('DELETE', `/api/sounds/${id}`, headers)).status).toBe(403);
    }
    await still();
    const own = { Origin: running.address, 'Sec-Fetch-Site': 'same-origin' };
    const made = await running.raw(
      'POST',
      '/api/sounds',
      { 'Content-Type': 'application/json', ...own },
      JSON.stringify({ document: cleanSound() }),
    );
    expect(made.status).toBe(201);
    // Another page may link here.
    expect(
      (await running.raw('GET', '/', { 'Sec-Fetch-Site': 'cross-site', Accept: 'text/html' })).status,
    ).toBe(200);
  });

  it('take each its own type of content: what a form can send fits none', async () => {
    const wav = Buffer.from(writeWav([new Float32Array(480)], 48000, '16'));
    const json = JSON.stringify({ document: cleanSound() });
    const forms = ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data; boundary=x'];
    for (const [method, path, types, body] of [
      [
        'POST',
        '/api/assets',
        [...forms, 'application/json', 'application/octet-stream'],
        wav.toString('latin1'),
      ],
      ['POST', '/api/sounds', [...forms, 'audio/wav'], json],
      ['PUT', `/api/sounds/${id}`, forms, json],
      ['POST', `/api/sounds/${id}/restore`, forms, ''],
      ['POST', '/api/parts', forms, '{}'],
    ] as const)
      for (const type of types) {
        const answer = await running.raw(method, path, { 'Content-Type': type }, body);
        expect([path, type, answer.status]).toEqual([path, type, 415]);
        expect(problem(answer.body).title).toMatch(/This address takes (application\/json|audio\/wav)/);
      }
    expect((await running.raw('POST', '/api/sounds', {}, json)).status).toBe(415);
    await still();
  });

  it('stand in no frame, and load nothing from elsewhere: every page says so, the API’s own too', async () => {
    for (const path of [
      '/',
      '/index.html',
      `/sounds/${id}/layers`,
      '/api/docs',
      '/nothing',
      '/api/nothing',
    ]) {
      const { headers } = await running.raw('GET', path, { Accept: 'text/html' });
      expect([path, headers['content-security-policy']]).toEqual([
        path,
        expect.stringMatching(/default-src 'self';.*frame-ancestors 'none'/),
      ]);
      expect(headers['x-content-type-options']).toBe('nosniff');
    }
  });
});
