import fc from 'fast-check';
import { BLOCK } from '../../dsp/index.js';
import {
  cleanSound,
  cleanWavKick,
  defaultOf,
  kickShape,
  madeKickShape,
  type Kick,
  type MadeKick,
} from '../../document/index.js';
import { fundamental, kickTail } from '../../measure/index.js';
import { amplitudeAt, db, sine } from '../../testing/signals.js';
import { eventList, KICK, swung } from '../hosts/events.js';
import type { Recording } from '../base/recording.js';
import { dropEndMs, dropHz, turnsBack } from './drop.js';
import { fractionOf, preparedRecording } from './kick-recording.js';
import { KickPlayer } from './kick-player.js';
import { renderKick } from './render-kick.js';

const RATE = 48000;
const bare = (set: Partial<MadeKick>): MadeKick => ({
  ...defaultOf(madeKickShape),
  click: 'none',
  holdMs: 500,
  decayMs: 400,
  decayBend: 0,
  ...set,
});
const kickOf = (set: Partial<MadeKick>): Kick => ({ ...defaultOf(kickShape), made: bare(set) });

function hit(
  kick: Kick,
  seconds: number,
  recording: Recording | null = null,
  velocity = 127,
  rate = RATE,
): Float64Array {
  const player = new KickPlayer(kick, recording, rate, 1, 0);
  const out = new Float64Array(Math.ceil((seconds * rate) / BLOCK) * BLOCK);
  player.hit(velocity);
  for (let at = 0; at < out.length; at += BLOCK) {
    player.render(BLOCK);
    if (player.silent) break;
    out.set(player.left, at);
  }
  return out;
}

/**
 * Phase in degrees of a sine of `hz` over whole periods from `fromS` on, carried back to the first sample.
 */
function phaseOf(x: Float64Array, hz: number, fromS: number, rate = RATE): number {
  const from = Math.round(fromS * rate);
  const length = Math.round((rate / hz) * 5);
  let re = 0;
  let im = 0;
  for (let i = from; i < from + length; i++) {
    re += x[i] * Math.sin((2 * Math.PI * hz * i) / rate);
    im += x[i] * Math.cos((2 * Math.PI * hz * i) / rate);
  }
  return (Math.atan2(im, re) * 180) / Math.PI;
}
const apart = (a: number, b: number) => Math.abs(((((a - b + 180) % 360) + 360) % 360) - 180);
const steepest = (x: ArrayLike<number>) => {
  let most = 0;
  for (let i = 1; i < x.length; i++) most = Math.max(most, Math.abs(x[i] - x[i - 1]));
  return most;
};

describe('a drop by phase', () => {
  it('leaves the tail at the phase it would have without a drop, within 1°, over the whole range of its settings', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -4, max: 24, noNaN: true }),
        fc.integer({ min: 5, max: 250 }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.integer({ min: 0, max: 200 }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 100, noNaN: true }),
        fc.integer({ min: -180, max: 180 }),
        fc.double({ min: 35, max: 100, noNaN: true }),
        (dropCycles, dropMs, dropBend, settleMs, settleBend, kneePct, startDeg, tailHz) => {
          const x = hit(
            kickOf({
              dropBy: 'phase',
              dropCycles,
              dropMs,
              dropBend,
              settleMs,
              settleBend,
              kneePct,
              startDeg,
              tailHz,
            }),
            0.75,
          );
          expect(apart(phaseOf(x, tailHz, (dropMs + settleMs) / 1000 + 0.001), startDeg)).toBeLessThan(1);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('falls along the slope of its displacement, and has no corner but where the second part begins', () => {
    const made = bare({ dropBy: 'phase', dropCycles: 6, dropMs: 100, dropBend: 0, tailHz: 50 });
    // 6 cycles over 100 ms are 60 Hz above the tail.
    expect(dropHz(made, 30)).toBeCloseTo(110, 0);
    expect(dropHz(made, 120)).toBe(50);
    expect(steepest(hit({ ...kickOf({}), made }, 0.4))).toBeLessThan((2 * Math.PI * 115) / RATE);
  });

  it('is marked where the wave turns back on itself, and only there', () => {
    expect(turnsBack(bare({ dropBy: 'phase', dropCycles: -4, dropMs: 40, tailHz: 50 }))).toBe(true);
    expect(turnsBack(bare({ dropBy: 'phase', dropCycles: -1, dropMs: 400, dropBend: 0, tailHz: 50 }))).toBe(
      false,
    );
    expect(turnsBack(bare({ dropBy: 'phase', dropCycles: 20, dropMs: 40 }))).toBe(false);
    expect(turnsBack(bare({ dropBy: 'frequency', dropCycles: -4, dropMs: 40 }))).toBe(false);
  });
});

