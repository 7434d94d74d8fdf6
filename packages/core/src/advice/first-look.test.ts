import { cleanLink, type SoundDocument } from '../document/index.js';
import { mudLine, slackWater } from '../demo/index.js';
import { plainGrowl } from '../testing/plain-growl.js';
import { isLock, soundingOf } from '../figures/index.js';
import { wrapDegrees } from '../lock/index.js';
import { toEnd } from '../units/index.js';
import {
  firstLook,
  measureLine,
  roseGainDb,
  rosesOf,
  roseSteps,
  turnedLowsSteps,
  type LineRoses,
} from './index.js';

const RATE = 48000;
const rosesFor = (document: SoundDocument): LineRoses =>
  toEnd(roseSteps(document, measureLine(document, RATE)));

describe('the first look', () => {
  it.each([
    ['Mud Line', mudLine],
    ['Trench Growl', plainGrowl],
    ['Slack Water', slackWater],
  ])('at %s says what the whole measurement says, within 0.1 dB', (_name, make) => {
    const sound = make();
    const look = firstLook(sound);
    const whole = soundingOf(sound, { sampleRateHz: RATE }).pass.notes;
    let compared = 0;
    look.locks.forEach((note, n) => {
      expect(note.note).toBe(whole[n].note);
      expect(Math.abs(note.subLevelDb.value! - whole[n].subLevelDb.value!)).toBeLessThan(0.1);
      expect(note.meetings.map(({ hit, phasePitch }) => [hit, phasePitch])).toEqual(
        whole[n].meetings.map(({ hit, phasePitch }) => [hit, phasePitch]),
      );
      note.meetings.forEach(({ lock }, m) => {
        const { lock: exact } = whole[n].meetings[m];
        if (!isLock(lock) || !isLock(exact)) return;
        compared++;
        expect(Math.abs(lock.sumGainDb - exact.sumGainDb)).toBeLessThan(0.1);
        expect(Math.abs(note.bassToKickDb.value! - whole[n].bassToKickDb.value!)).toBeLessThan(0.1);
        if (exact.bearingDeg !== null)
          expect(Math.abs(wrapDegrees(lock.bearingDeg! - exact.bearingDeg))).toBeLessThan(2);
        else expect(lock.noPhase!.cause).toBe(exact.noPhase!.cause);
      });
    });
    expect(compared).toBeGreaterThan(0);
  });

  it('hears what hangs over the loop’s end: a long kick, and ducking that has not come back', () => {
    const sound = mudLine();
    sound.kick.hits = [{ tick: 3360, velocity: 127 }];
    Object.assign(sound.kick.made, { lengthMs: 1500, holdMs: 900, decayMs: 600 });
    Object.assign(sound.duck, { on: true, amountDb: 20, holdMs: 300, returnMs: 700 });
    const look = firstLook(sound);
    const whole = measureLine(sound, RATE);
    const start = (low: Float64Array) => Math.sqrt(low.subarray(0, 900).reduce((sum, x) => sum + x * x, 0));
    expect(start(look.kick.re)).toBeGreaterThan(1);
    for (const side of ['kick', 'bass'] as const)
      expect(Math.abs(20 * Math.log10(start(look[side].re) / start(whole[side].re)))).toBeLessThan(0.2);
    expect(look.ducking!.gains.length / look.ducking!.rateHz).toBeCloseTo(3.75, 1);
    expect(look.ducking!.gains[0]).toBeLessThan(0.5);
  });

  it('has a mover that runs free where the whole measurement has it', () => {
    const sound = mudLine();
    sound.movers = sound.movers.map((mover) =>
      mover.kind === 'wobble'
        ? { ...mover, restart: 'free' as const, rateIn: 'beats' as const, rateBeats: 8 }
        : mover,
    );
    sound.links = [
      cleanLink({ id: 'link-1', mover: sound.movers[0].id, target: 'layers.sub.levelDb', reachPct: -30 }),
    ];
    const whole = soundingOf(sound, { sampleRateHz: RATE }).pass.notes;
    firstLook(sound).locks.forEach(({ subLevelDb }, n) => {
      expect(Math.abs(subLevelDb.value! - whole[n].subLevelDb.value!)).toBeLessThan(0.2);
    });
    expect(new Set(whole.map(({ subLevelDb }) => subLevelDb.value!.toFixed(0))).size).toBeGreaterThan(4);
  });

  it('turns into the same roses as the whole measurement, within 0.2 dB', () => {
    const sound = mudLine();
    const look = firstLook(sound);
    const steps = turnedLowsSteps(sound, look.locks, undefined, look.bass);
    let renders = 0;
    let step = steps.next();
    for (; !step.done; step = steps.next()) renders++;
    // Orders −1 to 2, of which the look has rendered no turn by itself.
    expect(renders).toBe(3);
    const roses = rosesOf(look, step.value).flat();
    const exact = rosesFor(sound).flat();
    roses.forEach((rose, m) => {
      for (let turn = -180; turn < 180; turn += 30)
        if (rose && exact[m])
          expect(Math.abs(roseGainDb(rose, turn) - roseGainDb(exact[m], turn))).toBeLessThan(0.2);
    });
    expect(roses.filter((rose) => rose !== null).length).toBe(exact.filter((rose) => rose !== null).length);
  });
});
