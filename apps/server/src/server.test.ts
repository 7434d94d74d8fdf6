import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { cleanSound, FORMAT_VERSION, trenchGrowl, writeWav, type SoundDocument } from '@abyssal/core';

const MAIN = resolve(__dirname, '../dist/start/main.js');
const data = mkdtempSync(join(tmpdir(), 'abyssal-server-'));
// The database runs as a user of its own, who must be able to enter.
spawnSync('chmod', ['755', data]);
let server: ChildProcess;
let address = '';

/** Starts the built server on a database of its own; resolves with its address once it is printed. */
function start(...args: string[]): Promise<{ process: ChildProcess; address: string }> {
  const started = spawn(process.execPath, [MAIN, '--port', '0', '--data', data, ...args], {
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  return new Promise((done, fail) => {
    let words = '';
    started.stderr!.on('data', (text: Buffer) => {
      words += text.toString();
    });
    started.stdout!.on('data', (text: Buffer) => {
      const found = /http:\/\/[\d.:]+/.exec(text.toString());
      if (found) done({ process: started, address: found[0] });
    });
    started.once('exit', () => {
      fail(new Error(words));
    });
  });
}
const ended = (child: ChildProcess) =>
  new Promise((done) => {
    if (child.exitCode !== null || child.signalCode !== null) done(null);
    else child.once('exit', done);
  });
const databasePid = () => Number(readFileSync(join(data, 'mariadb.pid'), 'utf8'));

beforeAll(async () => {
  ({ process: server, address } = await start());
}, 120_000);
afterAll(async () => {
  server.kill('SIGTERM');
  await ended(server);
  rmSync(data, { recursive: true, force: true });
}, 60_000);

type Answer = { status: number; headers: Headers; body: any };
/**
 * One request on a connection of its own: one kept open may have been closed by the server while a test was
 * busy with itself.
 */
async function call(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Answer> {
  const raw = body instanceof Uint8Array || typeof body === 'string';
  const response = await fetch(`${address}/api${path}`, {
    method,
    headers: {
      Connection: 'close',
      ...(raw ? {} : body === undefined ? {} : { 'Content-Type': 'application/json' }),
      ...headers,
    },
    body: raw ? (body as string) : body === undefined ? undefined : JSON.stringify(body),
  });
  const text = await response.text();
  return {
    status: response.status,
    headers: response.headers,
    body: /json/.test(response.headers.get('content-type') ?? '') ? JSON.parse(text) : text,
  };
}
const create = async (change: (sound: SoundDocument) => void = () => undefined) => {
  const document = cleanSound();
  change(document);
  return (await call('POST', '/sounds', { document })).body;
};
const isProblem = ({ status, headers, body }: Answer, wanted: number, title: RegExp) => {
  expect(status).toBe(wanted);
  expect(headers.get('content-type')).toMatch(/^application\/problem\+json/);
  expect(body).toMatchObject({ type: expect.stringMatching(/^urn:abyssal:problem:/), status: wanted });
  expect(body.title).toMatch(title);
  expect(body.title).not.toMatch(/\n/);
};

describe('sounds', () => {
  it('come with the demo record the first time', async () => {
    const { body } = await call('GET', '/sounds?sort=name');
    expect(body.items.map(({ name }: { name: string }) => name)).toEqual([
      'Bilge Drone',
      'Ebb Drift',
      'Keel Pluck',
      'Mud Line',
      'Slack Water',
      'Sluice Talker',
      'Trench Growl',
    ]);
    expect(body.items[6]).toMatchObject({
      author: 'Low Water',
      tags: ['growl', 'wobble'],
      key: 'F minor',
      tempoBpm: 140,
      version: 1,
    });
  });

  it('are kept, read, changed and told apart by version', async () => {
    const made = await call('POST', '/sounds', { document: trenchGrowl() });
    expect(made.status).toBe(201);
    expect(made.headers.get('location')).toBe(`/api/sounds/${made.body.id}`);
    const { id } = made.body;
    const changed = { ...trenchGrowl(), name: 'Trench Growl, deeper' };
    const saved = await call('PUT', `/sounds/${id}`, { document: changed }, { 'If-Match': '"1"' });
    expect([saved.status, saved.headers.get('etag'), saved.body.version]).toEqual([200, '"2"', 2]);
    const read = await call('GET', `/sounds/${id}`);
    expect(read.body.document).toEqual(changed);
    expect(read.headers.get('etag')).toBe('"2"');
  });

  it('refuse the later of two saves, and lose neither', async () => {
    const { id } = await create();
    const one = await call(
      'PUT',
      `/sounds/${id}`,
      { document: { ...cleanSound(), name: 'one' } },
      { 'If-Match': '"1"' },
    );
    const two = await call(
      'PUT',
      `/sounds/${id}`,
      { document: { ...cleanSound(), name: 'two' } },
      { 'If-Match': '"1"' },
    );
    expect(one.status).toBe(200);
    isProblem(two, 412, /saved somewhere else/);
    expect(two.body.currentVersion).toBe(2);
    expect((await call('GET', `/sounds/${id}`)).body.document.name).toBe('one');
  });

  it('of many saves at once exactly one wins', async () => {
    const { id } = await create();
    const answers = await Promise.all(
      Array.from({ length: 8 }, (_, i) =>
        call('PUT', `/sounds/${id}`, { document: { ...cleanSound(), name: `n${i}` } }, { 'If-Match': '"1"' }),
      ),
    );
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
    expect(answers.filter(({ status }) => status === 412)).toHaveLength(7);
  });

  it('answers twelve clients each with what they sent, and the version that it got', async () => {
    const { id } = await create();
    let version = 1;
    let kept = 0;
    for (let round = 0; round < 30; round++) {
      // Some go on from a version that another is only just saving: one save follows at the heels of the last.
      const saves = Array.from({ length: 12 }, (_, who) => ({
        from: version + (who % 4),
        document: { ...cleanSound(), name: `round ${round}, client ${who}` },
      }));
      const answers = await Promise.all(
        saves.map(({ from, document }) =>
          call('PUT', `/sounds/${id}`, { document }, { 'If-Match': `"${from}"` }),
        ),
      );
      answers.forEach(({ status, headers, body }, who) => {
        if (status === 412) return;
        const { from, document } = saves[who];
        expect([status, body.document.name, body.version, headers.get('etag')]).toEqual([
          200,
          document.name,
          from + 1,
          `"${from + 1}"`,
        ]);
        kept += 1;
      });
      ({ version } = (await call('GET', `/sounds/${id}`)).body);
    }
    expect(kept).toBe(version - 1);
    // Enough of them did follow one another for this to say something.
    expect(kept).toBeGreaterThan(40);
  });

  it('want a version to be changed', async () => {
    const { id } = await create();
    isProblem(await call('PUT', `/sounds/${id}`, { document: cleanSound() }), 428, /If-Match/);
    isProblem(
      await call('PUT', `/sounds/${id}`, { document: cleanSound() }, { 'If-Match': 'new' }),
      400,
      /a version in quotes/,
    );
  });

  it('are deleted and restored', async () => {
    const { id } = await create((s) => {
      s.name = 'Gone';
    });
    expect((await call('DELETE', `/sounds/${id}`)).status).toBe(204);
    isProblem(await call('GET', `/sounds/${id}`), 404, /no such sound/);
    isProblem(await call('DELETE', `/sounds/${id}`), 404, /no such sound/);
    isProblem(
      await call('PUT', `/sounds/${id}`, { document: cleanSound() }, { 'If-Match': '"1"' }),
      404,
      /no such sound/,
    );
    expect((await call('POST', `/sounds/${id}/restore`)).body.document.name).toBe('Gone');
    isProblem(await call('GET', '/sounds/not-an-id'), 404, /no such sound/);
  });

  it('are searched by every word, and signs of the search language are plain text', async () => {
    await create((s) => {
      s.name = '100% _deep_';
      s.author = 'Quay';
      s.tags = ['pluck'];
      s.ground.key = 'A';
    });
    const names = async (search: string) =>
      (await call('GET', `/sounds?search=${encodeURIComponent(search)}`)).body.items.map(
        ({ name }: { name: string }) => name,
      );
    expect(await names('100% quay')).toEqual(['100% _deep_']);
    expect(await names('pluck A minor quay')).toEqual(['100% _deep_']);
    expect(await names('%')).toEqual([]);
    expect(await names('_deep_')).toEqual(['100% _deep_']);
    expect(await names('nowhere')).toEqual([]);
  });

  it('are found by the beginnings of words, and by a note name with its scale as the key', async () => {
    await create((s) => {
      s.name = 'Quarry cut';
      s.ground.key = 'C';
      s.ground.scale = 'minor';
    });
    await create((s) => {
      s.name = 'Quarry sharp';
      s.ground.key = 'C♯';
      s.ground.scale = 'minor';
    });
    await create((s) => {
      s.name = 'Quarry minor chant';
      s.ground.key = 'G';
      s.ground.scale = 'dorian';
    });
    const names = async (search: string) =>
      (await call('GET', `/sounds?sort=name&search=${encodeURIComponent(search)}`)).body.items.map(
        ({ name }: { name: string }) => name,
      );
    expect(await names('quarry c minor')).toEqual(['Quarry cut']);
    expect(await names('C# minor quarry')).toEqual(['Quarry sharp']);
    expect(await names('quarry c')).toEqual(['Quarry cut', 'Quarry minor chant', 'Quarry sharp']);
    expect(await names('quarry minor')).toEqual(['Quarry cut', 'Quarry minor chant', 'Quarry sharp']);
    expect(await names('uarry')).toEqual([]);
  });

  it.each(['name', '-name', 'tempo', '-tempo', 'updated', '-updated'])(
    'are paged by cursor in the order %s, each once',
    async (sort) => {
      for (let i = 0; i < 3; i++)
        await create((s) => {
          s.name = 'Same';
          s.tags = ['paged'];
        });
      const whole = (await call('GET', `/sounds?search=paged&sort=${sort}&limit=100`)).body.items.map(
        ({ id }: { id: string }) => id,
      );
      const paged: string[] = [];
      let cursor: string | null = '';
      while (cursor !== null) {
        const { body }: Answer = await call(
          'GET',
          `/sounds?search=paged&sort=${sort}&limit=2${cursor ? `&cursor=${cursor}` : ''}`,
        );
        paged.push(...body.items.map(({ id }: { id: string }) => id));
        cursor = body.nextCursor;
      }
      expect(paged).toEqual(whole);
      expect(new Set(paged).size).toBe(paged.length);
    },
  );

  it.each([
    ['sort=loud', /sort/],
    ['limit=0', /limit/],
    ['limit=x', /limit/],
    ['cursor=zzz', /cursor/],
    ['colour=blue', /colour/],
  ])('refuse the list with %s', async (query, title) => {
    isProblem(await call('GET', `/sounds?${query}`), 422, title);
  });

  it('keep names in any script', async () => {
    const { id } = await create((s) => {
      s.name = 'Тихая вода 静水 🌊';
    });
    expect((await call('GET', `/sounds/${id}`)).body.document.name).toBe('Тихая вода 静水 🌊');
  });
});

describe('bad documents', () => {
  it('are refused with path and bound', async () => {
    const document = cleanSound();
    document.layers[1].filters[0].cutoffHz = 40000;
    isProblem(
      await call('POST', '/sounds', { document }),
      422,
      /layers\[1\]\.filters\[0\]\.cutoffHz: 40000 is above 20000/,
    );
    isProblem(
      await call('POST', '/sounds', { document: { ...cleanSound(), formatVersion: 9 } }),
      422,
      /Open it with a newer Abyssal/,
    );
    isProblem(
      await call('POST', '/sounds', { document: { ...cleanSound(), extra: 1 } }),
      422,
      /extra: is not a known field/,
    );
    isProblem(await call('POST', '/sounds', {}), 422, /this is not a sound/);
    isProblem(await call('POST', '/sounds', { document: cleanSound(), extra: 1 }), 422, /extra/);
  });

  it('NaN is no JSON, and null is no number', async () => {
    const json = { 'Content-Type': 'application/json' };
    isProblem(
      await call(
        'POST',
        '/sounds',
        JSON.stringify({ document: cleanSound() }).replace('"tempoBpm":140', '"tempoBpm":NaN'),
        json,
      ),
      400,
      /not valid JSON/,
    );
    isProblem(
      await call(
        'POST',
        '/sounds',
        JSON.stringify({ document: cleanSound() }).replace('"tempoBpm":140', '"tempoBpm":1e999'),
        json,
      ),
      422,
      /ground\.tempoBpm: Infinity is not a finite number/,
    );
    isProblem(
      await call('POST', '/sounds', {
        document: { ...cleanSound(), ground: { ...cleanSound().ground, tempoBpm: null } },
      }),
      422,
      /null is not a number/,
    );
  });

  it('too large ones are refused', async () => {
    isProblem(
      await call('POST', '/sounds', { document: { ...cleanSound(), name: 'x'.repeat(5_000_000) } }),
      413,
      /up to 4 MB/,
    );
  });

  // Some of these once took minutes: what is wrong with them must be known before they are parsed.
  it.each([
    ['keys that nobody knows', /more than 1024 entries/, () => manyKeys(300_000)],
    ['layers without end', /more than 1024 entries/, () => ({ layers: Array(85_000).fill({}) })],
    [
      'lists within lists',
      /nested more than/,
      () => JSON.parse('['.repeat(3000) + ']'.repeat(3000)) as object,
    ],
    [
      'as many keys as are parsed, many times',
      /x: is not a known field/,
      () => ({ ...cleanSound(), x: Array(80).fill(manyKeys(1000)) }),
    ],
    [
      'a version 1 of more layers and links than there may be',
      /layers: the list has 1000 entries, more than 8/,
      () => ({
        ...cleanSound(),
        formatVersion: 1,
        layers: Array(1000).fill({ id: 'a' }),
        links: Array(1000).fill({ target: 'layers.b.tone.x' }),
      }),
    ],
  ])('of %s are refused', async (_what, title, document) => {
    isProblem(await call('POST', '/sounds', { document: document() }), 422, title);
  });

  it('of kinds that every object has by name are refused, and so are names that are no text', async () => {
    const [layer] = cleanSound().layers;
    for (const kind of ['constructor', '__proto__', 'toString']) {
      const source = JSON.parse(`{"kind":"${kind}"}`) as never;
      const content = { ...layer, tones: layer.tones.map((tone) => ({ ...tone, source })) };
      isProblem(
        await call('POST', '/sounds', { document: { ...cleanSound(), layers: [content] } }),
        422,
        /source: kind/,
      );
      isProblem(await call('POST', '/parts', { kind: 'layer', name: 'Bad', content }), 422, /source: kind/);
      isProblem(await call('POST', '/parts', { kind, name: 'Bad', content: layer }), 422, /kind/);
    }
    for (const name of ['half \ud83d', 'bell\u0007']) {
      isProblem(
        await call('POST', '/sounds', { document: { ...cleanSound(), name } }),
        422,
        /name: the text has/,
      );
      isProblem(await call('POST', '/parts', { kind: 'layer', name, content: layer }), 422, /the name has/);
    }
  });
});

const manyKeys = (count: number) => Object.fromEntries(Array.from({ length: count }, (_, i) => [`k${i}`, 1]));

describe('kept parts', () => {
  it('are layers that were kept: listed latest first, fetched, taken out', async () => {
    const [sub, body] = cleanSound().layers;
    const one = await call('POST', '/parts', { kind: 'layer', name: 'Deep', content: sub });
    expect(one.status).toBe(201);
    const two = await call('POST', '/parts', { kind: 'layer', name: 'Wide', content: body });
    const names = async () =>
      ((await call('GET', '/parts?kind=layer')).body as unknown as { name: string }[]).map(
        ({ name }) => name,
      );
    expect(await names()).toEqual(['Wide', 'Deep']);
    expect((await call('GET', `/parts/${one.body.id}`)).body.content).toEqual(sub);
    expect((await call('DELETE', `/parts/${two.body.id}`)).status).toBe(204);
    expect(await names()).toEqual(['Deep']);
    isProblem(await call('GET', `/parts/${two.body.id}`), 404, /no such part/);
    isProblem(await call('DELETE', `/parts/${two.body.id}`), 404, /no such part/);
    expect((await call('POST', `/parts/${two.body.id}/restore`)).body.content).toEqual(body);
    expect(await names()).toEqual(['Wide', 'Deep']);
    isProblem(await call('POST', '/parts/00000000-0000-4000-8000-000000000000/restore'), 404, /no such part/);
  });

  it('are kicks and backing parts as well, each checked as what it is', async () => {
    const { kick } = cleanSound();
    const part = {
      id: 'part-1',
      name: 'Drums',
      on: true,
      asset: 'a'.repeat(64),
      fileName: 'd.wav',
      sound: '',
      startTick: 0,
      gainDb: -3,
    };
    const kept = await call('POST', '/parts', { kind: 'kick', name: 'Hull Knock', content: kick });
    expect((await call('GET', `/parts/${kept.body.id}`)).body.content).toEqual(kick);
    // As version 3 kept it.
    const { sound: _sound, ...third } = part;
    const drums = await call('POST', '/parts', { kind: 'backing', name: 'Drums', content: third });
    expect(drums.status).toBe(201);
    expect((await call('GET', `/parts/${drums.body.id}`)).body.content).toEqual(part);
    expect((await call('GET', '/parts?kind=kick')).body).toHaveLength(1);
    isProblem(
      await call('POST', '/parts', { kind: 'kick', name: 'Bad', content: { ...kick, levelDb: 99 } }),
      422,
      /levelDb: 99 is above 12/,
    );
    isProblem(
      await call('POST', '/parts', { kind: 'backing', name: 'Bad', content: { ...part, gainDb: 99 } }),
      422,
      /gainDb: 99 is above 12/,
    );
    isProblem(
      await call('POST', '/parts', { kind: 'kick', name: 'Bad', content: part }),
      422,
      /is not a known field|is missing/,
    );
  });

  it('are refused when they are no layer', async () => {
    const [layer] = cleanSound().layers;
    isProblem(
      await call('POST', '/parts', { kind: 'layer', name: 'Bad', content: { ...layer, levelDb: 99 } }),
      422,
      /levelDb: 99 is above 12/,
    );
    isProblem(await call('POST', '/parts', { kind: 'sound', name: 'Bad', content: layer }), 422, /kind/);
    isProblem(await call('POST', '/parts', { kind: 'layer', name: '', content: layer }), 422, /name/);
    isProblem(await call('GET', '/parts?kind=any'), 422, /kind/);
  });

  it('and sounds of an older version are kept as the present one', async () => {
    const [old] = JSON.parse(
      readFileSync(
        new URL('../../../packages/core/src/testing/older/version-1.json', `file://${__filename}`),
        'utf8',
      ),
    ) as SoundDocument[];
    const made = await call('POST', '/sounds', { document: old });
    expect(made.status).toBe(201);
    expect(made.body.document.formatVersion).toBe(FORMAT_VERSION);
  });
});

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
    const response = await fetch(`${address}/api/assets/${hash}`);
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
        `${address}/api/assets`,
        { method: 'POST', headers: { 'Content-Length': 2 ** 31 } },
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
});

describe('the server', () => {
  it('answers what nobody asked for with problem details', async () => {
    isProblem(await call('GET', '/nothing'), 404, /no page at this address/);
  });

  it('describes itself in OpenAPI', async () => {
    const { body } = await call('GET', '/openapi.json');
    expect(Object.keys(body.paths)).toEqual(
      expect.arrayContaining([
        '/api/sounds',
        '/api/sounds/{id}',
        '/api/sounds/{id}/restore',
        '/api/assets',
        '/api/assets/{hash}',
        '/api/health',
      ]),
    );
    expect((await fetch(`${address}/api/docs`)).status).toBe(200);
  });

  it('isolates the page, and serves it at any station', async () => {
    const response = await fetch(`${address}/sounds/1/layers`, { headers: { Accept: 'text/html' } });
    expect(response.status).toBe(200);
    expect([
      response.headers.get('cross-origin-opener-policy'),
      response.headers.get('cross-origin-embedder-policy'),
    ]).toEqual(['same-origin', 'require-corp']);
    expect(await response.text()).toContain('<div id="root">');
  });
});

describe('a database that goes away', () => {
  const until = async (check: () => Promise<boolean>) => {
    for (let i = 0; i < 100; i++) {
      if (await check()) return true;
      await new Promise((done) => {
        setTimeout(done, 200);
      });
    }
    return false;
  };
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
    const { id } = await create((s) => {
      s.name = 'Survivor';
    });
    process.kill(databasePid(), 'SIGKILL');
    expect(await until(async () => !(await healthy()))).toBe(true);
    expect(await until(healthy)).toBe(true);
    expect((await call('GET', `/sounds/${id}`)).body.document.name).toBe('Survivor');
  }, 60_000);

  it('left behind by a killed server is taken over, with nothing lost and the demo not loaded again', async () => {
    const before = (await call('GET', '/sounds?limit=100')).body.items.length;
    server.kill('SIGKILL');
    await ended(server);
    ({ process: server, address } = await start());
    expect((await call('GET', '/sounds?limit=100')).body.items.length).toBe(before);
  }, 60_000);

  it('ends with the server', async () => {
    const pid = databasePid();
    server.kill('SIGTERM');
    await ended(server);
    expect(() => process.kill(pid, 0)).toThrow();
    ({ process: server, address } = await start('--no-demo'));
    expect(await healthy()).toBe(true);
  }, 60_000);
});
