/** What is not known yet but to have fields. */
export type Tree = Record<string, unknown>;

/** Whether a value has fields: an object that is no list. */
export const isTree = (value: unknown): value is Tree =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
