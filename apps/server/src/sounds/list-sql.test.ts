import { cleanSound } from '@abyssal/core';
import { QueryTypes, Sequelize } from 'sequelize';
import { Running } from '../testing/running.js';
import { countingSql, pageSql, plansOf, type Listing, type Plan } from './list-sql.js';
import { termsOf } from './words.js';

describe('plans', () => {
  it('go through the list in its order where nothing is searched for', () => {
    expect(plansOf([], 50_000, 50)).toEqual([{ inOrder: Infinity }]);
  });

  it('look up what few sounds have', () => {
    expect(plansOf([25_000, 30], 50_000, 50)).toEqual([{ rare: 1 }]);
  });

  it('go through the list first where the page is full soon, and have a sure way behind it', () => {
    expect(plansOf([6000], 50_000, 50)).toEqual([{ inOrder: 1275 }, { rare: 0 }]);
    expect(plansOf([8000, 8000], 50_000, 50)).toEqual([{ inOrder: 5979 }, 'all']);
  });
});

describe('the list in a database', () => {
  let running: Running;
  let sequelize: Sequelize;
  const listing: Listing = { search: '', sort: '-updated', deleted: false, cursor: null, limit: 50 };
  const values = { word0: 'gro%', text0: ' gro', word1: 'deep%', text1: ' deep' };
  const explain = (sql: string) =>
    sequelize.query<{ table: string; key: string | null; Extra: string }>(`EXPLAIN ${sql}`, {
      replacements: values,
      type: QueryTypes.SELECT,
    });
  const tables = async (search: string, plan: Plan, more: Partial<Listing> = {}) =>
    (await explain(pageSql({ ...listing, ...more }, termsOf(search), plan))).map(({ table, key, Extra }) => [
      table,
      key,
      /Using index(?! condition)/.test(Extra ?? ''),
      /filesort/.test(Extra ?? ''),
    ]);

  beforeAll(async () => {
    running = await Running.start('--no-demo');
    const { port, password } = running.databaseAddress();
    sequelize = new Sequelize('abyssal', 'abyssal', password, {
      dialect: 'mariadb',
      host: '127.0.0.1',
      port,
      logging: false,
    });
    for (let i = 0; i < 8; i++)
      await running.call('POST', '/sounds', {
        document: { ...cleanSound(`${i % 2 ? 'Growl' : 'Deep'} ${i}`), tags: ['deep'] },
      });
  }, 120_000);
  afterAll(async () => {
    await sequelize.close();
    await running.remove();
  }, 60_000);

  it('keeps documents out of the rows that are listed', async () => {
    const columns = await sequelize.getQueryInterface().describeTable('sounds');
    expect(Object.keys(columns)).not.toContain('document');
  });

  it('counts by the index of words alone', async () => {
    const rows = await explain(countingSql(termsOf('gro deep')));
    const read = rows.filter(({ table }) => table === 'sound_words');
    expect(read).toHaveLength(2);
    for (const { key, Extra } of read) {
      expect(key).toBe('PRIMARY');
      expect(Extra).toContain('Using index');
    }
  });

  it('is read in the order of an index, without being sorted', async () => {
    const orders = { '-updated': 'sounds_by_change', name: 'sounds_by_name', '-tempo': 'sounds_by_tempo' };
    for (const [sort, index] of Object.entries(orders))
      expect(await tables('', { inOrder: Infinity }, { sort: sort as Listing['sort'] })).toEqual([
        ['s', index, false, false],
      ]);
    expect(await tables('gro deep', { inOrder: 500 })).toEqual([['s', 'sounds_by_change', false, false]]);
  });

  it('looks up the sounds of a rare word, and no others', async () => {
    const rows = await tables('gro deep', { rare: 0 });
    expect(rows).toEqual(
      expect.arrayContaining([
        ['sound_words', 'PRIMARY', true, false],
        ['s', 'PRIMARY', false, false],
      ]),
    );
  });

  it('finds the same by every plan', async () => {
    for (const search of ['gro deep', 'deep', 'deep gro 3']) {
      const terms = termsOf(search);
      const words = Object.fromEntries(
        terms.flatMap(({ text }, i) => [
          [`word${i}`, `${text}%`],
          [`text${i}`, ` ${text}`],
        ]),
      );
      const ids = async (plan: Plan) =>
        (
          await sequelize.query<{ id: string }>(pageSql(listing, terms, plan), {
            replacements: words,
            type: QueryTypes.SELECT,
          })
        ).map(({ id }) => id);
      const wanted = await ids('all');
      expect(wanted.length).toBe({ 'gro deep': 4, deep: 8, 'deep gro 3': 1 }[search]);
      expect(await ids({ inOrder: Infinity })).toEqual(wanted);
      for (let rare = 0; rare < terms.length; rare++) expect(await ids({ rare })).toEqual(wanted);
    }
  });

  it('follows a sound whose words change, and forgets one that is purged', async () => {
    const made = (await running.call('POST', '/sounds', { document: cleanSound('Sunken bell') })).body;
    const found = async (search: string) =>
      (await running.call('GET', `/sounds?search=${search}`)).body.items.length as number;
    expect(await found('bell')).toBe(1);
    await running.call(
      'PUT',
      `/sounds/${made.id}`,
      { document: cleanSound('Sunken buoy') },
      { 'If-Match': '"1"' },
    );
    expect([await found('bell'), await found('buoy'), await found('sunken')]).toEqual([0, 1, 1]);
    await running.call('DELETE', `/sounds/${made.id}`);
    expect(await found('buoy')).toBe(0);
    expect((await running.call('DELETE', `/sounds/${made.id}/purge`)).status).toBe(204);
    const rows = await sequelize.query<{ n: number | bigint }>(
      'SELECT (SELECT COUNT(*) FROM sound_words WHERE sound_id = :id) + (SELECT COUNT(*) FROM sound_documents WHERE sound_id = :id) AS n',
      { replacements: { id: made.id as string }, type: QueryTypes.SELECT },
    );
    expect(Number(rows[0].n)).toBe(0);
  });
});
