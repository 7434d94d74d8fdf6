import { cleanUnit } from '../../document/index.js';
import { sluiceTalker } from '../../demo/index.js';
import { toEnd } from '../../units/index.js';
import type { LayerCache } from './loop-render.js';
import { layersToRender, renderLayerSteps } from './loop-layers.js';
import { renderLoop } from './render-loop.js';

const OPTIONS = { sampleRateHz: 24000, pass: 0, traced: true };

describe('layers that are rendered side by side', () => {
  it('make the loop that is rendered in one go, and are not rendered again', () => {
    const sound = sluiceTalker();
    // What makes the mix wait makes the layers longer.
    sound.grit.after.push(cleanUnit('limiter', { id: 'limiter-1', lookAheadMs: 8 }));
    const cache: LayerCache = new Map();
    const options = { ...OPTIONS, cache };
    expect(layersToRender(sound, options)).toEqual([0, 1, 2]);
    for (const index of [2, 0, 1]) {
      const { name, entry } = toEnd(renderLayerSteps(sound, index, OPTIONS));
      cache.set(name, entry);
    }
    expect(layersToRender(sound, options)).toEqual([]);
    const audios = [...cache.values()].map(({ audio }) => audio);
    const [apart, whole] = [renderLoop(sound, options), renderLoop(sound, OPTIONS)];
    expect([...cache.values()].every(({ audio }) => audios.includes(audio))).toBe(true);
    expect(apart.all).toEqual(whole.all);
    expect(apart.layers).toEqual(whole.layers);
    expect(apart.moved).toEqual(whole.moved);
  });

  it('are those that changed', () => {
    const sound = sluiceTalker();
    const cache: LayerCache = new Map();
    renderLoop(sound, { ...OPTIONS, cache });
    sound.layers[1].filters[0].cutoffHz = 900;
    expect(layersToRender(sound, { ...OPTIONS, cache })).toEqual([1]);
    expect(layersToRender(sound, { ...OPTIONS, pass: 1, cache })).toEqual([0, 1, 2]);
  });

  it('serve a render that traces nothing, which then has no traces of theirs', () => {
    const sound = sluiceTalker();
    const cache: LayerCache = new Map();
    const whole = renderLoop(sound, { ...OPTIONS, cache });
    const traced = [...cache.values()];
    const plain = { ...OPTIONS, traced: false };
    const [served, alone] = [renderLoop(sound, { ...plain, cache }), renderLoop(sound, plain)];
    expect([...cache.values()].every((entry, e) => entry === traced[e])).toBe(true);
    expect(served.all).toEqual(alone.all);
    // Seeing what moves changes nothing of it.
    expect(whole.all).toEqual(alone.all);
    expect(served.moved).toEqual([]);
    // The other way round it has to be rendered: there are no traces.
    const untraced: LayerCache = new Map();
    renderLoop(sound, { ...plain, cache: untraced });
    expect(layersToRender(sound, { ...OPTIONS, cache: untraced })).toEqual([0, 1, 2]);
  });
});
