import { current, isDraft, type Draft } from 'immer';

/** A copy that shares nothing with what it is of, which may be a draft. */
export const plain = <T extends object>(value: T): T =>
  structuredClone(isDraft(value) ? current<T>(value as Draft<T>) : value);
