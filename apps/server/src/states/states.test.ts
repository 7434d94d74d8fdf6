import { cleanSound, type SoundDocument } from '@abyssal/core';
import { isProblem, Running } from '../testing/running.js';

let running: Running;
const call: Running['call'] = (...given) => running.call(...given);

beforeAll(async () => {
  running = await Running.start();
}, 120_000);
afterAll(() => running.remove(), 60_000);

const louder = (): SoundDocument => {
  const sound = cleanSound('Louder');
  return { ...sound, output: { ...sound.output, levelDb: 3 } };
};
const made = async (): Promise<string> =>
  (await call('POST', '/sounds', { document: cleanSound('Kept') })).body.id as string;
/** The least that a sounding is known by. */
const sounding = {
  format: 'abyssal.sounding',
  formatVersion: 1,
  figures: [],
  systems: [],
  notes: [],
  clicks: [],
  glare: [],
  masking: [],
  mono: { bands: [] },
  spectrum: { centresHz: [], bassDb: [] },
};
const hash = 'a'.repeat(64);

describe('kept states of a sound', () => {
  it('are kept under a name, listed latest first, read, taken out and brought back', async () => {
    const sound = await made();
    const one = await call('POST', `/sounds/${sound}/states`, { name: 'Before', document: cleanSound() });
    expect(one.status).toBe(201);
    const two = await call('POST', `/sounds/${sound}/states`, { name: 'After', document: louder() });
    const names = async () =>
      ((await call('GET', `/sounds/${sound}/states`)).body as { name: string }[]).map(({ name }) => name);
    expect(await names()).toEqual(['After', 'Before']);
    expect((await call('GET', `/sounds/${sound}/states/${two.body.id}`)).body.document).toEqual(louder());
    expect((await call('DELETE', `/sounds/${sound}/states/${two.body.id}`)).status).toBe(204);
    expect(await names()).toEqual(['Before']);
    isProblem(await call('GET', `/sounds/${sound}/states/${two.body.id}`), 404, /no such kept state/);
    expect((await call('POST', `/sounds/${sound}/states/${two.body.id}/restore`)).body.name).toBe('After');
    expect(await names()).toEqual(['After', 'Before']);
    // Another sound does not see them.
    const other = await made();
    expect((await call('GET', `/sounds/${other}/states`)).body).toEqual([]);
    isProblem(await call('GET', `/sounds/${other}/states/${two.body.id}`), 404, /no such kept state/);
  });

  it('are up to fifty; one more is refused with what to do, and a restored one counts', async () => {
    const sound = await made();
    const keep = (name: string) => call('POST', `/sounds/${sound}/states`, { name, document: cleanSound() });
    const first = await keep('0');
    for (let i = 1; i < 50; i++) expect((await keep(String(i))).status).toBe(201);
    isProblem(await keep('50'), 409, /keeps up to 50 states; remove one/);
    await call('DELETE', `/sounds/${sound}/states/${first.body.id}`);
    expect((await keep('50')).status).toBe(201);
    isProblem(await call('POST', `/sounds/${sound}/states/${first.body.id}/restore`), 409, /up to 50/);
  });

  it('are refused where they are no sound, have no name, or belong to none', async () => {
    const sound = await made();
    isProblem(
      await call('POST', `/sounds/${sound}/states`, { name: 'x', document: { ...cleanSound(), layers: [] } }),
      422,
      /layers/,
    );
    isProblem(
      await call('POST', `/sounds/${sound}/states`, { name: '', document: cleanSound() }),
      422,
      /name/,
    );
    const nowhere = '00000000-0000-4000-8000-000000000000';
    isProblem(
      await call('POST', `/sounds/${nowhere}/states`, { name: 'x', document: cleanSound() }),
      404,
      /no such sound/,
    );
    isProblem(await call('GET', `/sounds/x/states`), 404, /no such kept state/);
  });
});

describe('what was measured', () => {
  it('is kept with a sound and with a state, the latest alone, and read as it was', async () => {
    const sound = await made();
    isProblem(await call('GET', `/soundings/${sound}`), 404, /Nothing that was measured/);
    expect((await call('PUT', `/soundings/${sound}`, { measured: hash, content: sounding })).status).toBe(
      204,
    );
    expect((await call('GET', `/soundings/${sound}`)).body).toMatchObject({
      measured: hash,
      content: sounding,
    });
    const later = { ...sounding, name: 'Later' };
    await call('PUT', `/soundings/${sound}`, { measured: 'b'.repeat(64), content: later });
    expect((await call('GET', `/soundings/${sound}`)).body).toMatchObject({
      measured: 'b'.repeat(64),
      content: { name: 'Later' },
    });
    const state = await call('POST', `/sounds/${sound}/states`, { name: 'x', document: cleanSound() });
    const figure = { id: 'heard', label: 'Heard on systems', unit: '', value: 4, outOf: 7, verdict: 'watch' };
    const content = { ...sounding, figures: [{ ...figure, detail: 'lost: small phone' }] };
    expect((await call('PUT', `/soundings/${state.body.id}`, { measured: hash, content })).status).toBe(204);
    // The list of states has what was measured of each.
    const [listed] = (await call('GET', `/sounds/${sound}/states`)).body;
    expect(listed).toMatchObject({ name: 'x', figures: [figure] });
  });

  it('is refused of nothing, or where it is no sounding, and goes with its sound when that is purged', async () => {
    const nowhere = '00000000-0000-4000-8000-000000000000';
    isProblem(
      await call('PUT', `/soundings/${nowhere}`, { measured: hash, content: sounding }),
      404,
      /no such/,
    );
    const sound = await made();
    isProblem(await call('PUT', `/soundings/${sound}`, { measured: 'x', content: sounding }), 422, /SHA-256/);
    isProblem(
      await call('PUT', `/soundings/${sound}`, {
        measured: hash,
        content: { ...sounding, formatVersion: 9 },
      }),
      422,
      /no sounding/,
    );
    const state = await call('POST', `/sounds/${sound}/states`, { name: 'x', document: cleanSound() });
    for (const id of [sound, state.body.id as string])
      await call('PUT', `/soundings/${id}`, { measured: hash, content: sounding });
    await call('DELETE', `/sounds/${sound}`);
    expect((await call('DELETE', `/sounds/${sound}/purge`)).status).toBe(204);
    for (const id of [sound, state.body.id as string])
      isProblem(await call('GET', `/soundings/${id}`), 404, /Nothing that was measured/);
  });
});
