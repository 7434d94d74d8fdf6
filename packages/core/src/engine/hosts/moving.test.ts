import { CLIP_DRIVE, clipOf } from '../../testing/grit.js';
import {
  withUnits,
  cleanFilter,
  cleanLayer,
  cleanLink,
  cleanMover,
  cleanUnit,
  cleanNote,
  cleanSound,
  cleanSource,
  fromPosition,
  parameter,
  recorded,
  toPosition,
  type Link,
  type Mover,
  type Move,
  type SoundDocument,
} from '../../document/index.js';
import { plainGrowl } from '../../testing/plain-growl.js';
import { bareLayer, playNote } from '../../testing/play-note.js';
import { nullDb, RATE, rms } from '../../testing/signals.js';
import { seamFrames } from '../base/samples.js';
import { createEngine, type Engine } from './engine.js';
import { renderLoop } from './render-loop.js';
import { TRACE_FRAMES } from './moved.js';

const link = (mover: string, target: string, reachPct: number, more: Partial<Link> = {}) =>
  cleanLink({
    id: `${mover}-${target.replace(/\W/g, '').slice(0, 25)}`.toLowerCase(),
    mover,
    target,
    reachPct,
    ...more,
  });
const CUTOFF = 'layers.body.filters.0.cutoffHz';
const flat = (y: number, set = {}) =>
  cleanMover('wobble', {
    smoothMs: 0,
    nodes: [
      { x: 0, y, bend: 0 },
      { x: 1, y, bend: 0 },
    ],
    ...set,
  });

/** A held saw without a kick, two bars at 120 bpm. */
function held(change: Partial<SoundDocument> = {}): SoundDocument {
  const sound = cleanSound();
  return {
    ...sound,
    ground: { ...sound.ground, tempoBpm: 120 },
    kick: { ...sound.kick, on: false },
    layers: [
      cleanLayer('sub'),
      { ...cleanLayer('body'), voice: { ...cleanLayer('body').voice, velocityPct: 0 } },
    ],
    line: { notes: [cleanNote({ tick: 0, ticks: 3840 })] },
    ...change,
  };
}

/** Plays so many seconds; `between` is called before each block of 128 frames. */
function play(
  sound: SoundDocument,
  seconds: number,
  between: (engine: Engine, at: number) => void = () => undefined,
) {
  const engine = createEngine(sound, { sampleRateHz: RATE });
  const frames = Math.floor((seconds * RATE) / 128) * 128;
  const left = new Float32Array(frames);
  const right = new Float32Array(frames);
  const [l, r] = [new Float32Array(128), new Float32Array(128)];
  engine.play();
  for (let at = 0; at < frames; at += 128) {
    between(engine, at);
    engine.render(l, r, 128);
    left.set(l, at);
    right.set(r, at);
  }
  return { left, right };
}
/** The greatest second difference of a stretch: a click sticks out in it. */
function bend(x: ArrayLike<number>, from: number, to: number): number {
  let most = 0;
  for (let i = from + 1; i < to - 1; i++) most = Math.max(most, Math.abs(x[i + 1] - 2 * x[i] + x[i - 1]));
  return most;
}

describe('a move by hand that was recorded', () => {
  it.each([
    [CUTOFF, 'layers.*.filters.*.cutoffHz', 0.2, 0.9],
    ['layers.body.levelDb', 'layers.*.levelDb', 0.5, 0.8],
    [CLIP_DRIVE, 'units.*.soft clip.driveDb', 0.1, 0.7],
    ['macros.macro-1.valuePct', 'macros.*.valuePct', 0, 1],
  ])('of %s plays back as it was heard: a null under −60 dB', (target, id, from, to) => {
    const row = parameter(id);
    const with_ = (sound: SoundDocument, value: number): SoundDocument => {
      const next = structuredClone(sound);
      if (target === CUTOFF) next.layers[1].filters[0].cutoffHz = value;
      else if (id === 'layers.*.levelDb') next.layers[1].levelDb = value;
      else if (target === CLIP_DRIVE) clipOf(next).driveDb = value;
      else next.macros[0].valuePct = value;
      return next;
    };
    const base = with_(held({ links: [link('macro-1', CUTOFF, 40)] }), fromPosition(row, from));
    const moves: Move[] = [];
    // A drag that begins and ends within the loop, with some sixty places a second, as a pointer gives them.
    const byHand = play(base, 4, (engine, at) => {
      if (at < 20480 || at > 120000 || (at / 128) % 6 !== 0) return;
      const share = (at - 20480) / 100000;
      const value = fromPosition(row, from + (to - from) * Math.sin((share * Math.PI) / 2) ** 2);
      moves.push({ tick: Number((engine.place * 3840).toFixed(3)), value: toPosition(row, value) });
      engine.update(with_(engine.sound, value));
    });
    const points = recorded([], moves, 'replace', { until: 3840, stood: from });
    expect(points.length).toBeLessThan(moves.length + 2);
    const lane = { target, on: true, points };
    const played = play({ ...base, lanes: [lane] }, 4);
    expect(nullDb(byHand.left, played.left)).toBeLessThan(-60);
    expect(nullDb(byHand.left, play(base, 4).left)).toBeGreaterThan(-40);
  });
});

