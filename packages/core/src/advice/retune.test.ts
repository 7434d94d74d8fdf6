import { cleanWavKick } from '../document/index.js';
import { bilgeDrone, mudLine } from '../demo/index.js';
import { kickFigures } from '../figures/index.js';
import { measureLine, withTailAt, withTailTuned } from './index.js';
import { movedWords, retuneCostWords, tailTargets } from './retune.js';
import { roomForKickMs, withKickLength } from './shorten.js';

const RATE = 48000;

describe('tuning the tail', () => {
  const sound = mudLine();
  const { locks } = measureLine(sound, RATE);
  const targets = (hz: number, steady = true) =>
    tailTargets(sound, locks, { hz, steady, note: '', cents: 0, phaseDeg: 0, fromS: 0, toS: 1 }).map(
      ({ step, hz: to, what }) => [step, Number(to.toFixed(2)), what],
    );

  it('goes to the pitch that is met most, the nearest of the line, the nearest of the scale; to the fifth and the octave by name', () => {
    expect(targets(47.6)).toEqual([['retune', 49, null]]);
    expect(targets(57)).toEqual([
      ['retune', 49, null],
      ['scale', 58.27, null],
    ]);
    expect(targets(44.5)).toEqual([
      ['retune', 49, null],
      ['near', 43.65, null],
    ]);
    expect(targets(72)).toEqual(expect.arrayContaining([['fifth', 73.42, 'the fifth of G']]));
    expect(targets(97)).toEqual(expect.arrayContaining([['tail-octave', 98, 'the octave of G']]));
    expect(targets(52)).toEqual([
      ['retune', 49, null],
      ['scale', 55, null],
    ]);
    expect(targets(47.6, false)).toEqual([]);
  });

  it('goes no further than seven semitones, and what that does to a recording is said', () => {
    expect(withTailAt(sound, 47.6, 48.999)!.kick.made.tailHz).toBeCloseTo(47.7 * (48.999 / 47.6), 2);
    expect(withTailAt(sound, 47.6, 90)).toBeNull();
    expect(withTailTuned(sound, 47.6, 90, RATE)).toBeNull();
    expect(retuneCostWords(sound, 47.6, 49)).toBe('its drop, length and click stay');
    const wav = { ...sound, kick: { ...sound.kick, source: 'wav' as const } };
    expect(retuneCostWords(wav, 58.27, 43.654)).toBe('it gets 33 % longer and its click duller');
    expect(retuneCostWords(wav, 43.654, 49)).toBe('it gets 11 % shorter and its click brighter');
    expect([
      movedWords(58.27, 43.654),
      movedWords(47.6, 48.999),
      movedWords(50, 43.654),
      movedWords(46.249, 43.654),
    ]).toEqual(['down 5 semitones', 'up 50 ct', 'down 2.3 semitones', 'down 1 semitone']);
  });
});

describe('shortening a kick', () => {
  it('draws a made one together, and fades a recording out', () => {
    const sound = mudLine();
    const { lengthS } = kickFigures(sound, RATE);
    const made = withKickLength(sound, lengthS, 150)!;
    expect(kickFigures(made, RATE).lengthS!).toBeCloseTo(0.15, 1);
    expect(withKickLength(sound, lengthS, 1000 * lengthS!)).toBeNull();
    expect(withKickLength(sound, null, 100)).toBeNull();
    const wav = {
      ...sound,
      kick: {
        ...sound.kick,
        source: 'wav' as const,
        wav: { ...cleanWavKick('a'.repeat(64), 'k.wav'), retuneSt: 12 },
      },
    };
    expect(withKickLength(wav, 0.5, 200)!.kick.wav).toMatchObject({ endMs: 400, fadeMs: 200 });
  });

  it('leaves room for the next note, or half the way to the next hit where one is held', () => {
    expect(roomForKickMs(mudLine())).toBeCloseTo(60000 / 128 / 4, 6);
    expect(roomForKickMs(bilgeDrone())).toBeCloseTo(300, 6);
  });
});

describe('a tuned tail', () => {
  it('is found where it is wanted within a cent, however long its drop goes on', () => {
    for (const settleMs of [20, 60, 110]) {
      const sound = mudLine();
      Object.assign(sound.kick.made, { settleMs, settleBend: 0 });
      for (const wanted of [43.654, 51.913]) {
        const tuned = withTailTuned(sound, kickFigures(sound, RATE).tail!.hz, wanted, RATE)!;
        expect(Math.abs(1200 * Math.log2(wanted / kickFigures(tuned, RATE).tail!.hz))).toBeLessThan(1);
      }
    }
  });
});
