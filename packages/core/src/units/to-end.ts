/** Runs steps to their end at once and gives what they come to. */
export function toEnd<T>(steps: Generator<unknown, T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** Steps whose share is a part of a larger one, from `from` on. */
export function* shareOf<T>(steps: Generator<number, T>, from: number, part: number): Generator<number, T> {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    yield from + part * step.value;
  }
}