describe('what macros switch', () => {
  const switching = (target: string, on = true): SoundDocument => {
    const sound = held({ links: [link('wobble-1', CUTOFF, 40)], movers: [flat(1)] });
    return {
      ...sound,
      macros: sound.macros.map((macro, i) =>
        i === 0 ? { ...macro, valuePct: 0, switches: [{ target, fromPct: 50, on }] } : macro,
      ),
    };
  };
  const at = (sound: SoundDocument, valuePct: number): SoundDocument => ({
    ...sound,
    macros: sound.macros.map((macro, i) => (i === 0 ? { ...macro, valuePct } : macro)),
  });

  it.each([
    [
      'layers.body.on',
      (sound: SoundDocument): SoundDocument => ({
        ...sound,
        layers: sound.layers.map((layer) => ({ ...layer, on: layer.id !== 'body' })),
      }),
    ],
    [
      'layers.body.filters.0.on',
      (sound: SoundDocument): SoundDocument => ({
        ...sound,
        layers: sound.layers.map((layer) =>
          layer.id === 'body'
            ? { ...layer, filters: layer.filters.map((filter) => ({ ...filter, on: false })) }
            : layer,
        ),
      }),
    ],
    [
      'units.soft-clip-1.on',
      (sound: SoundDocument): SoundDocument => withUnits(sound, (unit) => ({ ...unit, on: false })),
    ],
    [
      `links.${link('wobble-1', CUTOFF, 40).id}.on`,
      (sound: SoundDocument): SoundDocument => ({
        ...sound,
        links: sound.links.map((each) => ({ ...each, on: false })),
      }),
    ],
  ])('%s is off below, as if it were switched off by hand, and on above', (target, off) => {
    const plain = switching('layers.sub.on');
    const without = { ...plain, macros: cleanSound().macros };
    const sound = switching(target);
    const low = renderLoop(at(sound, 49), { sampleRateHz: RATE }).all;
    const high = renderLoop(at(sound, 51), { sampleRateHz: RATE }).all;
    expect(nullDb(renderLoop(off(without), { sampleRateHz: RATE }).all.left, low.left)).toBeLessThan(-80);
    expect(nullDb(renderLoop(without, { sampleRateHz: RATE }).all.left, high.left)).toBeLessThan(-80);
    expect(nullDb(low.left, high.left)).toBeGreaterThan(-40);
    // The other way round it is off above.
    const turned = renderLoop(at(switching(target, false), 51), { sampleRateHz: RATE }).all;
    expect(nullDb(low.left, turned.left)).toBeLessThan(-80);
  });

  it('comes and goes without a click while it plays', () => {
    const sound = at(switching('layers.sub.on'), 100);
    const sub = {
      ...sound,
      layers: sound.layers.map((layer) =>
        layer.id === 'body'
          ? { ...layer, levelDb: -60, tones: layer.tones.map((tone) => ({ ...tone, levelDb: -60 })) }
          : layer,
      ),
    };
    const { left } = play(sub, 1, (engine, frame) => {
      if (frame === 128 * 150) engine.update(at(sub, 0));
      if (frame === 128 * 250) engine.update(at(sub, 100));
    });
    const usual = bend(left, 12000, 19000);
    expect(rms(left, 25000, 31000)).toBeLessThan(1e-3 * rms(left, 12000, 19000));
    // 10 ms of a fade bent at both ends, in steps of 16 frames: eight times the sine itself; a jump has thousands.
    for (const from of [128 * 150, 128 * 250])
      expect(bend(left, from - 64, from + 1500)).toBeLessThan(20 * usual);
  });
});

