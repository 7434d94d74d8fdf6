import type { Problem } from '@abyssal/core';
import { fetchPart, keepPart, type PartSummary } from '../api/parts';
import { queries } from '../api/queries';

/** Keeps a part in the library under a name; gives the id under which it is kept. */
export async function keepInLibrary(
  kind: PartSummary['kind'],
  name: string,
  content: unknown,
): Promise<string> {
  const { id } = await keepPart(kind, name, content);
  await queries.invalidateQueries({ queryKey: ['parts', kind] });
  return id;
}

/** A part of the library; what can no longer be read is refused with the reason. */
export async function fetchPartAs<T>(id: string, problemsOf: (value: unknown) => Problem[]): Promise<T> {
  const { content } = await fetchPart(id);
  const [problem] = problemsOf(content);
  if (problem) throw new Error(`what was kept cannot be read: ${problem.path} ${problem.message}`);
  return content as T;
}
