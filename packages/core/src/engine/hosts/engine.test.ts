import { CLIP_DRIVE, clipWith, withoutUnits } from '../../testing/grit.js';
import { execFileSync } from 'node:child_process';
import { resolve } from 'node:path';
import {
  cleanWavKick,
  cleanNote,
  cleanLink,
  cleanMover,
  cleanSound,
  cleanSource,
  type SoundDocument,
} from '../../document/index.js';
import { slackWater } from '../../demo/index.js';
import { plainGrowl } from '../../testing/plain-growl.js';
import { findClicks, fundamental, kickTail } from '../../measure/index.js';
import { noteToHz } from '../../music/index.js';
import { amplitudeAt, db, sine } from '../../testing/signals.js';
import { createEngine } from './engine.js';
import { renderKick } from '../kick/render-kick.js';
import { renderLoop, type LayerCache } from './render-loop.js';
import { lowsRunFree, runsFree } from './runs-free.js';

const RATE = 48000;
type Change = (sound: SoundDocument) => void;

/** A bar of one held F1 from a bare sine, without kick, clip or clean path; changed as asked. */
function bare(change: Change = () => undefined): SoundDocument {
  const sound = structuredClone(cleanSound());
  sound.ground.bars = 1;
  sound.ground.tempoBpm = 120;
  sound.kick.on = false;
  sound.kick.hits = [];
  sound.grit.cleanPath.on = false;
  withoutUnits(sound);
  sound.layers = [sound.layers[0]];
  sound.layers[0].levelDb = 0;
  sound.layers[0].voice.velocityPct = 0;
  sound.output.ceilingDb = 0;
  sound.line.notes = [cleanNote({ tick: 0, ticks: 1900, pitch: 29 })];
  change(sound);
  return sound;
}
const loopOf = (sound: SoundDocument) => renderLoop(sound, { sampleRateHz: RATE });
const cents = (found: number, wanted: number) => 1200 * Math.log2(found / wanted);
const worst = (a: ArrayLike<number>, b: ArrayLike<number>) => {
  let most = 0;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i] - b[i]));
  return most;
};

/** What an engine plays over some frames, after `before` was done to it. */
function play(
  sound: SoundDocument,
  frames: number,
  during: (engine: ReturnType<typeof createEngine>, at: number) => void = () => undefined,
  start = true,
) {
  const engine = createEngine(sound, { sampleRateHz: RATE });
  if (start) engine.play();
  const left = new Float32Array(frames);
  const right = new Float32Array(frames);
  for (let at = 0; at < frames; at += 128) {
    during(engine, at);
    engine.settle();
    engine.render(left.subarray(at, at + 128), right.subarray(at, at + 128), 128);
  }
  return { left, right, engine };
}