describe('a drop by frequency', () => {
  // Simpson's rule over 0.01 ms, of the pitch as it is set.
  it.each([12000, 44100, 48000, 96000])(
    'turns the phase by the integral of its pitch, within 0.5° at %i Hz',
    (rate) => {
      for (const set of [
        { startHz: 320, kneeHz: 90, tailHz: 48, dropMs: 35, settleMs: 120, dropBend: -0.5, settleBend: 0.4 },
        { startHz: 180, tailHz: 55, dropMs: 90, settleMs: 0, dropBend: 0 },
      ]) {
        const made = bare({ dropBy: 'frequency', startDeg: 20, ...set });
        const end = dropEndMs(made);
        const steps = Math.round(end / 0.02);
        const h = end / steps / 2;
        let cycles = 0;
        for (let k = 0; k < steps; k++)
          cycles +=
            ((h / 3) *
              (dropHz(made, 2 * k * h) + 4 * dropHz(made, (2 * k + 1) * h) + dropHz(made, (2 * k + 2) * h))) /
            1000;
        const x = hit({ ...kickOf({}), made }, 0.5, null, 127, rate);
        // Carried back to the first sample the tail has the phase that the drop has turned it by, beyond what
        // the tail alone would have turned.
        const wanted = 20 + 360 * (cycles - (made.tailHz * end) / 1000);
        expect(apart(phaseOf(x, made.tailHz, end / 1000 + 0.002, rate), wanted)).toBeLessThan(0.5);
      }
    },
  );

  it('goes from start to knee to tail in the times that are set', () => {
    const made = bare({
      startHz: 300,
      kneeHz: 80,
      tailHz: 45,
      dropMs: 60,
      settleMs: 200,
      dropBend: 0,
      settleBend: 0,
    });
    expect([0, 60, 260, 400].map((ms) => Number(dropHz(made, ms).toFixed(6)))).toEqual([300, 80, 45, 45]);
    // Straight in semitones: half way is the geometric mean.
    expect(dropHz(made, 30)).toBeCloseTo(Math.sqrt(300 * 80), 6);
    expect(dropEndMs(made)).toBe(260);
    const x = hit({ ...kickOf({}), made }, 0.6);
    // Zero crossings count half periods: the integral of the pitch, by Simpson's rule over a millisecond
    // each.
    let cycles = 0;
    for (let ms = 0; ms < 400; ms++)
      cycles += (dropHz(made, ms) + 4 * dropHz(made, ms + 0.5) + dropHz(made, ms + 1)) / 6000;
    let crossings = 0;
    for (let i = 1; i < 0.4 * RATE; i++) if (x[i - 1] < 0 !== x[i] < 0) crossings++;
    expect(Math.abs(crossings / 2 - cycles)).toBeLessThan(0.6);
  });

  it('without a second part goes to the tail at once', () => {
    expect(dropHz(bare({ startHz: 200, kneeHz: 900, tailHz: 50, dropMs: 50, settleMs: 0 }), 50)).toBe(50);
  });
});

