import {
  besideLookOf,
  firstLayers,
  keepJob,
  layerJobs,
  layerJobSteps,
  measuredSteps,
  renderLoop,
  toEnd,
  toneOf,
  type LoopRender,
  type SoundDocument,
  type SoundingOptions,
} from '@abyssal/core';
import { expose, wrap, type Remote } from 'comlink';
import { plainGrowl } from '../testing/plain-growl';
import { closePorts } from '../testing/ports';
import { Helpers } from './helpers';
import { LayerRenderer } from './layer-renderer';

closePorts();
const RATE = 24000;
const NO_RECORDINGS = new Map();

/** A bar of a growl of two layers. */
function sound(): SoundDocument {
  const growl = plainGrowl();
  growl.ground = { ...growl.ground, bars: 1, tempoBpm: 200 };
  growl.layers.splice(2);
  return growl;
}

/** Workers as helpers make them, in this thread: what is said to them goes through messages all the same. */
function workers() {
  const made: { readonly renderer: LayerRenderer; readonly remote: Remote<LayerRenderer> }[] = [];
  const make = () => {
    const { port1, port2 } = new MessageChannel();
    const renderer = new LayerRenderer();
    expose(renderer, port1);
    const remote = wrap<LayerRenderer>(port2);
    made.push({ renderer, remote });
    return remote;
  };
  return { made, make };
}

/** Has a sound measured with its stems and tone looked for by a helper, its layers rendered where they are. */
async function measureBeside(helpers: Helpers, document: SoundDocument, options: SoundingOptions) {
  for (const job of layerJobs(document, options))
    keepJob(options, toEnd(layerJobSteps(document, job, options)));
  const beside = helpers.look(document, options)!;
  const loops: LoopRender[] = [];
  const onRender = (loop: LoopRender) => {
    loops.push(loop);
    if (loops.length === 1) beside.onLoop(loop);
  };
  toEnd(measuredSteps(document, { ...options, onRender, onPart: beside.onPart }));
  return { found: await beside.found, loops };
}

describe('workers beside the one that measures', () => {
  it('are one a core and a layer, and no more than three; none where there is one core', () => {
    for (const [cores, layers, wanted] of [
      [1, 4, 0],
      [2, 4, 1],
      [4, 2, 1],
      [16, 9, 3],
    ]) {
      const { made, make } = workers();
      expect(new Helpers(RATE, cores, make).for(layers, NO_RECORDINGS)).toHaveLength(wanted);
      expect(made).toHaveLength(wanted);
    }
    expect(new Helpers(RATE, 1, workers().make).look(sound(), { sampleRateHz: RATE })).toBeNull();
  });

  it('render a layer as it is rendered here', async () => {
    const document = sound();
    const options = { sampleRateHz: RATE, cache: new Map(), tones: new Map() };
    const jobs = layerJobs(document, options);
    const renderers = new Helpers(RATE, 4, workers().make).for(jobs.length + 1, NO_RECORDINGS);
    // The first keeps what it renders, the others do not.
    const made = await Promise.all(jobs.map((job, j) => renderers[j % renderers.length](document, job)));
    expect(made.map((each) => each?.of)).toEqual(jobs.map(({ tone }) => (tone === null ? 'layer' : 'tone')));
    jobs.forEach((job, j) => {
      expect(made[j]).toEqual(toEnd(layerJobSteps(document, job, options)));
    });
  });

  it('find in a loop, and in its tone, what is found here', async () => {
    const document = sound();
    const options = { sampleRateHz: RATE, cache: new Map(), tones: new Map() };
    const helpers = new Helpers(RATE, 2, workers().make);
    const { found, loops } = await measureBeside(helpers, document, options);
    expect(found).toEqual(besideLookOf(document, renderLoop(document, { sampleRateHz: RATE })));
    const tone = toneOf(document, loops[0]);
    expect(await helpers.tone(document, null, NO_RECORDINGS)).toEqual(tone);
    expect(await helpers.tone(document, loops[0], NO_RECORDINGS)).toEqual(tone);
    // What is needed here has not gone over.
    expect(loops[0].bass.left.length).toBe(loops[0].frames);
    for (const { entry } of firstLayers(document, options))
      expect(entry.audio.left.length).toBeGreaterThan(loops[0].frames);
  });

  it('are sent a layer once, and again when it has changed', async () => {
    const { made, make } = workers();
    const helpers = new Helpers(RATE, 2, make);
    const options = { sampleRateHz: RATE, cache: new Map(), tones: new Map() };
    const document = sound();
    helpers.for(2, NO_RECORDINGS);
    const kept = jest.spyOn(made[0].renderer, 'keep');
    await measureBeside(helpers, document, options);
    expect(kept).toHaveBeenCalledTimes(2);
    await measureBeside(helpers, { ...document, output: { ...document.output, levelDb: -9 } }, options);
    expect(kept).toHaveBeenCalledTimes(2);
    const [first, second] = document.layers;
    const changed = { ...document, layers: [first, { ...second, levelDb: second.levelDb - 3 }] };
    const { found } = await measureBeside(helpers, changed, options);
    expect(kept).toHaveBeenCalledTimes(3);
    expect(kept.mock.calls[2][0].name).toMatch(second.id);
    expect(found).toEqual(besideLookOf(changed, renderLoop(changed, { sampleRateHz: RATE })));
  });

  it('forget a layer that is gone: it is sent again when it is back', async () => {
    const { made, make } = workers();
    const helpers = new Helpers(RATE, 2, make);
    const options = { sampleRateHz: RATE, cache: new Map(), tones: new Map() };
    const document = sound();
    await measureBeside(helpers, document, options);
    const kept = jest.spyOn(made[0].renderer, 'keep');
    await measureBeside(helpers, { ...document, layers: [document.layers[0]] }, options);
    const { found } = await measureBeside(helpers, document, options);
    expect(kept).toHaveBeenCalledTimes(1);
    expect(found).not.toBeNull();
  });

  it('leave off what they render and look for', async () => {
    const document = sound();
    const helpers = new Helpers(RATE, 2, workers().make);
    const options = { sampleRateHz: RATE, cache: new Map(), tones: new Map() };
    const [render] = helpers.for(2, NO_RECORDINGS);
    const [job] = layerJobs(document, options);
    const rendered = render(document, job);
    helpers.leave();
    expect(await rendered).toBeNull();
    // It waits for parts that never come.
    const beside = helpers.look(document, options)!;
    helpers.leave();
    expect(await beside.found).toBeNull();
  });

  it('have the recordings that came before they were made, and those that come later', async () => {
    const { made, make } = workers();
    const helpers = new Helpers(RATE, 3, make);
    const hit = { sampleRateHz: RATE, channels: [Float32Array.of(0.5)] };
    helpers.for(2, new Map([['first', hit]]));
    const taken = made.map(({ renderer }) => jest.spyOn(renderer, 'take'));
    helpers.take('second', hit);
    await made[0].remote.leave();
    expect(taken[0].mock.calls.map(([sent]) => sent.map(([hash]) => hash))).toEqual([['first'], ['second']]);
    expect(taken[0].mock.calls[1][0][0][1].channels[0][0]).toBe(0.5);
  });
});
