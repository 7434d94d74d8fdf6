import { readFileSync } from 'node:fs';
import { cleanSound, cleanSystem, cleanUnit, FORMAT_VERSION, type SoundDocument } from '@abyssal/core';
import { isProblem, Running } from '../testing/running.js';

let running: Running;
const call: Running['call'] = (...given) => running.call(...given);

beforeAll(async () => {
  running = await Running.start();
}, 120_000);
afterAll(() => running.remove(), 60_000);

/** A band as a file of all of grit has it. */
const cleanGritBand = { id: 'band-1', on: true, levelDb: 0, widthPct: 100, wetPct: 100, units: [] };

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

  it('are playback systems and sets of targets, each by its own rules', async () => {
    const system = cleanSystem('own-1');
    const { targets, systems } = cleanSound();
    const kept = await call('POST', '/parts', { kind: 'system', name: 'Stairwell', content: system });
    expect(kept.status).toBe(201);
    expect((await call('GET', `/parts/${kept.body.id}`)).body.content).toEqual(system);
    const set = { targets: { ...targets, mudDb: -4 }, systems: { ...systems, leftOut: ['phone'] } };
    const keptSet = await call('POST', '/parts', { kind: 'targets', name: 'Club only', content: set });
    expect((await call('GET', `/parts/${keptSet.body.id}`)).body.content).toEqual(set);
    isProblem(
      await call('POST', '/parts', { kind: 'system', name: 'No room', content: { ...system, noiseDb: [] } }),
      422,
      /noiseDb/,
    );
  });

  it('are chains of units, with what they did where they were kept; all of grit is none', async () => {
    const chain = {
      format: 'abyssal.chain',
      formatVersion: 1,
      name: 'Kelp Drag',
      units: [cleanUnit('tube', { id: 'tube-1', driveDb: 9 })],
      figures: { loudnessLu: 2.5, crestDb: -3.25 },
    };
    const kept = await call('POST', '/parts', { kind: 'chain', name: 'Kelp Drag', content: chain });
    expect((await call('GET', `/parts/${kept.body.id}`)).body.content).toEqual(chain);
    const bad = { ...chain, units: [{ ...chain.units[0], driveDb: 99 }] };
    isProblem(await call('POST', '/parts', { kind: 'chain', name: 'Bad', content: bad }), 422, /driveDb/);
    const all = { format: 'abyssal.grit', formatVersion: 1, crossoversHz: [], monoLows: true, after: [] };
    const whole = { ...all, bands: [cleanGritBand] };
    isProblem(
      await call('POST', '/parts', { kind: 'chain', name: 'All', content: whole }),
      422,
      /all of grit/,
    );
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
        new URL('../../../../packages/core/src/testing/older/version-1.json', `file://${__filename}`),
        'utf8',
      ),
    ) as SoundDocument[];
    const made = await call('POST', '/sounds', { document: old });
    expect(made.status).toBe(201);
    expect(made.body.document.formatVersion).toBe(FORMAT_VERSION);
  });
});