describe('a made kick', () => {
  const tail = (set: Partial<MadeKick>) =>
    hit(kickOf({ tailHz: 50, dropMs: 5, ...set }), 0.5).subarray(4800, 4800 + 9600);

  it('is softly square where it is asked to be: odd harmonics alone', () => {
    const x = tail({ squarePct: 100 });
    const level = (n: number) => amplitudeAt(x, 50 * n);
    expect(db(level(3) / level(1))).toBeGreaterThan(-16);
    for (const even of [2, 4, 6]) expect(db(level(even) / level(1))).toBeLessThan(-70);
    expect(db(amplitudeAt(tail({ squarePct: 0 }), 150))).toBeLessThan(-70);
    expect(tail({ squarePct: 1e-320 }).every(Number.isFinite)).toBe(true);
  });

  it('of noise sings at its pitch, falls with it, and is the same at each hit', () => {
    const kick = kickOf({
      body: 'noise',
      noiseWidthOct: 0.05,
      tailHz: 60,
      startHz: 240,
      dropMs: 60,
      holdMs: 500,
    });
    const x = hit(kick, 1);
    const found = fundamental(x.subarray(9600, 28800), RATE);
    expect(Math.abs(1200 * Math.log2(found.value! / 60))).toBeLessThan(120);
    expect(Math.max(...x)).toBeLessThan(4);
    expect(hit(kick, 1)).toEqual(x);
  });

  it('has a click on its own phase that ends with its time, skewed or folded', () => {
    const plain = hit(kickOf({ tailHz: 50, dropMs: 5 }), 0.3);
    for (const clickShape of ['skew', 'fold'] as const) {
      const x = hit(
        kickOf({
          tailHz: 50,
          dropMs: 5,
          click: 'phase',
          clickDb: -12,
          clickMs: 30,
          clickShape,
          clickShapePct: 60,
        }),
        0.3,
      );
      const differs = (from: number, to: number) =>
        Math.max(...x.subarray(from, to).map((value, i) => Math.abs(value - plain[from + i])));
      expect(differs(48, 900)).toBeGreaterThan(0.1);
      expect(differs(1500, 12000)).toBeLessThan(1e-3);
      expect(Math.max(...x.map(Math.abs))).toBeLessThan(1.01);
    }
  });

  it('plays a short recording for its click, and none where there is none', () => {
    const recording = { sampleRateHz: RATE, channels: [sine(2000, 0.5, { amplitude: 0.5 })] };
    const kick = kickOf({ tailHz: 50, dropMs: 5, click: 'sample', clickDb: 0, clickMs: 20 });
    const x = hit(kick, 0.2, recording);
    const plain = hit(kickOf({ tailHz: 50, dropMs: 5 }), 0.2);
    expect(x[300] - plain[300]).toBeCloseTo(recording.channels[0][300], 5);
    expect(Math.max(...x.subarray(1200, 4000).map((value, i) => Math.abs(value - plain[1200 + i])))).toBe(0);
    expect(hit(kick, 0.2)).toEqual(plain);
  });

  it('is cut at its length within 5 ms, without a jump, and silent then', () => {
    const x = hit(kickOf({ tailHz: 50, dropMs: 5, lengthMs: 100 }), 0.3);
    expect(Math.max(...x.subarray(4850).map(Math.abs))).toBe(0);
    expect(Math.max(...x.subarray(4000, 4500).map(Math.abs))).toBeGreaterThan(0.9);
    expect(steepest(x.subarray(4000))).toBeLessThan(0.02);
  });

  it('driven is bounded and has the harmonics of a clip', () => {
    const x = tail({ driveDb: 18 });
    expect(db(amplitudeAt(x, 150) / amplitudeAt(x, 50))).toBeGreaterThan(-20);
    expect(Math.max(...x.map(Math.abs))).toBeLessThan(1);
  });
});

