import { FRAMES, HEARD_FRAMES, SharedAudio } from './protocol';

describe('what was heard', () => {
  const shared = new SharedAudio();
  const write = (from: number, to: number) => {
    for (let i = from; i < to; i++) {
      shared.left[i % HEARD_FRAMES] = i;
      shared.right[i % HEARD_FRAMES] = -i;
    }
    shared.state[FRAMES] = to;
  };
  const run = (from: number, to: number) => Array.from({ length: to - from }, (_, i) => from + i);

  it('is the last of it, oldest first', () => {
    write(0, 1000);
    const { left, right } = shared.heard(100);
    expect([...left]).toEqual(run(900, 1000));
    expect([...right]).toEqual(run(900, 1000).map((x) => -x));
  });

  it('goes on over the end of the ring', () => {
    write(HEARD_FRAMES - 50, HEARD_FRAMES + 30);
    expect([...shared.heard(80).left]).toEqual(run(HEARD_FRAMES - 50, HEARD_FRAMES + 30));
  });

  it('begins in silence where less was heard', () => {
    const fresh = new SharedAudio();
    fresh.left[0] = 1;
    fresh.state[FRAMES] = 1;
    expect([...fresh.heard(3).left]).toEqual([0, 0, 1]);
  });
});
