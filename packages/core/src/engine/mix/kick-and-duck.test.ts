import { BLOCK } from '../../dsp/index.js';
import { cleanSound, defaultOf, kickShape, type Duck, type Kick } from '../../document/index.js';
import { amplitudeAt, db } from '../../testing/signals.js';
import { Ducker, duckCurveDb } from './duck.js';
import { KickPlayer } from '../kick/kick-player.js';
import type { Recording } from '../base/recording.js';

const RATE = 48000;

/** What a kick plays over some blocks, with hits at some of them: [block, velocity]. */
function play(
  kick: Kick,
  blocks: number,
  hits: readonly [number, number][],
  recording: Recording | null = null,
  delay = 0,
) {
  const player = new KickPlayer(kick, recording, RATE, 1, delay);
  const left = new Float64Array(blocks * BLOCK);
  const right = new Float64Array(blocks * BLOCK);
  for (let b = 0; b < blocks; b++) {
    for (const [at, velocity] of hits) if (at === b) player.hit(velocity);
    player.render(BLOCK);
    if (player.silent) continue;
    left.set(player.left, b * BLOCK);
    right.set(player.right, b * BLOCK);
  }
  return { left, right, player };
}
const made = (set: Partial<Kick['made']>): Kick => {
  const kick = defaultOf(kickShape);
  return { ...kick, made: { ...kick.made, clickDb: -60, ...set } };
};
const peak = (x: Float64Array) => x.reduce((most, value) => Math.max(most, Math.abs(value)), 0);

describe('a made kick', () => {
  it('ends when its decay has ended, and is silent then', () => {
    const { left, player } = play(made({ holdMs: 10, decayMs: 50 }), 80, [[0, 127]]);
    expect(peak(left.subarray(0, 2880))).toBeGreaterThan(0.9);
    expect(peak(left.subarray(2944))).toBe(0);
    expect(player.silent).toBe(true);
  });

  it('is as loud as its velocity', () => {
    const level = (velocity: number) => peak(play(made({}), 40, [[0, velocity]]).left);
    expect(level(64) / level(127)).toBeCloseTo(64 / 127, 3);
  });

  it('holds its tail for as long as it sounds', () => {
    const { left } = play(made({ tailHz: 50, startHz: 200, dropMs: 20, holdMs: 500, decayMs: 100 }), 400, [
      [0, 127],
    ]);
    // From 40 ms on: twenty periods of 50 Hz.
    const tail = left.subarray(1920, 1920 + 19200);
    expect(amplitudeAt(tail, 50)).toBeCloseTo(1, 2);
    expect(db(amplitudeAt(tail, 60))).toBeLessThan(-50);
  });

  it('gives way to the next hit within 3 ms, without a jump', () => {
    const { left } = play(made({ holdMs: 300 }), 120, [
      [0, 127],
      [60, 127],
    ]);
    let steepest = 0;
    for (let i = 60 * BLOCK - 200; i < 60 * BLOCK + 400; i++)
      steepest = Math.max(steepest, Math.abs(left[i] - left[i - 1]));
    // The start pitch of 240 Hz rises by 2π·240/48000 a frame at the most; the fade adds a little.
    expect(steepest).toBeLessThan(0.05);
  });

  it('comes as late as it is told, to the frame', () => {
    const early = play(made({}), 40, [[0, 127]]).left;
    const late = play(made({}), 40, [[0, 127]], null, 7).left;
    expect(peak(late.subarray(0, 7))).toBe(0);
    for (let i = 0; i < 600; i++) expect(late[i + 7]).toBeCloseTo(early[i], 2);
  });

  it('has a click in its band, the same at each hit', () => {
    const click = (hits: readonly [number, number][]) =>
      play(
        made({ clickDb: 0, clickHz: 4000, clickWidthOct: 1, clickMs: 20, startHz: 60, tailHz: 50 }),
        120,
        hits,
      ).left;
    const twice = click([
      [0, 127],
      [60, 127],
    ]);
    const first = twice.subarray(0, 900);
    const band = (hz: number) =>
      Array.from({ length: 9 }, (_, k) => amplitudeAt(first, hz * (0.9 + 0.025 * k))).reduce(
        (sum, a) => sum + a,
        0,
      );
    expect(band(4000)).toBeGreaterThan(3 * band(1000));
    expect(band(4000)).toBeGreaterThan(2 * band(15000));
    const second = twice.subarray(60 * BLOCK + 200, 60 * BLOCK + 900);
    // The first hit has faded by then: the two are alike to the last bits.
    expect(db(peak(second.map((x, i) => x - twice[i + 200])) / peak(second))).toBeLessThan(-90);
  });
});

describe('a recorded kick', () => {
  const recording = {
    sampleRateHz: 48000,
    channels: [
      Float32Array.from({ length: 1000 }, (_, i) => Math.sin(i / 10)),
      Float32Array.from({ length: 1000 }, (_, i) => Math.cos(i / 10)),
    ],
  };
  const kick: Kick = { ...defaultOf(kickShape), source: 'wav' };

  it('plays its two sides as they are, and ends where they end', () => {
    const { left, right } = play(kick, 20, [[0, 127]], recording);
    for (let i = 0; i < 1000; i += 13) {
      expect(left[i]).toBeCloseTo(recording.channels[0][i], 6);
      expect(right[i]).toBeCloseTo(recording.channels[1][i], 6);
    }
    expect(peak(left.subarray(1000))).toBe(0);
  });

  it('of three frames, and one that is missing, do no harm', () => {
    expect(
      peak(
        play(kick, 4, [[0, 127]], { sampleRateHz: 48000, channels: [Float32Array.of(0.5, 0.25, 0.125)] })
          .left,
      ),
    ).toBeCloseTo(0.5, 6);
    expect(peak(play(kick, 4, [[0, 127]], null).left)).toBe(0);
  });
});

describe('ducking', () => {
  const duck: Duck = {
    ...cleanSound().duck,
    on: true,
    amountDb: 12,
    attackMs: 4,
    holdMs: 30,
    returnMs: 100,
    bend: 0,
  };
  const share = (ducker: Ducker, ms: number) => {
    ducker.step((ms * RATE) / 1000);
    return ducker.share[0];
  };

  it('falls, holds and returns in the times that are set', () => {
    const ducker = new Ducker(duck, RATE);
    expect(share(ducker, 10)).toBe(0);
    ducker.hit();
    expect(share(ducker, 2)).toBeCloseTo(0.5, 9);
    expect(share(ducker, 2)).toBeCloseTo(1, 9);
    expect(share(ducker, 30)).toBeCloseTo(1, 9);
    expect(share(ducker, 50)).toBeCloseTo(0.5, 9);
    expect(share(ducker, 60)).toBe(0);
  });

  it('goes on from where it is when the next hit comes', () => {
    const ducker = new Ducker(duck, RATE);
    ducker.hit();
    share(ducker, 84);
    ducker.hit();
    expect(share(ducker, 2)).toBeCloseTo(0.75, 9);
  });

  it('is what is drawn', () => {
    const ducker = new Ducker(duck, RATE);
    ducker.hit();
    for (let ms = 1; ms < 150; ms++)
      expect(-duck.amountDb * share(ducker, 1)).toBeCloseTo(duckCurveDb(duck, ms), 6);
  });

  it('does nothing while it is off', () => {
    const ducker = new Ducker({ ...duck, on: false }, RATE);
    ducker.hit();
    expect(share(ducker, 10)).toBe(0);
  });
});