describe('one sound everywhere', () => {
  it('gives the same samples for the same document and pass', () => {
    expect(worst(loopOf(plainGrowl()).all.left, loopOf(plainGrowl()).all.left)).toBe(0);
  });

  it.each([
    ['Trench Growl', plainGrowl],
    ['Slack Water', slackWater],
  ])('%s plays as its loop render has it in every round, nulling under −120 dB', (_name, make) => {
    const loop = loopOf(make());
    // Rounds that are no whole number of steps long.
    expect(loop.frames % 16).not.toBe(0);
    const engine = createEngine(make(), { sampleRateHz: RATE });
    const frames = Math.ceil((4 * loop.frames + 1000) / 128) * 128;
    const { left, right } = play(make(), frames);
    for (const round of [1, 2, 3]) {
      const from = round * loop.frames + engine.latencyFrames;
      expect(db(worst(left.subarray(from, from + loop.frames), loop.all.left))).toBeLessThan(-120);
      expect(db(worst(right.subarray(from, from + loop.frames), loop.all.right))).toBeLessThan(-120);
    }
  });

  it('renders layers that did not change from its cache, and those that did anew', () => {
    const cache: LayerCache = new Map();
    const sound = plainGrowl();
    const first = renderLoop(sound, { sampleRateHz: RATE, cache });
    const sub = cache.get('sub 0')!.audio;
    const body = cache.get('body 0')!.audio;
    const changed = structuredClone(sound);
    changed.layers[1].filters[0].resonancePct = 58;
    const second = renderLoop(changed, { sampleRateHz: RATE, cache });
    expect(cache.get('sub 0')!.audio).toBe(sub);
    expect(cache.get('body 0')!.audio).not.toBe(body);
    expect(worst(second.all.left, loopOf(changed).all.left)).toBe(0);
    expect(worst(second.all.left, first.all.left)).toBeGreaterThan(0.001);
  });

  it('has passes that differ only where something runs free', () => {
    const free = plainGrowl();
    free.layers[1].tones[0].startPhase = 'free';
    expect([runsFree(plainGrowl()), runsFree(free)]).toEqual([false, true]);
    const pass = (sound: SoundDocument, n: number) =>
      renderLoop(sound, { sampleRateHz: RATE, pass: n }).bass.left;
    expect(worst(pass(plainGrowl(), 0), pass(plainGrowl(), 1))).toBe(0);
    expect(worst(pass(free, 0), pass(free, 1))).toBeGreaterThan(0.01);
  });

  it('keeps its lows while chance moves the tops, by itself or through another mover', () => {
    const chance = (...links: [mover: string, target: string][]) => {
      const sound = plainGrowl();
      sound.movers.push(cleanMover('noise'));
      links.forEach(([mover, target], i) =>
        sound.links.push(cleanLink({ id: `chance-${i}`, mover, target, reachPct: 20 })),
      );
      return [runsFree(sound), lowsRunFree(sound)];
    };
    expect(chance()).toEqual([false, false]);
    expect(chance(['noise-1', 'layers.body.filters.0.cutoffHz'])).toEqual([true, false]);
    expect(chance(['noise-1', 'layers.sub.levelDb'])).toEqual([true, true]);
    expect(chance(['noise-1', CLIP_DRIVE])).toEqual([true, true]);
    expect(chance(['noise-1', 'movers.wobble-1.amountPct'])).toEqual([true, false]);
    expect(chance(['noise-1', 'movers.wobble-1.amountPct'], ['wobble-1', 'layers.sub.levelDb'])).toEqual([
      true,
      true,
    ]);
  });
});

describe('stems', () => {
  it('add up: kick and bass to all, layers to the bass where nothing clips', () => {
    const sound = plainGrowl();
    withoutUnits(sound);
    const { kick, bass, all, layers } = loopOf(sound);
    expect(
      db(
        worst(
          all.left,
          kick.left.map((x, i) => x + bass.left[i]),
        ),
      ),
    ).toBeLessThan(-120);
    expect(
      db(
        worst(
          bass.left,
          layers[0].left.map((x, i) => x + layers[1].left[i]),
        ),
      ),
    ).toBeLessThan(-110);
  });
});