describe('a kick from a WAV', () => {
  const recording: Recording = { sampleRateHz: RATE, channels: [sine(50, 1)] };
  const prepared = (set: object) =>
    preparedRecording(recording, { ...cleanWavKick('a'.repeat(64), 'k.wav'), ...set }, RATE).channels[0];

  it('is trimmed to the frame, with a fade where its end is cut', () => {
    const x = prepared({ startMs: 100, endMs: 400 });
    expect(x.length).toBe(14400);
    expect(x[5000]).toBeCloseTo(recording.channels[0][9800], 6);
    expect(Math.abs(x[x.length - 1])).toBeLessThan(1e-6);
    expect(prepared({ startMs: 5000 }).length).toBe(0);
  });

  it.each([-12, -5, -0.5, 0.37, 3, 7.02, 24])(
    'is retuned by %f st to within a cent, its length with it',
    (retuneSt) => {
      const x = prepared({ retuneSt });
      const ratio = 2 ** (retuneSt / 12);
      const hz = fundamental(x.subarray(Math.floor(0.1 * x.length), Math.floor(0.9 * x.length)), RATE, {
        minHz: 20,
      }).value!;
      expect(Math.abs(1200 * Math.log2(hz / (50 * ratio)))).toBeLessThan(1);
      expect(Math.abs(x.length - RATE / ratio)).toBeLessThan(30);
    },
  );

  it('meets every ratio within a twentieth of a cent up to an octave, and a third of one beyond', () => {
    for (let st = -24; st <= 24; st += 0.37) {
      const { up, down } = fractionOf(2 ** (st / 12));
      expect(Math.abs(1200 * Math.log2(up / down) - 100 * st)).toBeLessThan(Math.abs(st) <= 12 ? 0.05 : 0.34);
    }
  });

  it('of three frames, of 20 s, of silence and of DC do no harm, and are told for what they are', () => {
    const asset = 'c'.repeat(64);
    const of = (channel: Float32Array) => {
      const sound = cleanSound();
      sound.kick = { ...sound.kick, source: 'wav', wav: cleanWavKick(asset, 'k.wav') };
      return renderKick(sound, RATE, new Map([[asset, { sampleRateHz: RATE, channels: [channel] }]])).left;
    };
    expect(kickTail(of(Float32Array.of(0.5, 0.2, 0.1)), RATE)).toBeNull();
    expect(kickTail(of(new Float32Array(4800)), RATE)).toBeNull();
    expect(of(sine(50, 21)).length).toBe(20 * RATE);
    expect(kickTail(of(sine(50, 20, { fadeS: 0.1 })), RATE)!.hz).toBeCloseTo(50, 1);
    const withDc = of(sine(50, 0.5, { fadeS: 0.02 }).map((x) => 0.5 * x + 0.3));
    expect(Math.abs(1200 * Math.log2(kickTail(withDc, RATE)!.hz / 50))).toBeLessThan(5);
  });
});

describe('the beats', () => {
  it('swing the second of each pair of sixteenths', () => {
    expect([0, 120, 240, 360, 480].map((tick) => swung(tick, 50))).toEqual([0, 120, 240, 360, 480]);
    expect(swung(120, 66.666667)).toBeCloseTo(160, 4);
    expect(swung(240, 75)).toBe(240);
  });

  it('are moved by swing, and by the shift of a WAV', () => {
    const sound = cleanSound();
    sound.ground.tempoBpm = 120;
    sound.kick.hits = [
      { tick: 0, velocity: 100 },
      { tick: 120, velocity: 100 },
    ];
    sound.kick.swingPct = 75;
    const frames = (set: Partial<Kick>) => {
      const list = eventList({ ...sound, kick: { ...sound.kick, ...set } }, RATE);
      return Array.from(list.frame).filter((_, i) => list.type[i] === KICK);
    };
    // A tick lasts 50 frames at 120 bpm.
    expect(frames({})).toEqual([0, 9000]);
    expect(frames({ source: 'wav', wav: { ...cleanWavKick('a'.repeat(64), 'k.wav'), shiftMs: 2 } })).toEqual([
      96, 9096,
    ]);
  });
});

