import { QueryTypes, type Sequelize } from 'sequelize';
import { Refusal } from '../problem/problem.js';
import {
  countingSql,
  orderOf,
  pageSql,
  plansOf,
  valuesOf,
  type ListedSound,
  type Listing,
  type Plan,
  type Values,
} from './list-sql.js';
import { termsOf } from './words.js';

const badCursor = () => new Refusal(422, 'not-valid', 'cursor: this is no cursor of the list');
const inSql = (date: Date) => date.toISOString().replace('T', ' ').replace('Z', '');

/** Where a page ends: the value it was sorted by, and the id that tells equals apart. */
export function cursorAfter(listing: Listing, row: ListedSound): string {
  const { column } = orderOf(listing);
  const value = {
    updated_at: () => row.updatedAt.toISOString(),
    deleted_at: () => row.deletedAt?.toISOString() ?? '',
    name: () => row.name,
    tempo_bpm: () => row.tempoBpm,
  }[column]();
  return Buffer.from(JSON.stringify([value, row.id])).toString('base64url');
}

/** What a cursor says; throws a `Refusal` for one that is none. */
function readCursor(cursor: string, column: string): Values {
  let value: unknown;
  let id: unknown;
  try {
    [value, id] = JSON.parse(Buffer.from(cursor, 'base64url').toString('utf8')) as [unknown, unknown];
  } catch {
    throw badCursor();
  }
  if (typeof id !== 'string' || (typeof value !== 'string' && typeof value !== 'number')) throw badCursor();
  if (!column.endsWith('_at')) return { after: value, afterId: id };
  const at = new Date(String(value));
  if (Number.isNaN(at.getTime())) throw badCursor();
  return { after: inSql(at), afterId: id };
}

/** A page of the list and, where there is one, the row after it. */
export async function listed(sequelize: Sequelize, listing: Listing): Promise<ListedSound[]> {
  const terms = termsOf(listing.search);
  const values = valuesOf(terms);
  const after = listing.cursor ? readCursor(listing.cursor, orderOf(listing).column) : {};
  const page = (plan: Plan) =>
    sequelize.query<ListedSound>(pageSql(listing, terms, plan), {
      replacements: { ...values, ...after },
      type: QueryTypes.SELECT,
    });
  if (terms.length === 0) return page({ inOrder: Infinity });
  const found = await sequelize.query<{ found: number | bigint }>(countingSql(terms), {
    replacements: values,
    type: QueryTypes.SELECT,
  });
  const counts = found.map((row) => Number(row.found));
  const total = counts.pop() ?? 0;
  if (counts.includes(0)) return [];
  const [plan, sure] = plansOf(counts, total, listing.limit);
  const rows = await page(plan);
  return sure && rows.length <= listing.limit ? page(sure) : rows;
}