describe('links', () => {
  it('carry left and right apart where they are opposed', () => {
    const layer = bareLayer([{}], {
      filters: [cleanFilter({ on: true, cutoffHz: 600, slope: '24' }), cleanFilter()],
    });
    const moved = (sides: Link['sides']) =>
      playNote(layer, { document: { movers: [flat(1)], links: [link('wobble-1', CUTOFF, 20, { sides })] } });
    const alike = moved('alike');
    const opposed = moved('opposed');
    expect(alike.stereo).toBe(false);
    expect(opposed.stereo).toBe(true);
    const at = (cutoffHz: number) =>
      playNote({ ...layer, filters: [cleanFilter({ on: true, cutoffHz, slope: '24' }), cleanFilter()] }).left;
    // A fifth of three decades up on the left, as far down on the right.
    expect(nullDb(at(600 * 10 ** 0.6), opposed.left)).toBeLessThan(-60);
    expect(nullDb(at(600 * 10 ** -0.6), opposed.right)).toBeLessThan(-60);
  });

  it('carry nothing while their mover is off, and are travelled to when it is switched on', () => {
    const sound = held({
      movers: [flat(1, { on: false })],
      links: [link('wobble-1', 'layers.sub.levelDb', -40)],
    });
    const on = { ...sound, movers: [flat(1)] };
    expect(
      nullDb(
        renderLoop({ ...sound, links: [] }, { sampleRateHz: RATE }).all.left,
        renderLoop(sound, { sampleRateHz: RATE }).all.left,
      ),
    ).toBeLessThan(-120);
    const { left } = play(sound, 0.7, (engine, frame) => {
      if (frame === 128 * 150) engine.update(on);
    });
    expect(rms(left, 26000, 33000)).toBeLessThan(0.6 * rms(left, 12000, 19000));
    expect(bend(left, 128 * 150 - 64, 128 * 160)).toBeLessThan(3 * bend(left, 12000, 19000));
  });

  it('that are added or reach otherwise while it plays are heard as if they had been there', () => {
    const steps = cleanMover('steps', { values: [0.9, 0.9] });
    const plain = held({ movers: [flat(1), steps] });
    const links = [
      link('wobble-1', CUTOFF, 40),
      link('steps-1', 'movers.wobble-1.amountPct', -40),
      link('steps-1', 'layers.sub.levelDb', 10),
    ];
    const other = links.map((each) => ({ ...each, reachPct: -0.5 * each.reachPct }));
    const late = play(plain, 1.5, (engine, at) => {
      if (at === 12800) engine.update({ ...plain, links });
      if (at === 25600) engine.update({ ...plain, links: other });
    }).left;
    const there = play({ ...plain, links: other }, 1.5).left;
    const before = play({ ...plain, links }, 1.5).left;
    expect(nullDb(before.subarray(20000, 25000), late.subarray(20000, 25000))).toBeLessThan(-60);
    expect(nullDb(there.subarray(50000), late.subarray(50000))).toBeLessThan(-60);
  });

  it('move a node, a shape or a step within a block and without a click', () => {
    const steps = cleanMover('steps', { values: [0.9, 0.9] });
    const layers = [cleanLayer('sub')];
    const sound = held({ layers, movers: [steps], links: [link('steps-1', 'layers.sub.levelDb', -50)] });
    const { left } = play(sound, 0.7, (engine, frame) => {
      if (frame === 128 * 150) engine.update({ ...sound, movers: [{ ...steps, values: [0.1, 0.1] }] });
    });
    expect(rms(left, 128 * 152, 128 * 160)).toBeGreaterThan(5 * rms(left, 128 * 142, 128 * 150));
    expect(bend(left, 128 * 150 - 64, 128 * 170)).toBeLessThan(20 * bend(left, 26000, 33000));
  });
});

describe('noise at audio rate', () => {
  it('on a cutoff raises the floor between the partials; slow noise does not', () => {
    const hz = 110;
    const layer = bareLayer(
      [{ pitchIn: 'hertz', fixedHz: hz, source: cleanSource('shape', { shape: 'saw' }) }],
      {
        filters: [cleanFilter({ on: true, cutoffHz: 800, slope: '24' }), cleanFilter()],
      },
    );
    const floor = (rateHz: number | null) => {
      const { left } = playNote(layer, {
        seconds: 1.5,
        document:
          rateHz === null
            ? {}
            : {
                movers: [cleanMover('noise', { rateHz })],
                links: [link('noise-1', CUTOFF, 6, { way: 'both ways' })],
              },
      });
      // Power at halves between partials, where nothing of the saw is, with a Hann window of whole periods.
      const size = RATE;
      let sum = 0;
      for (let k = 2; k < 9; k++) {
        const f = hz * (k + 0.5);
        let re = 0;
        let im = 0;
        for (let i = 0; i < size; i++) {
          const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size);
          const x = w * left[i + RATE / 4];
          re += x * Math.cos((2 * Math.PI * f * i) / RATE);
          im += x * Math.sin((2 * Math.PI * f * i) / RATE);
        }
        sum += re * re + im * im;
      }
      return 10 * Math.log10(sum);
    };
    const [none, slow, fast] = [null, 2, 12000].map(floor);
    expect(fast - none).toBeGreaterThan(40);
    expect(fast - slow).toBeGreaterThan(25);
  });

  it('is paid for only by the layer that it reaches', () => {
    const sound = held({
      movers: [cleanMover('noise', { rateHz: 20000 })],
      links: [link('noise-1', CUTOFF, 3)],
    });
    const engine = createEngine(sound, { sampleRateHz: RATE });
    const { layers } = (engine as unknown as { current: { layers: { id: string; stepFrames: number }[] } })
      .current;
    expect(layers.map(({ id, stepFrames }) => [id, stepFrames])).toEqual([
      ['sub', 16],
      ['body', 1],
    ]);
  });
});