describe('tones', () => {
  // MIDI 1.0: F1 is 43.654 Hz.
  it('play the written pitch at the level that is set', () => {
    const { bass } = loopOf(bare());
    const middle = bass.left.subarray(20000, 60000);
    expect(Math.abs(cents(fundamental(middle, RATE).value!, noteToHz(29)))).toBeLessThan(1);
    expect(
      db(amplitudeAt(middle.subarray(0, Math.round((RATE / noteToHz(29)) * 30)), noteToHz(29))),
    ).toBeCloseTo(0, 1);
  });

  it('start at their start phase', () => {
    const at = (deg: number) =>
      loopOf(
        bare((s) => {
          s.layers[0].tones[0].startPhaseDeg = deg;
          s.layers[0].loudness.attackMs = 0.5;
        }),
      ).bass.left.subarray(0, 12000);
    const period = RATE / noteToHz(29);
    const a = at(0);
    const b = at(90);
    for (const i of [3000, 5000, 7000]) expect(b[i]).toBeCloseTo(a[Math.round(i + period / 4)], 1);
  });

  it.each([
    ['saw', (n: number) => 1 / n],
    ['square', (n: number) => (n % 2 === 1 ? 1 / n : 0)],
    ['triangle', (n: number) => (n % 2 === 1 ? 1 / (n * n) : 0)],
  ] as const)('a %s has the harmonics of its Fourier series within 0.1 dB', (shape, wanted) => {
    const { bass } = loopOf(
      bare((s) => {
        s.layers[0].tones[0].source = cleanSource('shape', { shape: shape });
        s.layers[0].levelDb = -9;
      }),
    );
    const hz = noteToHz(29);
    const whole = bass.left.subarray(10000, 10000 + Math.round((RATE / hz) * 40));
    const first = amplitudeAt(whole, hz);
    for (let n = 2; n <= 24; n++) {
      if (wanted(n) > 0)
        expect(Math.abs(db(amplitudeAt(whole, n * hz) / first) - db(wanted(n)))).toBeLessThan(0.1);
      else expect(db(amplitudeAt(whole, n * hz) / first)).toBeLessThan(-55);
    }
  });

  // Energy off the harmonics of a note whose period is whole in frames, up to 20 kHz.
  it.each([24, 36, 48, 60])('a saw on note %i folds back less than −70 dB', (note) => {
    const hz = RATE / Math.round(RATE / noteToHz(note));
    const sound = bare((s) => {
      s.layers[0].tones[0].source = cleanSource('shape', { shape: 'saw' });
      s.layers[0].levelDb = -12;
      s.layers[0].tones[0].cents = Math.max(-100, Math.min(100, cents(hz, noteToHz(note))));
      s.line.notes = [cleanNote({ tick: 0, ticks: 1900, pitch: note })];
    });
    const period = Math.round(RATE / hz);
    const periods = Math.floor(32768 / period);
    const frame = loopOf(sound).bass.left.subarray(20000, 20000 + periods * period);
    let whole = 0;
    let off = 0;
    // Bins of a frame of whole periods: harmonics fall on every `periods`-th bin.
    for (let k = 1; (k * RATE) / frame.length < 20000; k += 7) {
      const amplitude = amplitudeAt(frame, (k * RATE) / frame.length);
      if (k % periods !== 0) off += 7 * amplitude * amplitude;
    }
    for (let n = 1; n * hz < 20000; n++) whole += amplitudeAt(frame, n * hz) ** 2;
    expect(10 * Math.log10(off / whole)).toBeLessThan(-70);
  });

  it('keep the sum of both sides when copies are spread', () => {
    const spread = (pct: number) =>
      loopOf(
        bare((s) => {
          Object.assign(s.layers[0].tones[0], { copies: 5, spreadPct: pct, source: cleanSource('shape') });
          s.layers[0].levelDb = -12;
        }),
      ).bass;
    const wide = spread(80);
    const narrow = spread(0);
    expect(worst(wide.left, wide.right)).toBeGreaterThan(0.02);
    expect(
      db(
        worst(
          wide.left.map((x, i) => 0.5 * (x + wide.right[i])),
          narrow.left,
        ),
      ),
    ).toBeLessThan(-90);
  });

  it('put a pulse together without DC', () => {
    const { bass } = loopOf(
      bare((s) => {
        s.layers[0].tones[0].source = cleanSource('shape', { shape: 'pulse', widthPct: 20 });
        s.layers[0].levelDb = -9;
      }),
    );
    const whole = bass.left.subarray(20000, 20000 + Math.round((RATE / noteToHz(29)) * 20));
    expect(db(whole.reduce((sum, x) => sum + x, 0) / whole.length)).toBeLessThan(-60);
  });
});

