import { createHash } from 'node:crypto';
import { request } from 'node:http';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { cleanBacking, cleanSound, cleanWavKick, writeWav } from '@abyssal/core';
import { isProblem, Running, until } from '../testing/running.js';

let running: Running;
const call: Running['call'] = (...given) => running.call(...given);

beforeAll(async () => {
  running = await Running.start('--no-demo');
}, 120_000);
afterAll(() => running.remove(), 60_000);

describe('recordings', () => {
  const wav = Uint8Array.from(
    writeWav([Float32Array.from({ length: 4800 }, (_, i) => Math.sin(i / 50))], 48000, '24'),
  );

  it('are kept once by their SHA-256, and come back as they were', async () => {
    const hash = createHash('sha256').update(wav).digest('hex');
    const first = await call('POST', '/assets', wav);
    expect([first.status, first.body]).toEqual([
      201,
      { hash, size: wav.length, sampleRateHz: 48000, channels: 1, frames: 4800 },
    ]);
    expect((await call('POST', '/assets', wav)).body.hash).toBe(hash);
    const response = await fetch(`${running.address}/api/assets/${hash}`);
    expect(response.headers.get('content-type')).toBe('audio/wav');
    expect(new Uint8Array(await response.arrayBuffer())).toEqual(wav);
    isProblem(await call('GET', `/assets/${'0'.repeat(64)}`), 404, /no such recording/);
  });

  it('are known by their content, not by their name', async () => {
    isProblem(
      await call('POST', '/assets', new TextEncoder().encode('this is a text called kick.wav')),
      415,
      /^This is not a WAV file/,
    );
    isProblem(await call('POST', '/assets', wav.slice(0, 2000)), 415, /is cut off/);
    isProblem(await call('POST', '/assets', new Uint8Array(0)), 415, /not a WAV/);
    isProblem(
      await call('POST', '/assets', Uint8Array.from(writeWav([new Float32Array(0)], 48000, '16'))),
      415,
      /holds no samples/,
    );
  });

  it('hold nobody up with what they claim of cues, lists or samplers', async () => {
    for (const name of ['cue ', 'LIST', 'smpl']) {
      // A chunk of 40 bytes that claims more entries than there are bytes in the world.
      const lies = new Uint8Array(wav.length + 48).fill(0xff);
      lies.set(wav);
      lies.set(new TextEncoder().encode(name), wav.length);
      lies.set([40, 0, 0, 0], wav.length + 4);
      const [lying, good] = await Promise.all([call('POST', '/assets', lies), call('POST', '/assets', wav)]);
      expect([lying.status, lying.body.frames, good.status]).toEqual([201, 4800, 201]);
    }
  });

  it('are decoded beside the requests: the server answers while a large one is taken in', async () => {
    const large = Uint8Array.from(
      writeWav([Float32Array.from({ length: 3_000_000 }, (_, i) => Math.sin(i / 70))], 48000, '24'),
    );
    let taken = false;
    const upload = call('POST', '/assets', large).then((answer) => {
      taken = true;
      return answer;
    });
    let answered = 0;
    while (!taken) {
      expect((await call('GET', '/health')).status).toBe(200);
      answered++;
      await new Promise((done) => {
        setTimeout(done, 20);
      });
    }
    expect((await upload).body.frames).toBe(3_000_000);
    expect(answered).toBeGreaterThan(3);
    // What is asked is that the server answers meanwhile, not how long it all takes.
  }, 30_000);

  it('of 2 GB are refused before they are sent', async () => {
    const answer = await new Promise<{ status: number; title: string }>((done, fail) => {
      const sent = request(
        `${running.address}/api/assets`,
        { method: 'POST', headers: { 'Content-Type': 'audio/wav', 'Content-Length': 2 ** 31 } },
        (response) => {
          let text = '';
          response.on('data', (chunk: Buffer) => {
            text += chunk.toString();
          });
          response.on('end', () => {
            done({ status: response.statusCode!, title: JSON.parse(text).title });
            sent.destroy();
          });
        },
      );
      sent.on('error', fail);
      sent.write(Buffer.alloc(1024));
    });
    expect(answer).toEqual({ status: 413, title: 'The file is larger than 50 MB; trim it first.' });
  });

  it('wait their turn, with bounded memory, when many are sent at once and stop half-way', async () => {
    const half = Buffer.alloc(20 * 1024 * 1024, 1);
    const memory = () =>
      Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${running.child.pid}/status`, 'utf8'))![1]) / 1024;
    const before = memory();
    const sent = Array.from({ length: 24 }, () => {
      const upload = request(`${running.address}/api/assets`, {
        method: 'POST',
        headers: { 'Content-Type': 'audio/wav', 'Content-Length': 2 * half.length },
      });
      upload.on('error', () => undefined);
      upload.write(half);
      return upload;
    });
    await new Promise((done) => {
      setTimeout(done, 3000);
    });
    // Held as they came, they would take 480 MB.
    expect(memory() - before).toBeLessThan(150);
    expect((await call('GET', '/health')).status).toBe(200);
    for (const upload of sent) upload.destroy();
    expect((await call('POST', '/assets', wav)).status).toBe(201);
    expect(await until(() => readdirSync(join(running.data, 'uploads')).length === 0)).toBe(true);
  }, 60_000);

  it('that nothing has used for a month are purged; those that something uses are not', async () => {
    const at = (hz: number) =>
      Uint8Array.from(
        writeWav([Float32Array.from({ length: 4800 }, (_, i) => Math.sin(i / hz))], 48000, '16'),
      );
    const [unused, used, inPart, fresh] = await Promise.all(
      [11, 12, 13, 14].map(async (hz) => (await call('POST', '/assets', at(hz))).body.hash as string),
    );
    const sound = cleanSound('Uses a recording');
    const withKick = { ...sound, kick: { ...sound.kick, source: 'wav', wav: cleanWavKick(used, 'k.wav') } };
    const made = (await call('POST', '/sounds', { document: withKick })).body;
    expect(made.version).toBe(1);
    await call('POST', '/parts', { kind: 'backing', name: 'B', content: cleanBacking('b', inPart, 'b.wav') });
    const database = await running.database();
    await database.query("UPDATE assets SET last_used_at = '2026-01-01' WHERE hash <> ?", [fresh]);
    await database.end();
    await running.stop();
    await running.again();
    const status = async (hash: string) => (await call('GET', `/assets/${hash}`)).status;
    expect(await Promise.all([unused, used, inPart, fresh].map(status))).toEqual([404, 200, 200, 200]);
    // The sound lets go of it: from now on the month runs.
    await call('PUT', `/sounds/${made.id}`, { document: sound }, { 'If-Match': '"1"' });
    const again = await running.database();
    await again.query("UPDATE assets SET last_used_at = '2026-01-01'");
    await again.end();
    await running.stop();
    await running.again('--no-demo', '--recordings-gb', '0.00001');
    expect(await Promise.all([used, inPart].map(status))).toEqual([404, 200]);
  }, 90_000);

  it('fill no more than they may, and say so in one sentence', async () => {
    // Since the last test 10 kB may be kept.
    isProblem(await call('POST', '/assets', wav), 507, /fill the 0\.00001 GB they may take: purge sounds/);
    expect((await call('GET', '/sounds')).status).toBe(200);
  });
});
