import type { SoundDocument } from './shape.js';

/** Counts the values in which two trees of JSON differ; a thing that only one of them has counts as one. */
function count(a: unknown, b: unknown): number {
  if (Object.is(a, b)) return 0;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return 1;
  if (Array.isArray(a) !== Array.isArray(b)) return 1;
  let found = 0;
  for (const key of new Set([...Object.keys(a), ...Object.keys(b)]))
    found += count((a as Record<string, unknown>)[key], (b as Record<string, unknown>)[key]);
  return found;
}

/** Lists whose entries have names of their own, and what their entries are called where they have none. */
const LISTS = { layers: 'layer', movers: 'mover', backing: 'backing part' } as const;
/** Words for what else a document has, in the order of the stations; what is not named is counted as “the rest”. */
const PARTS: Partial<Record<keyof SoundDocument, string>> = {
  name: 'name',
  author: 'author',
  tags: 'tags',
  ground: 'tempo, key and length',
  kick: 'kick',
  feedback: 'feedback',
  grit: 'clean path and grit',
  links: 'links',
  line: 'line',
  duck: 'ducking',
  lock: 'lock',
  output: 'output',
  targets: 'targets',
  systems: 'playback systems',
};

const told = (what: string, values: number) => (values === 1 ? what : `${what} (${values} values)`);

interface Named {
  readonly id: string;
  readonly name: string;
}

function listDifferences(before: readonly Named[], after: readonly Named[], word: string): string[] {
  const out: string[] = [];
  for (const entry of after) {
    const old = before.find(({ id }) => id === entry.id);
    const name = entry.name || word;
    const values = old ? count(old, entry) : 0;
    if (!old) out.push(`${name} added`);
    else if (values > 0) out.push(told(name, values));
  }
  for (const { id, name } of before)
    if (!after.some((entry) => entry.id === id)) out.push(`${name || word} removed`);
  if (out.length === 0 && before.some(({ id }, place) => id !== after[place].id))
    out.push(`order of ${word}s`);
  return out;
}

/**
 * What one state of a sound has other than another, in words, such as `['name', 'Body (3 values)', 'line']`;
 * empty where they are the same.
 */
export function whatDiffers(before: SoundDocument, after: SoundDocument): string[] {
  const out: string[] = [];
  let rest = 0;
  for (const key of Object.keys(after) as (keyof SoundDocument)[]) {
    const part = PARTS[key];
    if (key in LISTS)
      out.push(
        ...listDifferences(
          before[key] as unknown as Named[],
          after[key] as unknown as Named[],
          LISTS[key as keyof typeof LISTS],
        ),
      );
    else if (part) {
      const values = count(before[key], after[key]);
      if (values > 0) out.push(told(part, values));
    } else rest += count(before[key], after[key]);
  }
  return rest > 0 ? [...out, told('the rest', rest)] : out;
}
