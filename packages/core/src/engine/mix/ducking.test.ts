import { withoutUnits } from '../../testing/grit.js';
import { BLOCK, STEP } from '../../dsp/index.js';
import { cleanBacking, cleanSound, type Duck, type SoundDocument } from '../../document/index.js';
import { lowBand } from '../../lock/index.js';
import { noteToHz } from '../../music/index.js';
import { findClicks } from '../../measure/index.js';
import { amplitudeAt, db, sine } from '../../testing/signals.js';
import { Ducker, duckCurveDb, wantedReductionDb } from './duck.js';
import { DUCKING_FRAMES } from '../hosts/loop-render.js';
import { renderLoop } from '../hosts/render-loop.js';

const RATE = 48000;
const clean = cleanSound().duck;

/** Runs a ducker on a steady level and gives its reduction in dB at the end. */
function settle(
  set: Partial<Duck>,
  levelDb: number,
  ms: number,
  ducker = new Ducker({ ...clean, on: true, by: 'level', amountDb: 60, ...set }, RATE),
): number {
  const block = new Float64Array(BLOCK).fill(10 ** (levelDb / 20));
  for (let at = 0; at < (ms * RATE) / 1000; at += STEP) {
    ducker.follow(block, block, levelDb < -200, STEP);
    ducker.step(STEP);
  }
  return ducker.share[0] * (set.amountDb ?? 60);
}

// Giannoulis, Massberg and Reiss, Digital dynamic range compressor design: a tutorial and analysis, J. Audio
// Eng. Soc. 60 (2012): static curve, eq. 4
// with a knee of no width, y = T + (x − T)/R above T; smooth decoupled peak detector, eq. 17.
describe('ducking by a level', () => {
  it.each([
    [-40, -24, 4],
    [-24, -24, 4],
    [-12, -24, 4],
    [0, -24, 4],
    [0, -30, 2],
    [-6, -20, 20],
    [-3, -18, 1],
  ])('takes off at %f dB with a threshold of %f and a ratio of %f what the static curve says', (x, T, R) => {
    const y = x <= T ? x : T + (x - T) / R;
    expect(wantedReductionDb(x, T, R)).toBeCloseTo(x - y, 9);
    expect(settle({ thresholdDb: T, ratio: R, attackMs: 5, returnMs: 50 }, x, 400)).toBeCloseTo(x - y, 2);
  });

  it('comes to 1 − 1/e of it after the attack, and falls to 1/e of it after the release and the attack that smooths it', () => {
    const set = { thresholdDb: -20, ratio: 4, attackMs: 20, returnMs: 100 };
    const ducker = new Ducker({ ...clean, on: true, by: 'level', amountDb: 60, ...set }, RATE);
    expect(settle(set, 0, 20, ducker) / 15).toBeCloseTo(1 - 1 / Math.E, 2);
    expect(settle(set, 0, 600, ducker)).toBeCloseTo(15, 2);
    // Two first-order parts in a row, as the paper has them: y(t) = (τR·e^{−t/τR} − τA·e^{−t/τA})/(τR − τA).
    const fall = (t: number) => (100 * Math.exp(-t / 100) - 20 * Math.exp(-t / 20)) / 80;
    for (const step of [1, 2, 3]) expect(settle(set, -300, 60, ducker) / 15).toBeCloseTo(fall(60 * step), 2);
  });

  it('never goes deeper than its amount', () => {
    expect(settle({ thresholdDb: -40, ratio: 20, attackMs: 1, returnMs: 50, amountDb: 12 }, 0, 200)).toBe(12);
  });
});

describe('the curve of the ducking', () => {
  it('is even in dB, or even in amplitude', () => {
    const at = (curve: Duck['curve'], ms: number) =>
      duckCurveDb({ ...clean, curve, amountDb: 20, attackMs: 10, holdMs: 0, returnMs: 100, bend: 0 }, ms);
    expect(at('exponential', 5)).toBeCloseTo(-10, 9);
    expect(at('exponential', 60)).toBeCloseTo(-10, 9);
    expect(at('linear', 5)).toBeCloseTo(db(0.55), 6);
    expect(at('linear', 10)).toBeCloseTo(-20, 6);
  });
});

/** A held F1 of one harmonic and its eighth, a kick hit at the third beat. */
function held(duck: Partial<Duck>, change: (sound: SoundDocument) => void = () => undefined): SoundDocument {
  const sound = cleanSound();
  sound.ground.bars = 1;
  sound.ground.tempoBpm = 120;
  sound.line.notes = [{ ...sound.line.notes[0], tick: 0, ticks: 1900 }];
  sound.layers = [
    sound.layers[0],
    {
      ...sound.layers[0],
      id: 'eighth',
      name: 'Eighth',
      role: 'body',
      tones: sound.layers[0].tones.map((tone, t) => (t === 0 ? { ...tone, octave: 3 } : tone)),
    },
  ];
  withoutUnits(sound);
  sound.grit.cleanPath.on = false;
  sound.links = [];
  sound.kick = { ...sound.kick, on: true, levelDb: -20, hits: [{ tick: 960, velocity: 127 }] };
  sound.output.ceilingDb = 0;
  sound.output.levelDb = -12;
  sound.duck = {
    ...clean,
    on: true,
    attackMs: 2,
    holdMs: 250,
    returnMs: 100,
    bend: 0,
    amountDb: 12,
    ...duck,
  };
  change(sound);
  return sound;
}
const LOW = noteToHz(29);
const HIGH = 8 * LOW;
const bass = (sound: SoundDocument, assets?: Parameters<typeof renderLoop>[1]['assets']) =>
  renderLoop(sound, { sampleRateHz: RATE, assets }).bass.left;