describe('movers that listen', () => {
  const follower = cleanMover('follower', { attackMs: 1, releaseMs: 60 });

  it('follow the kick, alike live and in a bounce', () => {
    const sound = {
      ...plainGrowl(),
      movers: [follower],
      links: [link('follower-1', 'layers.body.levelDb', -30)],
    };
    const loop = renderLoop(sound, { sampleRateHz: RATE, traced: true });
    const trace = loop.moved.find(({ id }) => id === 'follower-1')!;
    const hits = sound.kick.hits.map(({ tick }) =>
      Math.floor((((tick * 60) / 480 / 140) * RATE) / TRACE_FRAMES),
    );
    for (const at of hits) {
      expect(trace.values[at + 8]).toBeGreaterThan(0.5);
      expect(trace.values[at + 8]).toBeGreaterThan(
        trace.values[(at + trace.values.length - 4) % trace.values.length] + 0.1,
      );
    }
    const second = Math.round(loop.frames / 128) * 128;
    const live = play(sound, (2.2 * loop.frames) / RATE).left;
    const engine = createEngine(sound, { sampleRateHz: RATE });
    const part = live.slice(
      loop.frames + engine.latencyFrames,
      loop.frames + engine.latencyFrames + second - 4096,
    );
    expect(nullDb(part, loop.all.left)).toBeLessThan(-100);
  });

  it('follow the layer itself: a level that turns itself down', () => {
    const self = { ...follower, of: 'self', floorDb: -72 };
    const plain = held();
    const sound = { ...plain, movers: [self], links: [link('follower-1', 'layers.body.levelDb', -30)] };
    const body = (s: SoundDocument) =>
      rms(renderLoop(s, { sampleRateHz: RATE, stems: 'dry' }).layers[1].left, 48000);
    expect(body(sound)).toBeLessThan(0.3 * body(plain));
  });

  it('are started by the hits of a backing part', () => {
    const clicks = new Float32Array(2 * RATE);
    for (const at of [0.25, 0.75, 1.25])
      for (let i = 0; i < 3000; i++) clicks[Math.round(at * RATE) + i] = Math.exp(-i / 500) * Math.sin(i / 8);
    const sound = held({
      backing: [{ ...cleanBackingPart(), startTick: 0 }],
      movers: [
        cleanMover('envelope', {
          startedBy: 'part-1',
          attackMs: 1,
          decayMs: 30,
          sustainPct: 0,
          releaseMs: 1,
        }),
      ],
      links: [link('envelope-1', CUTOFF, 30)],
    });
    const assets = new Map([['a'.repeat(64), { sampleRateHz: RATE, channels: [clicks] }]]);
    const { moved } = renderLoop(sound, { sampleRateHz: RATE, traced: true, assets });
    const { values } = moved.find(({ id }) => id === 'envelope-1')!;
    const peaks = Array.from(values.keys()).filter(
      (i) => values[i] > 0.5 && values[i] >= values[i - 1] && values[i] >= (values[i + 1] ?? 0),
    );
    const times = peaks
      .map((i) => (i * TRACE_FRAMES) / RATE)
      .filter((t, i, all) => i === 0 || t - all[i - 1] > 0.1);
    expect(times.length).toBe(3);
    [0.25, 0.75, 1.25].forEach((t, i) => {
      expect(Math.abs(times[i] - t)).toBeLessThan(0.008);
    });
  });
});

const cleanBackingPart = () => ({
  id: 'part-1',
  name: 'drums',
  on: true,
  asset: 'a'.repeat(64),
  fileName: '',
  sound: '',
  startTick: 0,
  gainDb: 0,
});

