import { cleanNote, cleanSound, type SoundDocument } from '../document/index.js';
import { noLock } from '../lock/index.js';
import { wrapDegrees } from '../lock/index.js';
import { measureLine } from './index.js';

const RATE = 48000;

describe('one oscillator for both', () => {
  /** One held G1 of a sine over a bar, a kick on the third beat. */
  const held = (change: (sound: SoundDocument) => void = () => undefined) => {
    const sound = cleanSound();
    sound.ground = { ...sound.ground, bars: 1, tempoBpm: 120, key: 'G' };
    sound.layers = [sound.layers[0]];
    sound.links = [];
    sound.line.notes = [cleanNote({ tick: 0, ticks: 1900, pitch: 31 })];
    sound.kick = {
      ...sound.kick,
      shared: true,
      hits: [{ tick: 960, velocity: 127 }],
      made: {
        ...sound.kick.made,
        clickDb: -60,
        startHz: 196,
        tailHz: 49,
        dropMs: 100,
        dropBend: 0,
        settleMs: 0,
      },
    };
    change(sound);
    return sound;
  };
  const crossings = (x: ArrayLike<number>, from: number, to: number) => {
    let count = 0;
    for (let i = from + 1; i < to; i++) if (x[i - 1] < 0 !== x[i] < 0) count++;
    return count / 2;
  };
  const both = (sound: SoundDocument) => measureLine(sound, RATE);

  it('lets the bass make the drop: two octaves above its note at the beat, and back on it after', () => {
    // 24 semitones evenly down over 0.1 s pass 49·0.1·(4 − 1)/ln 4 = 10.6 cycles; 0.1 s without pass 4.9.
    const { bass } = both(
      held((sound) => {
        sound.lock.belowHz = 250;
      }),
    );
    const rate = bass.rateHz;
    expect(Math.abs(crossings(bass.re, Math.round(1 * rate), Math.round(1.1 * rate)) - 10.6)).toBeLessThan(1);
    expect(
      Math.abs(crossings(bass.re, Math.round(1.15 * rate), Math.round(1.55 * rate)) - 0.4 * 49),
    ).toBeLessThan(1);
  });

  it('goes on dropping in a note that begins on the way', () => {
    // The note begins 50 ms after the beat. In the last 44 ms of the drop the wave turns by 49·0.1·(2^0.88 −
    // 1)/ln 4 = 3.0 cycles, without a drop by 2.2.
    // Past the crossover's allpass, which would spread a drop that runs through its corner.
    const { bass } = both(
      held((sound) => {
        sound.line.notes = [cleanNote({ tick: 1008, ticks: 800, pitch: 31 })];
        sound.lock.belowHz = 250;
        sound.grit.cleanPath.on = false;
      }),
    );
    const turned = (from: number, to: number) => {
      let cycles = 0;
      for (let i = Math.round(from * bass.rateHz); i < Math.round(to * bass.rateHz); i++) {
        const d = Math.atan2(bass.im[i + 1], bass.re[i + 1]) - Math.atan2(bass.im[i], bass.re[i]);
        cycles += Math.abs(wrapDegrees((d * 180) / Math.PI)) / 360;
      }
      return cycles;
    };
    expect(Math.abs(turned(1.056, 1.1) - (49 * 0.1 * (2 ** 0.88 - 1)) / Math.log(4))).toBeLessThan(0.25);
    expect(Math.abs(turned(1.15, 1.25) - 4.9)).toBeLessThan(0.1);
  });

  it('makes the whole drop also where the bass had been nudged', () => {
    const nudged = (nudgeMs: number) =>
      both(
        held((sound) => {
          sound.line.notes = [cleanNote({ tick: 960, ticks: 900, pitch: 31 })];
          sound.lock = { ...sound.lock, belowHz: 250, nudgeMs };
        }),
      ).bass.re;
    const [late, plain] = [nudged(6), nudged(0)];
    expect(Math.max(...late.map((x, i) => Math.abs(x - plain[i])))).toBeLessThan(1e-9);
    expect(plain.some((x) => Math.abs(x) > 0.1)).toBe(true);
  });

  it('leaves nothing of the kick below 120 Hz, and no note that could cancel', () => {
    const { kick, bass, locks } = both(held());
    const energy = ({ re }: typeof kick) => re.reduce((sum, x) => sum + x * x, 0);
    expect(energy(kick)).toBeLessThan(1e-6 * energy(bass));
    expect(locks[0].lock).toEqual(noLock('one wave'));
  });

  it('is bass only, or kick only, where a note asks for it, and stands in where there is no note', () => {
    const drops = (sound: SoundDocument) => {
      const { bass } = both({ ...sound, lock: { ...sound.lock, belowHz: 250 } });
      return crossings(bass.re, Math.round(bass.rateHz), Math.round(1.1 * bass.rateHz));
    };
    expect(
      Math.abs(
        drops(
          held((sound) => {
            sound.line.notes[0].carries = 'bass';
          }),
        ) - 4.9,
      ),
    ).toBeLessThan(0.8);
    const alone = both(
      held((sound) => {
        sound.line.notes[0].carries = 'kick';
      }),
    ).bass;
    const level = (from: number, to: number) =>
      Math.sqrt(
        alone.re
          .subarray(Math.round(from * alone.rateHz), Math.round(to * alone.rateHz))
          .reduce((sum, x) => sum + x * x, 0),
      );
    // Before the beat the Sub is silent: the note is the kick alone.
    expect(level(0.3, 0.8)).toBeLessThan(0.02 * level(1, 1.3));
    expect(
      drops(
        held((sound) => {
          sound.line.notes = [];
        }),
      ),
    ).toBeGreaterThan(9);
  });
});