/** Over whole periods, of about 115 ms. */
const level = (x: Float32Array, hz: number, atS: number) =>
  db(
    amplitudeAt(
      x.subarray(
        Math.round(atS * RATE),
        Math.round(atS * RATE) + Math.round((RATE / hz) * Math.round((5 * hz) / LOW)),
      ),
      hz,
    ),
  );
/** What is taken off at a frequency 60 ms after the hit at 1 s, from the sound without ducking. */
const taken = (duck: Partial<Duck>, hz: number, change?: (sound: SoundDocument) => void) =>
  level(bass(held({ on: false }, change)), hz, 1.06) - level(bass(held(duck, change)), hz, 1.06);

it('ducks the stems as it ducks the bass: where nothing clips they add up to it', () => {
  for (const duck of [{}, { acts: 'low' as const }, { acts: 'filter' as const }, { hard: true }]) {
    const { bass: whole, layers } = renderLoop(
      held({ ...duck, amountDb: 30 }, (s) => {
        s.grit.cleanPath.on = true;
      }),
      { sampleRateHz: RATE },
    );
    expect(layers).toHaveLength(2);
    const apart = whole.left.reduce(
      (most, x, i) => Math.max(most, Math.abs(x - layers[0].left[i] - layers[1].left[i])),
      0,
    );
    expect(db(apart)).toBeLessThan(-110);
    // The filter closes to 120 Hz: it leaves the fundamental and takes the higher layer.
    const [stem, hz] =
      'acts' in duck && duck.acts === 'filter' ? [layers[1].left, HIGH] : [layers[0].left, LOW];
    expect(level(stem, hz, 0.5) - level(stem, hz, 1.06)).toBeGreaterThan(10);
  }
});

const clicksOf = (duck: Partial<Duck>) =>
  findClicks({ channels: [bass(held(duck))], sampleRateHz: RATE, loop: true }, [0]);

