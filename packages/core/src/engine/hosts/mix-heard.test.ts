import { cleanWavKick } from '../../document/index.js';
import { slackWater } from '../../demo/index.js';
import { plainGrowl } from '../../testing/plain-growl.js';
import { bare, cents, loopOf, RATE, worst } from '../../testing/bare.js';
import { clipWith } from '../../testing/grit.js';
import { kickTail } from '../../measure/index.js';
import { noteToHz } from '../../music/index.js';
import { amplitudeAt, db, sine } from '../../testing/signals.js';
import { renderKick } from '../kick/render-kick.js';
import { renderLoop } from './render-loop.js';

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