describe('voice', () => {
  const two = (second: Partial<ReturnType<typeof cleanNote>>, change: Change = () => undefined) =>
    bare((s) => {
      s.line.notes = [
        cleanNote({ tick: 0, ticks: 960, pitch: 29 }),
        cleanNote({ tick: 960, ticks: 900, pitch: 41, ...second }),
      ];
      change(s);
    });

  it('glides on a tie, over the time that is set, and stays in phase', () => {
    const { bass } = loopOf(
      two({ tie: true }, (s) => {
        s.layers[0].voice.glideMs = 200;
      }),
    );
    // In the middle of the glide, by the semitone: 29 + 12·½.
    const around = bass.left.subarray(48000 + 4800 - 1500, 48000 + 4800 + 1500);
    let crossings = 0;
    for (let i = 1; i < around.length; i++) if (around[i - 1] <= 0 && around[i] > 0) crossings++;
    expect(crossings).toBeGreaterThan(2);
    expect(
      Math.abs(cents(fundamental(bass.left.subarray(60000, 85000), RATE).value!, noteToHz(41))),
    ).toBeLessThan(1);
    expect(findClicks({ channels: [bass.left], sampleRateHz: RATE, loop: true }, [0, 2])).toEqual([]);
  });

  it('goes back to the note still held when the last one ends', () => {
    const { left } = play(
      bare((s) => {
        s.line.notes = [];
        s.layers[0].voice.glideMs = 0;
      }),
      RATE,
      (engine, at) => {
        if (at === 0) engine.noteOn(29, 100);
        if (at === 128 * 94) engine.noteOn(41, 100);
        if (at === 128 * 188) engine.noteOff(41);
      },
    );
    const pitch = (from: number, to: number) => fundamental(left.subarray(from, to), RATE).value!;
    expect(Math.abs(cents(pitch(2000, 11000), noteToHz(29)))).toBeLessThan(2);
    expect(Math.abs(cents(pitch(13500, 23000), noteToHz(41)))).toBeLessThan(2);
    expect(Math.abs(cents(pitch(28000, 47000), noteToHz(29)))).toBeLessThan(2);
  });

  it('falls silent when every live note ends, and when it is stopped', () => {
    const after = play(
      bare((s) => {
        s.line.notes = [];
      }),
      RATE / 2 - 64,
      (engine, at) => {
        if (at === 0) engine.noteOn(29, 100);
        if (at === 128 * 40) engine.noteOff(29);
      },
    ).left;
    expect(Math.max(...after.subarray(128 * 80).map(Math.abs))).toBe(0);
    const stopped = play(plainGrowl(), 128 * 400, (engine, at) => {
      if (at === 128 * 60) engine.stop();
    }).left;
    expect(Math.max(...stopped.subarray(128 * 200).map(Math.abs))).toBeLessThan(1e-6);
  });

  it('drops in pitch from above the note', () => {
    const { bass } = loopOf(
      bare((s) => {
        s.layers[0].drop = { semitones: 24, timeMs: 125, bend: 0 };
      }),
    );
    let first = 0;
    for (let i = 1; i < 4000; i++) if (bass.left[i - 1] <= 0 && bass.left[i] > 0) first++;
    // Mean frequency over the first 83 ms of a straight fall of two octaves in semitones: well above twice
    // the note.
    expect(first / (4000 / RATE)).toBeGreaterThan(2 * noteToHz(29));
    expect(
      Math.abs(cents(fundamental(bass.left.subarray(20000, 60000), RATE).value!, noteToHz(29))),
    ).toBeLessThan(1);
  });

  it('lets velocity move the level as far as it is told', () => {
    const level = (pct: number) => {
      const x = loopOf(
        bare((s) => {
          s.layers[0].voice.velocityPct = pct;
          s.line.notes[0].velocity = 64;
        }),
      ).bass.left.subarray(20000, 20000 + Math.round((RATE / noteToHz(29)) * 20));
      return amplitudeAt(x, noteToHz(29));
    };
    expect(level(100) / level(0)).toBeCloseTo(64 / 127, 2);
    expect(level(50) / level(0)).toBeCloseTo(1 - 0.5 * (1 - 64 / 127), 2);
  });
});

