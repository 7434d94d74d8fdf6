import { closePorts } from '../testing/ports';
import { Breath } from './breath';

closePorts();
const breath = new Breath();

/** Steps that write down that they were run, and are through with what they are to give. */
function* stepsOf(count: number, ran: number[]): Generator<number, string> {
  for (let n = 0; n < count; n++) {
    ran.push(n);
    yield n / count;
  }
  return 'through';
}

describe('a breath between two steps', () => {
  it('is taken in the order in which it was asked for, and not at once', async () => {
    const heard: string[] = [];
    const taken = ['first', 'second'].map((name) => breath.take().then(() => heard.push(name)));
    await Promise.resolve();
    expect(heard).toEqual([]);
    await Promise.all(taken);
    expect(heard).toEqual(['first', 'second']);
  });

  it('runs steps to their end, and says what each gives', async () => {
    const ran: number[] = [];
    const told: number[] = [];
    const found = await breath.through(
      stepsOf(4, ran),
      () => true,
      (share) => told.push(share),
    );
    expect(found).toMatchObject({ value: 'through' });
    expect(ran).toEqual([0, 1, 2, 3]);
    expect(told).toEqual([0, 0.25, 0.5, 0.75]);
  });

  it('makes no step more once they are not wanted', async () => {
    const ran: number[] = [];
    let wanted = true;
    const found = breath.through(
      stepsOf(100, ran),
      () => wanted,
      (share) => {
        wanted = share < 0.02;
      },
    );
    expect(await found).toBeNull();
    expect(ran).toEqual([0, 1, 2]);
  });

  it('waits for what the next step needs, and lets it be where it is not wanted by then', async () => {
    const ran: number[] = [];
    let come: () => void = () => undefined;
    let wanted = true;
    const needs = () =>
      new Promise<void>((resolve) => {
        come = resolve;
      });
    const found = breath.through(stepsOf(3, ran), () => wanted, undefined, needs);
    await breath.take();
    expect(ran).toEqual([]);
    come();
    await breath.take();
    await breath.take();
    expect(ran).toEqual([0]);
    wanted = false;
    come();
    expect(await found).toBeNull();
    expect(ran).toEqual([0]);
  });
});
