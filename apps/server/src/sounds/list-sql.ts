import type { Term } from './words.js';

/** Orders of the list; a minus means falling. */
export const SORTS = ['-updated', 'updated', 'name', '-name', 'tempo', '-tempo'] as const;
export type Sort = (typeof SORTS)[number];

/** Columns to sort by, each with the index that has the rows in its order. */
const ORDERS = {
  updated: ['updated_at', 'sounds_by_change'],
  name: ['name', 'sounds_by_name'],
  tempo: ['tempo_bpm', 'sounds_by_tempo'],
  deleted: ['deleted_at', 'sounds_by_change'],
} as const;

/** A row of the list. */
export interface ListedSound {
  readonly id: string;
  readonly version: number;
  readonly name: string;
  readonly author: string;
  readonly tags: string;
  readonly musicKey: string;
  readonly tempoBpm: number;
  readonly updatedAt: Date;
  readonly deletedAt: Date | null;
}

export interface Listing {
  readonly search: string;
  readonly sort: Sort;
  /** Only what was deleted, the latest first. */
  readonly deleted: boolean;
  /** Where the page before ended. */
  readonly cursor: string | null;
  readonly limit: number;
}

/** Sounds of a term are counted up to here. */
const MOST_COUNTED = 8000;

/**
 * How a page is found: `inOrder`, going through the list until the page is full, over no more than some rows; by
 * `rare`, the place of the term that fewest sounds have, which are looked up and sorted; or by a look at `all`
 * rows, which are narrow.
 */
export type Plan = { readonly inOrder: number } | { readonly rare: number } | 'all';

/** Microseconds that a row takes when it is looked up, and when all are read one after another; measured. */
const LOOK_UP = 5;
const READ_ON = 1.2;

/**
 * Plans for terms that so many sounds have, of so many in all: the one that most likely finds the page soonest
 * and, where that one may end too early, one that does not.
 */
export function plansOf(counts: readonly number[], total: number, limit: number): Plan[] {
  if (counts.length === 0) return [{ inOrder: Infinity }];
  const fewest = Math.min(...counts);
  // Of what was counted no further nobody knows how many there are.
  const rareCost = fewest < MOST_COUNTED ? fewest * LOOK_UP : Infinity;
  const sure: Plan = rareCost < total * READ_ON ? { rare: counts.indexOf(fewest) } : 'all';
  const sureCost = Math.min(rareCost, total * READ_ON);
  // As if terms had nothing to do with each other, nor with the order.
  const share = counts.reduce((product, count) => product * Math.min(1, count / Math.max(1, total)), 1);
  const rows = Math.ceil((limit + 1) / share);
  return 2 * rows * LOOK_UP < sureCost ? [{ inOrder: 3 * rows }, sure] : [sure];
}

/** Values by name that go into a statement. */
export type Values = Record<string, string | number>;

/** By which column a list is sorted, which index has that order, and whether it falls. */
export function orderOf({ sort, deleted }: Listing) {
  const [column, index] =
    ORDERS[deleted ? 'deleted' : (sort.replace('-', '') as 'updated' | 'name' | 'tempo')];
  return { column, index, falls: deleted || sort.startsWith('-') };
}

const literal = (text: string) => text.replace(/[\\%_]/g, '\\$&');
const wordIs = ({ whole }: Term, place: number) =>
  whole ? `word = :word${place}` : `word LIKE :word${place}`;

/** For each term the word to look up, and what is in the text of a sound that has it. */
export function valuesOf(terms: readonly Term[]): Values {
  return Object.fromEntries(
    terms.flatMap(({ text, whole }, i) => [
      [`word${i}`, whole ? text : `${literal(text)}%`],
      [`text${i}`, whole ? ` ${text} ` : ` ${text}`],
    ]),
  );
}

/** Counts, up to some thousands, what each term finds, by the index of words alone; last, about how many sounds there are. */
export function countingSql(terms: readonly Term[]): string {
  return terms
    .map(
      (term, i) =>
        `SELECT COUNT(*) AS found FROM (SELECT 1 FROM sound_words WHERE ${wordIs(term, i)} LIMIT ${MOST_COUNTED}) hits${i}`,
    )
    .concat(
      "SELECT table_rows AS found FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name = 'sounds'",
    )
    .join(' UNION ALL ');
}

/** The page of the list, as it is found by a plan. */
export function pageSql(listing: Listing, terms: readonly Term[], plan: Plan): string {
  const { column, index, falls } = orderOf(listing);
  const direction = falls ? 'DESC' : 'ASC';
  const beyond = falls ? '<' : '>';
  const rare = typeof plan === 'object' && 'rare' in plan ? plan.rare : null;
  let from = `sounds s FORCE INDEX (${index})`;
  if (plan === 'all') from = 'sounds s USE INDEX ()';
  if (rare !== null)
    from = `(SELECT DISTINCT sound_id FROM sound_words WHERE ${wordIs(terms[rare], rare)}) hits STRAIGHT_JOIN sounds s ON s.id = hits.sound_id`;
  const most =
    typeof plan === 'object' && 'inOrder' in plan && plan.inOrder < Infinity
      ? ` ROWS EXAMINED ${plan.inOrder}`
      : '';
  const wanted = [
    `s.deleted_at IS ${listing.deleted ? 'NOT NULL' : 'NULL'}`,
    ...(listing.cursor
      ? [`(s.${column} ${beyond} :after OR (s.${column} = :after AND s.id ${beyond} :afterId))`]
      : []),
    // As bytes: comparing them by the rules of a language takes twice as long.
    ...terms.flatMap((_term, i) => (i === rare ? [] : [`INSTR(CAST(s.words AS BINARY), :text${i})`])),
  ];
  return `SELECT s.id, s.version, s.name, s.author, s.tags, s.music_key AS musicKey, s.tempo_bpm AS tempoBpm, s.updated_at AS updatedAt, s.deleted_at AS deletedAt
    FROM ${from} WHERE ${wanted.join(' AND ')}
    ORDER BY s.${column} ${direction}, s.id ${direction} LIMIT ${listing.limit + 1}${most}`;
}
