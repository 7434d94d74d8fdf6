import { parseKey } from '@abyssal/core';
import { Op, type Order, type WhereOptions } from 'sequelize';
import { Refusal } from '../problem/problem.js';

/** Orders of the list; a minus means falling. */
export const SORTS = ['-updated', 'updated', 'name', '-name', 'tempo', '-tempo'] as const;
export type Sort = (typeof SORTS)[number];

const COLUMNS = { updated: 'updatedAt', name: 'name', tempo: 'tempoBpm' } as const;

const columnOf = (sort: Sort) => COLUMNS[sort.replace('-', '') as keyof typeof COLUMNS];
const falls = (sort: Sort) => sort.startsWith('-');

export function orderOf(sort: Sort): Order {
  const direction = falls(sort) ? 'DESC' : 'ASC';
  return [
    [columnOf(sort), direction],
    ['id', direction],
  ];
}

const COLUMNS_SEARCHED = ['name', 'author', 'tags', 'musicKey'] as const;

/** A word must begin a word of one of the searched columns. */
function wordBegins(word: string): WhereOptions {
  const literal = word.replace(/[\\%_]/g, '\\$&');
  return {
    [Op.or]: COLUMNS_SEARCHED.flatMap((column) => [
      { [column]: { [Op.like]: `${literal}%` } },
      { [column]: { [Op.like]: `% ${literal}%` } },
      { [column]: { [Op.like]: `%-${literal}%` } },
    ]),
  };
}

/**
 * What a search asks for: every word must begin a word of the name, author, tags or key; a note name with a
 * scale after it (“c minor”, “f# dorian”) is that key.
 */
export function searchOf(search: string): WhereOptions {
  const words = search.trim().split(/\s+/).filter(Boolean);
  const wanted: WhereOptions[] = [];
  for (let i = 0; i < words.length; i++) {
    const key = i + 1 < words.length ? parseKey(`${words[i]} ${words[i + 1]}`) : null;
    if (key) i += 1;
    wanted.push(key ? { musicKey: key } : wordBegins(words[i]));
  }
  return { [Op.and]: wanted };
}

/** Where a page ends: the value it was sorted by, and the id that tells equals apart. */
export function cursorAfter(
  sort: Sort,
  row: { id: string; name: string; tempoBpm: number; updatedAt: Date },
): string {
  const value = row[columnOf(sort)];
  return Buffer.from(JSON.stringify([value instanceof Date ? value.toISOString() : value, row.id])).toString(
    'base64url',
  );
}

/** The rows that come after a cursor. Throws a `Problem` for a cursor that is none. */
export function afterCursor(sort: Sort, cursor: string): WhereOptions {
  let value: unknown;
  let id: unknown;
  try {
    [value, id] = JSON.parse(Buffer.from(cursor, 'base64url').toString('utf8')) as [unknown, unknown];
  } catch {
    throw new Refusal(422, 'not-valid', 'cursor: this is no cursor of the list');
  }
  if (typeof id !== 'string' || (typeof value !== 'string' && typeof value !== 'number'))
    throw new Refusal(422, 'not-valid', 'cursor: this is no cursor of the list');
  const column = columnOf(sort);
  const at = column === 'updatedAt' ? new Date(String(value)) : value;
  if (at instanceof Date && Number.isNaN(at.getTime()))
    throw new Refusal(422, 'not-valid', 'cursor: this is no cursor of the list');
  const beyond = falls(sort) ? Op.lt : Op.gt;
  return { [Op.or]: [{ [column]: { [beyond]: at } }, { [column]: at, id: { [beyond]: id } }] };
}
