import { setTimeout as sleep } from 'node:timers/promises';

interface Stop {
  readonly run: () => unknown;
  readonly longestMs: number;
}

/** What was begun, to be ended from the last to the first. */
export class Stops {
  private readonly stops: Stop[] = [];
  private readonly aborter = new AbortController();
  private ending: Promise<void> | null = null;

  /** Is aborted as soon as the end begins. */
  readonly signal = this.aborter.signal;

  /** Puts down how to end something, and how long that may take, in ms; after that it is left. */
  add(run: () => unknown, longestMs = 8000): void {
    this.stops.push({ run, longestMs });
  }

  /** Ends everything, once; `starting` is what may still be beginning things, and hears of the end by the signal. */
  end(starting: Promise<unknown>): Promise<void> {
    this.ending ??= this.endAll(starting);
    return this.ending;
  }

  private async endAll(starting: Promise<unknown>): Promise<void> {
    this.aborter.abort();
    await Promise.all([this.endBegun(), Promise.race([starting.catch(() => undefined), sleep(8000)])]);
    // What was begun in the meantime.
    await this.endBegun();
  }

  private async endBegun(): Promise<void> {
    for (let stop = this.stops.pop(); stop; stop = this.stops.pop()) {
      const { run, longestMs } = stop;
      await Promise.race([
        Promise.resolve()
          .then(run)
          .catch(() => undefined),
        sleep(longestMs),
      ]);
    }
  }
}