describe('movers', () => {
  /** A level wobble on a held note, as it is heard: mean square of each 10 ms. */
  const wobbled = (change: (wobble: any) => void) => {
    const { bass } = loopOf(
      bare((s) => {
        change(s.movers[0]);
        s.layers[0].tones[0].octave = 2;
        s.layers[0].levelDb = -20;
        s.links = [
          cleanLink({ id: 'link-1', mover: 'wobble-1', target: 'layers.sub.levelDb', reachPct: 25 }),
        ];
      }),
    );
    return Float32Array.from({ length: 180 }, (_, k) =>
      bass.left.subarray(4800 + 480 * k, 4800 + 480 * (k + 1)).reduce((sum, x) => sum + x * x, 0),
    );
  };

  // 120 bpm: a beat lasts 0.5 s, an eighth triplet a third of that.
  it.each([
    ['1/4', { rateBeats: 1 }, 2],
    ['1/8T', { rateBeats: 1 / 3 }, 6],
    ['1/8.', { rateBeats: 0.75 }, 8 / 3],
    ['5 Hz', { rateIn: 'hertz', rateHz: 5 }, 5],
  ])('a wobble of %s comes %s times as often as asked', (_name, set, hz) => {
    const envelope = wobbled((wobble) => {
      Object.assign(wobble, set);
    });
    const mean = envelope.reduce((sum, x) => sum + x, 0) / envelope.length;
    const strength = (at: number) =>
      amplitudeAt(
        envelope.map((x) => x - mean),
        at,
        100,
      );
    for (const other of [hz * 0.5, hz * 1.35]) expect(strength(hz)).toBeGreaterThan(2 * strength(other));
  });

  it('an envelope moves a cutoff as far as its reach, on the scale of the row', () => {
    const sound = bare((s) => {
      Object.assign(s.movers[1], { attackMs: 1, decayMs: 10, sustainPct: 100 });
      s.links = [
        cleanLink({ id: 'link-1', mover: 'envelope-1', target: 'layers.sub.levelDb', reachPct: 10 }),
      ];
      s.layers[0].levelDb = -20;
    });
    const held = loopOf(sound).bass.left.subarray(20000, 20000 + Math.round((RATE / noteToHz(29)) * 20));
    // The level row spans 72 dB: 10 % of it is 7.2 dB.
    expect(db(amplitudeAt(held, noteToHz(29)))).toBeCloseTo(-20 + 7.2, 1);
  });

  it('a link that is off moves nothing', () => {
    const sound = bare((s) => {
      s.links = [
        cleanLink({
          id: 'link-1',
          mover: 'envelope-1',
          target: 'layers.sub.levelDb',
          reachPct: 50,
          on: false,
        }),
      ];
    });
    expect(loopOf(sound).bass.left).toEqual(loopOf(bare()).bass.left);
  });
});

describe('clean path, clip and ceiling', () => {
  it('keeps what Sub has below it out of the clip and in mono', () => {
    const sound = bare((s) => {
      Object.assign(s.grit.cleanPath, { on: true, frequencyHz: 200 });
      clipWith(s, 36, -12);
      s.layers[0].panPct = 60;
    });
    const { bass } = loopOf(sound);
    const hz = noteToHz(29);
    const whole = (x: Float32Array) => x.subarray(20000, 20000 + Math.round((RATE / hz) * 40));
    expect(Math.abs(db(amplitudeAt(whole(bass.left), hz) / amplitudeAt(whole(bass.right), hz)))).toBeLessThan(
      0.6,
    );
    expect(db(amplitudeAt(whole(bass.left), hz))).toBeCloseTo(0, 0);
  });

  it('cuts every other layer below it', () => {
    const sound = bare((s) => {
      Object.assign(s.grit.cleanPath, { on: true, frequencyHz: 200 });
      s.layers[0].role = 'body';
    });
    const x = loopOf(sound).bass.left.subarray(20000, 20000 + Math.round((RATE / noteToHz(29)) * 20));
    // Fourth-order high-pass, more than two octaves down.
    expect(db(amplitudeAt(x, noteToHz(29)))).toBeLessThan(-45);
  });

  it('lets no sample stand above the ceiling', () => {
    for (const make of [plainGrowl, slackWater]) {
      const sound = make();
      sound.output = { levelDb: 12, ceilingDb: -3 };
      const { all } = loopOf(sound);
      expect(
        db(
          Math.max(
            worst(all.left, new Float32Array(all.left.length)),
            worst(all.right, new Float32Array(all.left.length)),
          ),
        ),
      ).toBeLessThanOrEqual(-3 + 1e-6);
    }
  });
});