describe('ducking on the render', () => {
  it.each([3, 12, 30])('of %i dB is as deep as it is set on the level, within 0.5 dB', (amountDb) => {
    for (const hz of [LOW, HIGH]) expect(Math.abs(taken({ amountDb }, hz) - amountDb)).toBeLessThan(0.5);
    expect(Math.abs(taken({ amountDb, curve: 'linear' }, LOW) - amountDb)).toBeLessThan(0.5);
  });

  it.each([3, 12, 30])(
    'of %i dB is as deep as it is set on the lows, and leaves what lies above',
    (amountDb) => {
      // The split stands the higher the deeper it is: by an octave and a half at 30 dB.
      expect(Math.abs(taken({ amountDb, acts: 'low', belowHz: 300 }, LOW) - amountDb)).toBeLessThan(0.5);
      expect(Math.abs(taken({ amountDb, acts: 'low', belowHz: 60 }, HIGH))).toBeLessThan(0.5);
    },
  );

  it.each([6, 12, 24, 40])(
    'of %i dB on the lows is met below two thirds of where it acts, within 1 dB: at 120 Hz up to 80',
    (amountDb) => {
      for (const pitch of [24, 29, 34, 39]) {
        const at = (sound: SoundDocument) => {
          sound.line.notes[0].pitch = pitch;
        };
        expect(
          Math.abs(taken({ amountDb, acts: 'low', belowHz: 120 }, noteToHz(pitch), at) - amountDb),
        ).toBeLessThan(1);
      }
    },
  );

  it('closes a filter to where it is set, and is out of the way when it is open', () => {
    // A Butterworth low-pass of second order closed to 100 Hz: 10·log10(1 + (f/fc)⁴) at f = 349 Hz.
    expect(taken({ acts: 'filter', belowHz: 100 }, HIGH)).toBeCloseTo(
      10 * Math.log10(1 + (HIGH / 100) ** 4),
      0,
    );
    expect(
      Math.abs(
        level(bass(held({ acts: 'filter', belowHz: 100 })), HIGH, 0.5) -
          level(bass(held({ on: false })), HIGH, 0.5),
      ),
    ).toBeLessThan(0.1);
  });

  it('hard leaves nothing of the bass below 120 Hz while the kick is within 20 dB of its peak', () => {
    const sound = held({ hard: true }, (s) => {
      s.kick.made = { ...s.kick.made, holdMs: 100, decayMs: 200 };
    });
    const { bass: ducked, kick } = renderLoop(sound, { sampleRateHz: RATE });
    const low = lowBand(ducked.left, RATE, 120, true);
    const hit = lowBand(kick.left, RATE, 120, true);
    const size = (band: typeof low, i: number) => Math.hypot(band.re[i], band.im[i]);
    const top = Math.max(...Array.from(hit.re, (_, i) => size(hit, i)));
    const full = Math.max(...Array.from(low.re, (_, i) => size(low, i)));
    let met = 0;
    for (let i = 0; i < low.re.length; i++) {
      if (size(hit, i) < 0.1 * top || i / low.rateHz < 1.005) continue;
      met++;
      expect(db(size(low, i) / full)).toBeLessThan(-20);
    }
    expect(met / low.rateHz).toBeGreaterThan(0.15);
    // Above, the bass goes on.
    expect(Math.abs(taken({ hard: true }, HIGH))).toBeLessThan(2);
  });

  it('looks ahead: it is down when the kick begins', () => {
    const at = (lookAheadMs: number) => bass(held({ amountDb: 40, attackMs: 10, lookAheadMs }));
    const rms = (x: Float32Array) =>
      Math.sqrt(x.subarray(48000, 48240).reduce((sum, value) => sum + value * value, 0) / 240);
    expect(db(rms(at(12)) / rms(at(0)))).toBeLessThan(-20);
  });

  it('follows the level of a backing part, and makes no clicks', () => {
    const asset = 'd'.repeat(64);
    const part = { sampleRateHz: RATE, channels: [sine(440, 0.5, { amplitude: 0.5, fadeS: 0.02 })] };
    const assets = new Map([[asset, part]]);
    const sound = held(
      { by: 'level', from: 'part-1', thresholdDb: -30, ratio: 4, attackMs: 5, returnMs: 60, amountDb: 40 },
      (s) => {
        s.backing = [{ ...cleanBacking('part-1', asset, 'p.wav'), startTick: 960 }];
        s.kick.on = false;
      },
    );
    const x = bass(sound, assets);
    // −6 dB peak, 24 dB over the threshold, a quarter is left: 18 dB are taken off (the detector falls a
    // little between the crests).
    expect(level(x, LOW, 0.5) - level(x, LOW, 1.2)).toBeGreaterThan(16);
    expect(level(x, LOW, 0.5) - level(x, LOW, 1.2)).toBeLessThan(18.5);
    expect(Math.abs(level(x, LOW, 0.5) - level(x, LOW, 1.85))).toBeLessThan(0.2);
    for (const duck of [{}, { acts: 'low' as const }, { acts: 'filter' as const }, { hard: true }])
      expect(clicksOf({ ...duck, amountDb: 40, attackMs: 10 })).toEqual([]);
  });

  it('that falls too fast makes a click, and it is found where it is', () => {
    const [click] = clicksOf({ amountDb: 40, attackMs: 1 });
    expect(Math.abs(click.timeS - 1)).toBeLessThan(0.005);
  });
});

describe('the ducking of a loop', () => {
  it('is kept beside it, for drawing: as deep as it is set while it holds, and none before the hit', () => {
    const { ducking } = renderLoop(held({ amountDb: 12 }), { sampleRateHz: RATE });
    const at = (seconds: number) => db(ducking![Math.round((seconds * RATE) / DUCKING_FRAMES)]);
    expect(at(0.9)).toBe(0);
    expect(at(1.1)).toBeCloseTo(-12, 6);
    expect(at(1.5)).toBe(0);
    expect(renderLoop(held({ on: false }), { sampleRateHz: RATE }).ducking).toBeNull();
  });
});

describe('backing parts', () => {
  it('sound from their start at their gain, beside kick and bass and not among them', () => {
    const asset = 'e'.repeat(64);
    const part = { sampleRateHz: RATE, channels: [sine(300, 0.25, { amplitude: 0.25 })] };
    const sound = held({ on: false }, (s) => {
      s.backing = [{ ...cleanBacking('part-1', asset, 'p.wav'), startTick: 480, gainDb: -6.0206 }];
    });
    const render = renderLoop(sound, { sampleRateHz: RATE, assets: new Map([[asset, part]]) });
    for (let i = 10; i < 12000; i += 371)
      expect(render.backing!.left[24000 + i]).toBeCloseTo(0.5 * part.channels[0][i], 4);
    expect(Math.max(...render.backing!.left.subarray(0, 23900).map(Math.abs))).toBe(0);
    const without = renderLoop({ ...sound, backing: [] }, { sampleRateHz: RATE });
    expect(Math.max(...render.all.left.map((x, i) => Math.abs(x - without.all.left[i])))).toBeLessThan(1e-6);
    // A part that is silent, or whose recording is not there, is silence.
    expect(Math.max(...renderLoop(sound, { sampleRateHz: RATE }).backing!.left)).toBe(0);
  });
});
