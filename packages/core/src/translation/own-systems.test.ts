import { cleanSound, cleanSystem, RESPONSE_THIRDS_HZ } from '../document/index.js';
import { RATE, saw, sine } from '../testing/signals.js';
import { harmonicsOfNote } from './harmonics.js';
import { responseOfImpulse } from './impulse.js';
import { listen } from './listen.js';
import { responseDb } from './response.js';
import { SYSTEMS } from './systems.js';
import { matters, ownSystem, systemsOf } from './systems-of.js';

const laptop = SYSTEMS.find(({ id }) => id === 'laptop')!;
/** The program's laptop as somebody would type it in: its response by thirds. */
const typed = cleanSystem('own-1', {
  name: 'My laptop',
  playsDb: laptop.playsDb,
  mostDb: laptop.mostDb,
  noiseDb: [...laptop.noiseDb],
  response: RESPONSE_THIRDS_HZ.map((hz) => ({ hz, levelDb: responseDb(laptop.response, hz) })),
});
const harmonics = (signal: Float32Array, hz: number) =>
  harmonicsOfNote(signal, signal, 0, signal.length, RATE, hz).harmonics!;

describe('a system of the user’s own', () => {
  it.each([
    ['a saw', saw(43.65, 0.5)],
    ['a sine', sine(43.65, 0.5, { amplitude: 0.35 })],
  ])('that is typed in by thirds gives of %s what the one it was read from does', (_name, signal) => {
    const heard = [laptop, ownSystem(typed)].map((system) => listen(system, harmonics(signal, 43.65)));
    expect(heard[1].verdict).toBe(heard[0].verdict);
    expect(Math.abs(heard[1].marginDb - heard[0].marginDb)).toBeLessThan(0.6);
  });

  it('reads straight between its points over the logarithm of frequency, and as its ends outside of them', () => {
    const { response } = ownSystem(
      cleanSystem('own-1', {
        response: [
          { hz: 100, levelDb: -20 },
          { hz: 1000, levelDb: 0 },
        ],
      }),
    );
    expect([50, 100, 316.23, 1000, 5000].map((hz) => Math.round(10 * responseDb(response, hz)) / 10)).toEqual(
      [-20, -20, -10, 0, 0],
    );
  });

  it('is mono where it says so: what is opposed is lost there, and only there', () => {
    const left = saw(43.65, 0.5);
    const right = left.map((x) => -x);
    const opposed = harmonicsOfNote(left, right, 0, left.length, RATE, 43.65).harmonics!;
    const levelOf = (channels: 'stereo' | 'mono' | 'mono lows', n: number) =>
      listen(ownSystem(cleanSystem('own-1', { channels })), opposed).harmonics[n - 1].splDb;
    expect(levelOf('stereo', 1)).toBeGreaterThan(60);
    expect(levelOf('mono lows', 1)).toBeLessThan(0);
    expect(levelOf('mono lows', 4)).toBeGreaterThan(50);
    expect(levelOf('mono', 4)).toBeLessThan(0);
  });

  it('stands behind the program’s, and matters until it is left out', () => {
    const sound = cleanSound();
    sound.systems.own.push(typed);
    const all = systemsOf(sound);
    expect(all.map(({ id }) => id)).toEqual([...SYSTEMS.map(({ id }) => id), 'own-1']);
    sound.systems.leftOut.push('own-1', 'phone');
    expect(all.filter((system) => matters(sound, system))).toHaveLength(6);
  });
});

describe('the response of an impulse response', () => {
  /** A first-order low-pass after an impulse, whose response is known: 1/√(1 + (f/fc)²). */
  const lowPassed = (cutoffHz: number) => {
    const out = new Float32Array(RATE / 2);
    const pole = Math.exp((-2 * Math.PI * cutoffHz) / RATE);
    let y = 0;
    for (let i = 0; i < out.length; i++) out[i] = y = (i === 480 ? 1 - pole : 0) + pole * y;
    return out;
  };

  it('is that of a known filter, against the octave around 1 kHz', () => {
    const response = responseOfImpulse([lowPassed(400)], RATE);
    const at = (hz: number) => -10 * Math.log10(1 + (hz / 400) ** 2);
    // The digital filter bends up towards half the rate: it is looked at below 3 kHz.
    for (const { hz, levelDb } of response)
      if (hz < 3000) expect(Math.abs(levelDb - (at(hz) - at(1000)))).toBeLessThan(0.4);
  });

  it('has twelve points an octave that rise, which a document takes; a delay changes nothing', () => {
    const response = responseOfImpulse([lowPassed(400)], RATE);
    expect(response).toHaveLength(120);
    response.slice(1).forEach(({ hz }, i) => {
      expect(hz).toBeGreaterThan(response[i].hz);
    });
    const late = new Float32Array(RATE);
    late.set(lowPassed(400), 9000);
    expect(responseOfImpulse([late], RATE)).toEqual(response);
  });

  it('of both sides is that of their mean power, and of silence none', () => {
    const one = lowPassed(400);
    expect(responseOfImpulse([one, one], RATE)).toEqual(responseOfImpulse([one], RATE));
    expect(() => responseOfImpulse([new Float32Array(4800)], RATE)).toThrow(/nothing around 1 kHz/);
  });
});