describe('the noise of a kick', () => {
  /**
   * Energy in a third of an octave around a frequency, in dB re that of a unit signal over time: the same at
   * any sample rate.
   */
  function thirdDb(x: Float64Array, hz: number, rate: number): number {
    let power = 0;
    const from = hz * 2 ** (-1 / 6);
    const step = 12;
    for (let f = from; f < hz * 2 ** (1 / 6); f += step) {
      let re = 0;
      let im = 0;
      for (let i = 0; i < x.length; i++) {
        re += x[i] * Math.cos((2 * Math.PI * f * i) / rate);
        im += x[i] * Math.sin((2 * Math.PI * f * i) / rate);
      }
      power += (re * re + im * im) / rate ** 2;
    }
    return 10 * Math.log10(power);
  }

  it.each([
    [
      'its click',
      { click: 'noise', clickHz: 6000, clickWidthOct: 3, clickMs: 9, clickDb: 0, decayMs: 20, holdMs: 0 },
      [2000, 4000, 8000, 12500, 16000],
    ],
    [
      'its body',
      {
        body: 'noise',
        tailHz: 55,
        startHz: 110,
        dropBend: 0,
        noiseWidthOct: 0.3,
        holdMs: 40,
        decayMs: 60,
        click: 'none',
      },
      [50, 63, 100],
    ],
  ] as const)('has the same spectrum in %s at every sample rate', (_name, set, thirds) => {
    const seconds = 0.12;
    // What the body's tone leaves would hide the click: it is taken off.
    const alone = (rate: number) => {
      const whole = hit(kickOf(set as Partial<MadeKick>), seconds, null, 127, rate);
      if (set.click === 'none') return whole;
      const without = hit(kickOf({ ...(set as Partial<MadeKick>), click: 'none' }), seconds, null, 127, rate);
      return whole.map((x, i) => x - without[i]);
    };
    const wanted = thirds.map((hz) => thirdDb(alone(48000), hz, 48000));
    for (const rate of [44100, 88200, 96000])
      thirds.forEach((hz, i) => {
        expect(Math.abs(thirdDb(alone(rate), hz, rate) - wanted[i])).toBeLessThan(0.5);
      });
  });

  it.each([44100, 48000, 96000])(
    'is the same wave, sample for sample at the same moments, at %i Hz',
    (rate) => {
      const at = (r: number) =>
        hit(kickOf({ click: 'noise', clickHz: 3000, clickMs: 12, clickDb: 0 }), 0.02, null, 127, r);
      const one = at(48000);
      const other = at(rate);
      // Moments that both have: every 1/300 s.
      for (let k = 1; k < 4; k++) expect(Math.abs(one[k * 160] - other[(k * rate) / 300])).toBeLessThan(0.06);
    },
  );
});

describe('a kick that does not begin at zero', () => {
  it.each([
    ['frequency', 90, 0],
    ['frequency', -60, 0],
    ['phase', 90, 6],
    ['phase', 0, 6.25],
  ] as const)('rises within a millisecond: by %s, %i°, %f cycles', (dropBy, startDeg, dropCycles) => {
    for (const rate of [44100, 96000]) {
      const x = hit(
        kickOf({ dropBy, startDeg, dropCycles, startHz: 60, tailHz: 50, dropMs: 80 }),
        0.05,
        null,
        127,
        rate,
      );
      expect(Math.abs(x[0])).toBeLessThan(0.01);
      // No step beyond that of a rise within 0.3 ms, and all there after 1 ms.
      expect(steepest(x.subarray(0, Math.round(0.002 * rate)))).toBeLessThan(Math.PI / 2 / (0.0003 * rate));
      expect(Math.abs(x[Math.round(0.001 * rate)])).toBeGreaterThan(0.5);
    }
  });

  it('and one that does is left as it is, from its first sample', () => {
    const x = hit(kickOf({ startHz: 50, tailHz: 50 }), 0.01);
    for (let i = 0; i < 48; i++) expect(x[i]).toBeCloseTo(Math.sin((2 * Math.PI * 50 * i) / RATE), 3);
  });

  it('is a number whatever hair its phase is under zero', () => {
    for (const startDeg of [-1.5e-233, -1e-17, -180, 180])
      expect(hit(kickOf({ startDeg }), 0.02).every(Number.isFinite)).toBe(true);
  });
});
