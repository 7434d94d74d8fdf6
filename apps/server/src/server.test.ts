import { cleanSound, FORMAT_VERSION, trenchGrowl, type SoundDocument } from '@abyssal/core';
import { isProblem, Running, type Answer } from './testing/running.js';

let running: Running;
const call: Running['call'] = (...given) => running.call(...given);

beforeAll(async () => {
  running = await Running.start();
}, 120_000);
afterAll(() => running.remove(), 60_000);

const create = async (change: (sound: SoundDocument) => void = () => undefined) => {
  const document = cleanSound();
  change(document);
  return (await call('POST', '/sounds', { document })).body;
};
describe('sounds', () => {
  it('come with the demo record the first time', async () => {
    const { body } = await call('GET', '/sounds?sort=name');
    expect(body.items.map(({ name }: { name: string }) => name)).toEqual([
      'Bilge Drone',
      'Ebb Drift',
      'Hollow Pier',
      'Keel Pluck',
      'Mud Line',
      'Slack Water',
      'Sluice Talker',
      'Trench Growl',
    ]);
    expect(body.items[7]).toMatchObject({
      author: 'Low Water',
      tags: ['growl', 'wobble'],
      key: 'F minor',
      tempoBpm: 140,
      version: 1,
    });
    const { body: chains } = await call('GET', '/parts?kind=chain');
    expect(new Set((chains as unknown as { name: string }[]).map(({ name }) => name))).toEqual(
      new Set(['Barnacle', 'Undertow', 'Siren Mouth', 'Rip Current', 'Foghorn', 'Flotsam']),
    );
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

  it('are listed once deleted, the latest first, and purged by hand', async () => {
    const ids: string[] = [];
    for (const name of ['First gone', 'Second gone']) {
      const { id } = await create((s) => {
        s.name = name;
      });
      await call('DELETE', `/sounds/${id}`);
      ids.push(id);
    }
    const gone = async () =>
      (await call('GET', '/sounds?deleted=true&search=gone')).body.items as {
        id: string;
        name: string;
        deletedAt: string;
      }[];
    expect((await gone()).map(({ name }) => name)).toEqual(['Second gone', 'First gone']);
    expect((await gone())[0].deletedAt).toMatch(/^20\d\d-/);
    const paged = await call('GET', '/sounds?deleted=true&limit=1');
    expect(
      (await call('GET', `/sounds?deleted=true&limit=1&cursor=${paged.body.nextCursor}`)).body.items[0].name,
    ).toBe('First gone');
    expect((await call('DELETE', `/sounds/${ids[0]}/purge`)).status).toBe(204);
    expect((await gone()).map(({ name }) => name)).toEqual(['Second gone']);
    isProblem(await call('POST', `/sounds/${ids[0]}/restore`), 404, /no such sound/);
    await call('POST', `/sounds/${ids[1]}/restore`);
    isProblem(await call('DELETE', `/sounds/${ids[1]}/purge`), 404, /purged once it has been deleted/);
    isProblem(await call('GET', '/sounds?deleted=maybe'), 422, /deleted/);
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
      await call('POST', '/sounds', { document: { ...cleanSound(), formatVersion: FORMAT_VERSION + 1 } }),
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
    expect((await fetch(`${running.address}/api/docs`)).status).toBe(200);
  });

  it('isolates the page, and serves it at any station', async () => {
    const response = await fetch(`${running.address}/sounds/1/layers`, { headers: { Accept: 'text/html' } });
    expect(response.status).toBe(200);
    expect([
      response.headers.get('cross-origin-opener-policy'),
      response.headers.get('cross-origin-embedder-policy'),
    ]).toEqual(['same-origin', 'require-corp']);
    expect(await response.text()).toContain('<div id="root">');
  });
});