describe('traces', () => {
  it('show where what is moved stands over the loop, all that moves it added up', () => {
    const sound = held({
      movers: [flat(0.5), cleanMover('steps', { next: 'time', rateBeats: 1, values: [0, 1] })],
      links: [link('wobble-1', CUTOFF, 20), link('steps-1', CUTOFF, 30)],
    });
    const { moved, frames } = renderLoop(sound, { sampleRateHz: RATE, traced: true });
    const cutoff = moved.find(({ id }) => id === CUTOFF)!.values;
    const base = toPosition(parameter('layers.*.filters.*.cutoffHz'), sound.layers[1].filters[0].cutoffHz);
    expect(cutoff.length).toBe(Math.ceil(frames / TRACE_FRAMES));
    const at = (beat: number) => cutoff[Math.floor((beat * 0.5 * RATE) / TRACE_FRAMES)];
    expect(at(0.5)).toBeCloseTo(base + 0.1, 3);
    expect(at(1.5)).toBeCloseTo(base + 0.4, 3);
    expect(moved.find(({ id }) => id === 'wobble-1')!.values[50]).toBeCloseTo(0.5, 6);
    expect(renderLoop(sound, { sampleRateHz: RATE }).moved).toEqual([]);
  });

  it('show bands and units too, in bands as in the chain of a layer', () => {
    const sound = held({ movers: [flat(0.5)] });
    sound.grit.bands[0].units = [cleanUnit('filter', { id: 'behind', cutoffHz: 400 })];
    sound.layers[1].chain = [cleanUnit('filter', { id: 'within', cutoffHz: 800 })];
    const band = `bands.${sound.grit.bands[0].id}.wetPct`;
    sound.grit.bands[0].wetPct = 20;
    sound.links = [
      link('wobble-1', 'units.behind.cutoffHz', 20),
      link('wobble-1', 'units.within.cutoffHz', 20),
      link('wobble-1', band, 40),
    ];
    const { moved } = renderLoop(sound, { sampleRateHz: RATE, traced: true });
    const stands = (target: string) =>
      moved.filter(({ id }) => id === target).map(({ values }) => values[50]);
    const row = parameter('units.*.filter.cutoffHz');
    const near = (place: number) => [expect.closeTo(place, 3) as number];
    expect(stands('units.behind.cutoffHz')).toEqual(near(toPosition(row, 400) + 0.1));
    expect(stands('units.within.cutoffHz')).toEqual(near(toPosition(row, 800) + 0.1));
    expect(stands(band)).toEqual(near(0.4));
  });

  it('are told while it plays, in the order of targets and movers', () => {
    const sound = held({ movers: [flat(0.5)], links: [link('wobble-1', CUTOFF, 20)] });
    const out = new Float32Array(64);
    let count = 0;
    play(sound, 0.2, (engine) => {
      count = engine.tellMoved(out);
    });
    const base = toPosition(parameter('layers.*.filters.*.cutoffHz'), sound.layers[1].filters[0].cutoffHz);
    // The cutoff, the wobble, eight macros.
    expect(count).toBe(10);
    expect(out[0]).toBeCloseTo(base + 0.1, 4);
    expect(out[1]).toBeCloseTo(0.5, 6);
  });
});

describe('every kind of mover', () => {
  const kinds: Mover[] = (
    ['wobble', 'envelope', 'steps', 'follower', 'noise', 'touch', 'key', 'accent', 'chance'] as const
  ).map((kind) => cleanMover(kind));

  it('at once, live and in a bounce: the same samples', () => {
    const growl = plainGrowl();
    const sound: SoundDocument = {
      ...growl,
      movers: kinds,
      links: kinds.map(({ id }, i) =>
        link(id, ['layers.body.filters.0.cutoffHz', 'layers.sub.levelDb', CLIP_DRIVE][i % 3], 6),
      ),
      line: {
        notes: growl.line.notes.map((note, i) => ({ ...note, wobbleBeats: i % 2 === 0 ? 0.5 : null })),
      },
    };
    const loop = renderLoop(sound, { sampleRateHz: RATE });
    const engine = createEngine(sound, { sampleRateHz: RATE });
    const live = play(sound, (2.1 * loop.frames) / RATE).left;
    // What runs free is elsewhere in the second round of a live run than in that of a bounce only by rounding of
    // none: both run twice round from the start.
    // The bounce turns its last frames into its start, for noise is elsewhere in every round.
    const from = loop.frames + engine.latencyFrames;
    const part = live.slice(from, from + loop.frames - seamFrames(RATE));
    expect(nullDb(part, loop.all.left.subarray(0, part.length))).toBeLessThan(-100);
  });
});
