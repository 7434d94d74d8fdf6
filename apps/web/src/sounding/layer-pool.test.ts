import { cleanSound, keepJob, type LayerCache, type LayerJob, type LayerJobDone } from '@abyssal/core';
import { fillSideBySide, type RenderOne } from './layer-pool';

const job = (index: number): LayerJob => ({ index, pass: 0, traced: true, tone: null });
const layer = ({ index }: LayerJob): LayerJobDone => ({
  of: 'layer',
  made: {
    name: `layer ${index}`,
    entry: {
      key: String(index),
      audio: { left: new Float32Array(1), right: new Float32Array(1), moved: [], tape: null },
    },
  },
});
const into = (cache: LayerCache) => (done: LayerJobDone) => {
  keepJob({ sampleRateHz: 48000, cache }, done);
};
const JOBS = [0, 1, 2, 3, 4].map(job);

/** A renderer that writes down what it is given and is through when it is told to be. */
function byHand() {
  const given: number[] = [];
  const waiting: (() => void)[] = [];
  const render: RenderOne = (_document, each) => {
    given.push(each.index);
    return new Promise((resolve) => {
      waiting.push(() => {
        resolve(layer(each));
      });
    });
  };
  const next = async () => {
    waiting.shift()?.();
    await new Promise((resolve) => setTimeout(resolve));
  };
  return { given, render, next };
}

describe('layers that are filled in side by side', () => {
  it('go to whoever is free', async () => {
    const [a, b] = [byHand(), byHand()];
    const cache: LayerCache = new Map();
    const shares: number[] = [];
    const filled = fillSideBySide(
      cleanSound(),
      JOBS,
      into(cache),
      [a.render, b.render],
      () => false,
      (share) => shares.push(share),
    );
    for (let n = 0; n < 3; n++) await b.next();
    await a.next();
    await b.next();
    await filled;
    expect([a.given, b.given]).toEqual([[0], [1, 2, 3, 4]]);
    expect([...cache.keys()].sort()).toEqual(JOBS.map(({ index }) => `layer ${index}`));
    expect(shares).toEqual([0.2, 0.4, 0.6, 0.8, 1]);
  });

  it('end with nothing more where something else is wanted', async () => {
    const a = byHand();
    const cache: LayerCache = new Map();
    let ended = false;
    const filled = fillSideBySide(
      cleanSound(),
      JOBS,
      into(cache),
      [a.render],
      () => ended,
      () => undefined,
    );
    await a.next();
    ended = true;
    await a.next();
    await filled;
    expect(a.given).toEqual([0, 1]);
    expect([...cache.keys()]).toEqual(['layer 0']);
  });

  it('leave out what fails, and go on', async () => {
    const cache: LayerCache = new Map();
    const render: RenderOne = (_document, each) =>
      each.index === 1
        ? Promise.reject(new Error('no'))
        : Promise.resolve(each.index === 2 ? null : layer(each));
    await fillSideBySide(
      cleanSound(),
      JOBS,
      into(cache),
      [render],
      () => false,
      () => undefined,
    );
    expect([...cache.keys()]).toEqual(['layer 0', 'layer 3', 'layer 4']);
  });
});