describe('kick and ducking', () => {
  it('a made kick settles at its tail within 2 cents and starts the same each time', () => {
    const sound = plainGrowl();
    const tail = kickTail(renderKick(sound, RATE).left, RATE)!;
    expect(Math.abs(cents(tail.hz, sound.kick.made.tailHz))).toBeLessThan(2);
    const { kick } = loopOf({
      ...sound,
      kick: {
        ...sound.kick,
        hits: [
          { tick: 0, velocity: 100 },
          { tick: 1920, velocity: 100 },
        ],
      },
    });
    const half = kick.left.length / 2;
    expect(
      worst(kick.left.subarray(0, 20000), kick.left.subarray(Math.round(half), Math.round(half) + 20000)),
    ).toBeLessThan(0.02);
  });

  it('a WAV kick is played as it is, at its place and level', () => {
    const hit = sine(50, 0.2, { amplitude: 0.5, fadeS: 0.01 });
    const asset = 'b'.repeat(64);
    const sound = bare((s) => {
      s.line.notes = [];
      s.kick = {
        ...s.kick,
        on: true,
        source: 'wav',
        levelDb: -6.0206,
        wav: cleanWavKick(asset, 'k.wav'),
        hits: [{ tick: 960, velocity: 127 }],
      };
    });
    const { kick } = renderLoop(sound, {
      sampleRateHz: RATE,
      assets: new Map([[asset, { channels: [hit], sampleRateHz: RATE }]]),
    });
    expect(
      worst(
        kick.left.subarray(48000, 48000 + hit.length),
        hit.map((x) => 0.5 * x),
      ),
    ).toBeLessThan(1e-4);
    expect(Math.max(...kick.left.subarray(0, 47000).map(Math.abs))).toBe(0);
    // A recording that is not there is silence, not an error.
    expect(Math.max(...loopOf(sound).kick.left.map(Math.abs))).toBe(0);
  });

  it('ducks by the depth that is set, within 0.5 dB', () => {
    const ducked = (amountDb: number) =>
      loopOf(
        bare((s) => {
          s.kick.hits = [{ tick: 960, velocity: 100 }];
          s.kick.on = true;
          s.kick.levelDb = -60;
          s.duck = { ...s.duck, on: true, amountDb, attackMs: 2, holdMs: 200, returnMs: 100, bend: 0 };
        }),
      ).bass.left;
    const period = Math.round((RATE / noteToHz(29)) * 5);
    const level = (x: Float32Array, from: number) =>
      db(amplitudeAt(x.subarray(from, from + period), noteToHz(29)));
    for (const depth of [3, 11, 24]) {
      const x = ducked(depth);
      expect(level(x, 40000) - level(x, 49500)).toBeCloseTo(depth, 0.4);
      expect(level(x, 40000) - level(x, 70000)).toBeCloseTo(0, 1);
    }
  });
});

