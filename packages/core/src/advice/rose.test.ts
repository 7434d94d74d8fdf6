import { cleanNote, cleanSound, type SoundDocument } from '../document/index.js';
import { mudLine } from '../demo/index.js';
import { plainGrowl } from '../testing/plain-growl.js';
import { isLock, lineLock, soundingHz } from '../figures/index.js';
import { toEnd } from '../units/index.js';
import {
  bestCommonNudge,
  bestTurnFor,
  bestTurnOfLine,
  bestTurnsByPitch,
  constantRose,
  measureLine,
  roseGainDb,
  roseSteps,
  turnable,
  type LineRoses,
} from './index.js';
import { ordersOf, turned } from './turned-lows.js';

const RATE = 48000;
const rosesFor = (document: SoundDocument): LineRoses =>
  toEnd(roseSteps(document, measureLine(document, RATE)));
/** Sum gain of every meeting of a line, in order; null for those without a lock. */
const gains = (document: SoundDocument) =>
  measureLine(document, RATE).locks.flatMap(({ meetings }) =>
    meetings.map(({ lock }) => (isLock(lock) ? lock.sumGainDb : null)),
  );
const lineOfSound = (document: SoundDocument) => lineLock(document, measureLine(document, RATE).locks);

describe('the rose', () => {
  // Brute force: the turn is rendered and measured.
  it.each([
    ['Mud Line', mudLine],
    ['Trench Growl', plainGrowl],
  ])('of %s says within 0.2 dB what every turn gives at every hit when it is rendered', (_name, make) => {
    const sound = make();
    const roses = rosesFor(sound).flat();
    for (const turnDeg of [-150, -75, 0, 40, 110]) {
      const found = gains(turned(sound, turnDeg));
      expect(found).toHaveLength(roses.length);
      found.forEach((gain, m) => {
        const rose = roses[m];
        if (gain !== null && rose) expect(Math.abs(gain - roseGainDb(rose, turnDeg))).toBeLessThan(0.2);
      });
    }
  });

  it('of a note held over several hits is one for each, also where the phase restarts with the kick; and of a polarity turned about', () => {
    for (const restart of ['note', 'note and kick'] as const) {
      const sound = cleanSound();
      sound.layers[0].voice.restart = restart;
      sound.line.notes = [cleanNote({ tick: 0, ticks: 3780 })];
      // Clear of the ceiling, which lowers both by what their sum is.
      sound.kick.levelDb = -8;
      sound.output.levelDb = -4;
      const roses = rosesFor(sound).flat();
      expect(roses).toHaveLength(8);
      for (const [changed, turnDeg, sign] of [
        [turned(sound, 100), 100, 1],
        [{ ...sound, lock: { ...sound.lock, invert: true } }, 0, -1],
      ] as const) {
        gains(changed).forEach((gain, m) => {
          expect(Math.abs(gain! - roseGainDb(roses[m]!, turnDeg, sign))).toBeLessThan(0.2);
        });
      }
    }
  });

  it('has its best turn where brute force over 360° has it', () => {
    const roses = rosesFor(mudLine())
      .flat()
      .filter((rose) => rose !== null);
    const best = bestTurnFor(roses)!;
    for (let turn = -180; turn < 180; turn++)
      expect(Math.min(...roses.map((rose) => roseGainDb(rose, turn)))).toBeLessThanOrEqual(
        best.worstSumGainDb + 1e-9,
      );
    expect(bestTurnFor([])).toBeNull();
  });

  it('leaves what beats out of the best turn of a line', () => {
    const sound = plainGrowl();
    const { locks } = measureLine(sound, RATE);
    const roses = rosesFor(sound);
    const all = turnable(locks, roses);
    expect(all.length).toBe(roses.flat().length - 2);
    expect(bestTurnOfLine(locks, roses)).toEqual(bestTurnFor(all.map(({ rose }) => rose)));
  });

  it('turns a harmonic n times as far: a bass of two harmonics does not turn alike', () => {
    const sound = mudLine();
    const [[rose]] = rosesFor(sound);
    const { lock } = measureLine(sound, RATE).locks[0].meetings[0];
    if (!isLock(lock)) throw new Error(lock.reason);
    const constant = constantRose(lock);
    expect(roseGainDb(constant, 0)).toBeCloseTo(lock.sumGainDb, 9);
    const differs = Array.from({ length: 36 }, (_, k) =>
      Math.abs(roseGainDb(constant, 10 * k) - roseGainDb(rose!, 10 * k)),
    );
    expect(Math.max(...differs)).toBeGreaterThan(0.1);
  });

  it('is a constant rotation where the bass runs free', () => {
    const sound = mudLine();
    sound.layers[0].tones[0].startPhase = 'free';
    const rose = rosesFor(sound)
      .flat()
      .find((each) => each !== null)!;
    expect(rose.orders).toEqual([1]);
  });

  it('takes as many renders as there are harmonics below Lock’s frequency', () => {
    expect(ordersOf(mudLine())).toEqual([-1, 0, 1, 2]);
    expect(ordersOf({ ...mudLine(), line: { notes: [] } })).toEqual([-1, 0, 1, 2]);
    expect(ordersOf({ ...mudLine(), lock: { ...mudLine().lock, belowHz: 250 } })).toEqual([
      -1, 0, 1, 2, 3, 4, 5, 6,
    ]);
  });
});

describe('start phases of single pitches', () => {
  it('let every pitch lock where one setting cannot; a tied note is turned with the note before', () => {
    const sound = mudLine();
    const line = measureLine(sound, RATE);
    const roses = rosesFor(sound);
    const best = bestTurnsByPitch(line.locks, roses);
    const changed = {
      ...sound,
      lock: { ...sound.lock, turns: [...best].map(([pitch, { turnDeg }]) => ({ pitch, turnDeg })) },
    };
    const of = (pitch: number) =>
      Math.min(
        ...measureLine(changed, RATE).locks.flatMap(({ note, meetings }) =>
          note.pitch === pitch ? meetings.map(({ lock }) => (isLock(lock) ? lock.sumGainDb : 0)) : [],
        ),
      );
    expect([...best.keys()]).toEqual(expect.arrayContaining([29, 31]));
    for (const [pitch, { worstSumGainDb }] of best)
      expect(Math.abs(of(pitch) - worstSumGainDb)).toBeLessThan(0.2);
    expect(Math.min(...[...best.values()].map(({ worstSumGainDb }) => worstSumGainDb))).toBeGreaterThan(
      bestTurnOfLine(line.locks, roses)!.worstSumGainDb,
    );
    const tied = line.locks.map((each) => ({
      ...each,
      meetings: each.meetings.map((meeting) => ({ ...meeting, phasePitch: 31 })),
    }));
    expect([...bestTurnsByPitch(tied, roses).keys()]).toEqual([31]);
  });
});

describe('the nudge of a whole line', () => {
  it('is where moving the bass and measuring again is best, within a period', () => {
    const sound = mudLine();
    const line = measureLine(sound, RATE);
    const nudge = bestCommonNudge(line, 1 / soundingHz(sound, 29))!;
    const worst = (nudgeMs: number) =>
      lineOfSound({ ...sound, lock: { ...sound.lock, nudgeMs } }).worstSumGainDb!;
    const found = worst(Number(nudge.nudgeMs.toFixed(2)));
    for (let ms = -10; ms <= 10; ms += 2) expect(worst(ms)).toBeLessThan(found + 0.35);
    expect(bestCommonNudge({ ...line, locks: [] }, 0.02)).toBeNull();
  });
});
