/**
 * What a state has other than the one before: a new value, or the fields in which an object or list differs.
 * Edits leave what they do not touch the same objects, so that a delta is as small as the edit.
 */
export type Delta = { readonly value: unknown } | { readonly fields: Readonly<Record<string, Delta>> };

type Fields = Record<string, unknown>;

/** Whether two values are objects, or lists, with the same places in them. */
function sameShape(a: unknown, b: unknown): boolean {
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b))
    return Array.isArray(a) && Array.isArray(b) && a.length === b.length;
  const keys = Object.keys(a);
  return keys.length === Object.keys(b).length && keys.every((key) => Object.hasOwn(b, key));
}

/** What leads from one state to another; null where they are the same object. */
export function deltaOf(before: unknown, after: unknown): Delta | null {
  if (Object.is(before, after)) return null;
  if (!sameShape(before, after)) return { value: after };
  const fields: Record<string, Delta> = {};
  for (const key of Object.keys(after as Fields)) {
    const delta = deltaOf((before as Fields)[key], (after as Fields)[key]);
    if (delta) fields[key] = delta;
  }
  return { fields };
}

/** The state that a delta leads to; what it does not touch stays the same objects. */
export function applyDelta<T>(before: T, delta: Delta | null): T {
  if (delta === null) return before;
  if ('value' in delta) return delta.value as T;
  const after = (Array.isArray(before) ? [...(before as unknown[])] : { ...before }) as Fields;
  for (const [key, inner] of Object.entries(delta.fields)) after[key] = applyDelta(after[key], inner);
  return after as T;
}
