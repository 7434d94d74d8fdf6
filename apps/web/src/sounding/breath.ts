/** Lets messages in between two steps of work, so that a job that is out of date ends early. */
export class Breath {
  private readonly waiting: (() => void)[] = [];
  private readonly channel = new MessageChannel();

  constructor() {
    this.channel.port1.onmessage = () => {
      this.waiting.shift()?.();
    };
  }

  take(): Promise<void> {
    return new Promise((resolve) => {
      this.waiting.push(resolve);
      this.channel.port2.postMessage(null);
    });
  }

  /**
   * Runs steps to their end, letting messages in between; null once they are not `wanted` any more. `onStep` is given what
   * each step yields; before each, what it `needs` is waited for.
   */
  async through<T, S>(
    steps: Generator<S, T>,
    wanted: () => boolean,
    onStep?: (step: S) => void,
    needs?: () => Promise<void>,
  ): Promise<{ readonly value: T } | null> {
    for (;;) {
      if (needs) {
        await needs();
        if (!wanted()) return null;
      }
      const step = steps.next();
      if (step.done) return step;
      onStep?.(step.value);
      await this.take();
      if (!wanted()) return null;
    }
  }
}