describe('changes while it plays', () => {
  it('sound the same whether what an edit leaves alone is the same object or a copy of it', () => {
    const sound = plainGrowl();
    sound.kick.shared = true;
    sound.layers[1].tones[0] = {
      ...sound.layers[1].tones[0],
      source: cleanSource('harmonics', { ringMs: 400 }),
    };
    const edits: Partial<SoundDocument>[] = [
      { layers: sound.layers.map((layer, l) => (l === 1 ? { ...layer, levelDb: -3 } : layer)) },
      { ground: { ...sound.ground, a4Hz: 452 } },
      { links: sound.links.map((link) => ({ ...link, reachPct: -0.5 * link.reachPct })) },
      // The lowest tone of all, which others ask for.
      {
        layers: sound.layers.map((layer, l) =>
          l === 0 ? { ...layer, tones: layer.tones.map((tone) => ({ ...tone, cents: 40 })) } : layer,
        ),
      },
      { layers: [{ ...sound.layers[0], on: false }, ...sound.layers.slice(1)] },
    ];
    const heard = (copied: boolean) =>
      play(sound, 48000, (engine, at) => {
        const edit = edits[at / 8192];
        if (!edit) return;
        const next = { ...engine.sound, ...edit };
        engine.update(copied ? structuredClone(next) : next);
      });
    const [shared, copies] = [heard(false), heard(true)];
    // Pitches that are worked out anew differ in the last bit: a null of better than −140 dB.
    expect(worst(shared.left, copies.left)).toBeLessThan(1e-7);
    expect(worst(shared.right, copies.right)).toBeLessThan(1e-7);
  });

  const moved = (change: Change) => {
    const sound = bare((s) => {
      s.layers[0].tones[0].octave = 1;
    });
    const other = structuredClone(sound);
    change(other);
    const { left } = play(sound, 128 * 600, (engine, at) => {
      if (at === 128 * 300) engine.update(other);
    });
    return {
      left,
      clicks: findClicks({ channels: [left], sampleRateHz: RATE }).filter(
        ({ timeS }) => Math.abs(timeS - 0.8) < 0.05,
      ),
    };
  };

  it.each<[string, Change]>([
    [
      'level',
      (s) => {
        s.layers[0].levelDb = -18;
      },
    ],
    [
      'fine tuning',
      (s) => {
        s.layers[0].tones[0].cents = 90;
      },
    ],
    [
      'shape',
      (s) => {
        s.layers[0].tones[0].source = cleanSource('shape', { shape: 'triangle' });
      },
    ],
    [
      'filter switched on',
      (s) => {
        s.layers[0].filters[0].on = true;
        s.layers[0].filters[0].cutoffHz = 300;
      },
    ],
    [
      'drawn harmonics for a shape',
      (s) => {
        s.layers[0].tones[0].source = cleanSource('harmonics');
      },
    ],
    [
      'frames for a shape',
      (s) => {
        s.layers[0].tones[0].source = cleanSource('frames', { table: 'odd stair', positionPct: 60 });
      },
    ],
    [
      'FM for a shape',
      (s) => {
        s.layers[0].tones[0].source = cleanSource('fm');
      },
    ],
    [
      'a voice for a shape',
      (s) => {
        s.layers[0].tones[0].source = cleanSource('vowel', { breathPct: 0 });
      },
    ],
    [
      'a second tone switched on',
      (s) => {
        s.layers[0].tones[1] = { ...s.layers[0].tones[0], octave: 2 };
      },
    ],
    [
      'a tone that steers another',
      (s) => {
        s.layers[0].tones[1] = { ...s.layers[0].tones[0], levelDb: -60 };
        s.layers[0].acts.two = { way: 'steer', amountPct: 30 };
      },
    ],
    [
      'a filter of another kind',
      (s) => {
        s.layers[0].filters[0] = {
          ...s.layers[0].filters[0],
          on: true,
          mode: 'comb',
          cutoffHz: 400,
          resonancePct: 40,
        };
      },
    ],
    [
      'feedback switched on',
      (s) => {
        s.layers[0].feedback = { on: true, way: 'clip', amountPct: 60, delayMs: 3 };
      },
    ],
    [
      'feedback of the whole switched on',
      (s) => {
        s.feedback = { on: true, way: 'clip', amountPct: 60, delayMs: 3 };
      },
    ],
    [
      'several voices for one',
      (s) => {
        s.layers[0].voice.notes = 'several';
        s.layers[0].levelDb = -20;
      },
    ],
    [
      'output level',
      (s) => {
        s.output.levelDb = -12;
      },
    ],
  ])('%s is heard at once and without a click', (_name, change) => {
    const { left, clicks } = moved(change);
    expect(clicks).toEqual([]);
    const before = left.subarray(128 * 250, 128 * 290);
    const after = left.subarray(128 * 320, 128 * 360);
    expect(worst(before, after)).toBeGreaterThan(0.05);
  });

  it('the tempo moves the line and keeps its place', () => {
    const sound = plainGrowl();
    const { engine } = play(sound, 128 * 400, (e, at) => {
      if (at === 128 * 200) {
        const place = e.place;
        e.update({ ...sound, ground: { ...sound.ground, tempoBpm: 174 } });
        expect(e.place).toBeCloseTo(place, 4);
      }
    });
    expect(engine.playing).toBe(true);
  });

  it('a note that is taken away while it sounds does not hang', () => {
    const sound = bare();
    const { left } = play(sound, 128 * 700, (engine, at) => {
      if (at === 128 * 100) engine.update({ ...sound, line: { notes: [] } });
    });
    expect(Math.max(...left.subarray(128 * 300).map(Math.abs))).toBe(0);
  });

  it('listens to bass, kick and mono', () => {
    const of = (monitor: 'both' | 'bass' | 'kick', mono: boolean) =>
      play(slackWater(), 128 * 300, (engine, at) => {
        if (at === 0) engine.listen(monitor, mono);
      });
    const late = (x: Float32Array) => x.subarray(128 * 100);
    const both = of('both', false);
    const bass = of('bass', false);
    const kick = of('kick', false);
    expect(
      worst(
        late(both.left),
        late(bass.left).map((x, i) => x + late(kick.left)[i]),
      ),
    ).toBeLessThan(1e-4);
    const mono = of('both', true);
    expect(worst(late(mono.left), late(mono.right))).toBe(0);
  });
});

