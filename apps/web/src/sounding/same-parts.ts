import equal from 'fast-deep-equal/es6';

/** What is newer, in which parts that are as they were before are the same objects: what is drawn of them stays. */
export function withSameParts<T extends object>(before: T | null, now: T): T {
  if (!before) return now;
  const out = { ...now };
  for (const part of Object.keys(out) as (keyof T)[])
    if (equal(before[part], out[part])) out[part] = before[part];
  return out;
}
