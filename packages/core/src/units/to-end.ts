/** Runs steps to their end at once and gives what they come to. */
export function toEnd<T>(steps: Generator<unknown, T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