describe('the block path', () => {
  /**
   * Least growth of the heap in bytes a block over eight rounds, after the code is warm: code that is not
   * optimised yet puts every number on
   * the heap, so it is optimised in line with the run, and what a note or a hit calls after fewer calls than
   * it takes by default.
   */
  const growth = (change: string, enough: number): number => {
    const script = `
      import { createEngine, slackWater, trenchGrowl } from ${JSON.stringify(resolve(__dirname, '../../../dist/index.js'))};
      import v8 from 'node:v8';
      const sound = trenchGrowl();
      const held = (${change})(sound, slackWater);
      const engine = createEngine(held ?? sound, { sampleRateHz: 48000 });
      engine.play();
      engine.noteOn(29, 100);
      const left = new Float32Array(128), right = new Float32Array(128);
      for (let i = 0; i < 20000; i++) engine.render(left, right, 128);
      let least = Infinity;
      // What is compiled anew in a round stands on the heap as well: the least of up to 16 rounds counts.
      for (let round = 0; round < 16 && least >= 8000 * ${enough}; round++) {
        gc();
        const before = v8.getHeapStatistics().used_heap_size;
        for (let i = 0; i < 8000; i++) engine.render(left, right, 128);
        least = Math.min(least, v8.getHeapStatistics().used_heap_size - before);
      }
      console.log(least / 8000);`;
    return Number(
      execFileSync(
        process.execPath,
        [
          '--expose-gc',
          '--no-concurrent-recompilation',
          '--interrupt-budget=10000',
          '--input-type=module',
          '-e',
          script,
        ],
        { encoding: 'utf8' },
      ),
    );
  };

  // A number, closure or array on the heap takes 16 bytes or more: less than 1 byte a block is none.
  it('allocates nothing while a note is held, movers and all', () => {
    expect(growth('(sound) => { sound.kick.on = false; sound.line.notes = []; }', 1)).toBeLessThan(1);
  });

  // A beginning note or hit may put a few numbers on the heap, between two steps.
  it.each(['() => null', '(_sound, other) => other()'])(
    'stays under one number a block with the line and the kick playing (%s)',
    (change) => {
      expect(growth(change, 16)).toBeLessThan(16);
    },
  );
});
