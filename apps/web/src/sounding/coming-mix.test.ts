import type { MixPart } from '@abyssal/core';
import { ComingMix } from './coming-mix';

const RATE = 8000;

const partOf = (seconds: number, last = false): MixPart => {
  const left = new Float64Array(seconds * RATE);
  return { frames: left.length, left, right: left, gains: null, last };
};

/** Whether a promise is done by now. */
async function isDone(promise: Promise<void>): Promise<boolean> {
  let done = false;
  void promise.then(() => {
    done = true;
  });
  await new Promise((resolve) => {
    setTimeout(resolve);
  });
  return done;
}

describe('a mix that comes in parts', () => {
  it('is waited for until a step can be made', async () => {
    const coming = new ComingMix();
    coming.reader.needs = 2 * RATE;
    const enough = coming.enough();
    expect(await isDone(enough)).toBe(false);
    coming.give(partOf(1));
    expect(await isDone(enough)).toBe(false);
    coming.give(partOf(1));
    expect(await isDone(enough)).toBe(true);
  });

  it('is not waited for behind its last part, however short', async () => {
    const coming = new ComingMix();
    coming.reader.needs = 2 * RATE;
    coming.give(partOf(0.1, true));
    expect(await isDone(coming.enough())).toBe(true);
  });

  it('lets go whoever waits when it is left off', async () => {
    const coming = new ComingMix();
    coming.reader.needs = 2 * RATE;
    const enough = coming.enough();
    coming.leave();
    expect(await isDone(enough)).toBe(true);
    expect(await isDone(coming.enough())).toBe(true);
  });
});
