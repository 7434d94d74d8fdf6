import { cleanNote, cleanSound, type SoundDocument } from '../document/index.js';
import { mudLine, slackWater, trenchGrowl } from '../demo/index.js';
import { KEPT_APART, kickFigures, lockNotes, ONE_WAVE, soundingOf } from '../figures/index.js';
import { wrapDegrees } from '../lock/index.js';
import { toEnd } from '../units/index.js';
import { bestCommonNudge, bestTurnFor, bestTurnsByPitch, constantRose, firstLook, fitOf, lineLock, measureLine, roseGainDb, rosesOf, roseSteps, rootHz, turnedLowsSteps, withTailAt, withTailTuned, type NoteRose } from './index.js';
import { ordersOf, turned } from './turned-lows.js';

const RATE = 48000;
const rosesFor = (document: SoundDocument): (NoteRose | null)[] => toEnd(roseSteps(document, measureLine(document, RATE)));
const gains = (document: SoundDocument) => measureLine(document, RATE).locks.map(({ lock }) => ('sumGainDb' in lock ? lock.sumGainDb : null));

describe('the rose', () => {
  // Brute force: the turn is rendered and measured.
  it.each([['Mud Line', mudLine], ['Trench Growl', trenchGrowl]])('of %s says within 0.2 dB what every turn gives when it is rendered', (_name, make) => {
    const sound = make();
    const roses = rosesFor(sound);
    for (const turnDeg of [-150, -75, 0, 40, 110]) {
      gains(turned(sound, turnDeg)).forEach((gain, n) => {
        const rose = roses[n];
        if (gain !== null && rose) expect(Math.abs(gain - roseGainDb(rose, turnDeg))).toBeLessThan(0.2);
      });
    }
  });

  it('has its best turn where brute force over 360° has it', () => {
    const roses = rosesFor(mudLine()).filter((rose) => rose !== null);
    const best = bestTurnFor(roses)!;
    for (let turn = -180; turn < 180; turn++) expect(Math.min(...roses.map((rose) => roseGainDb(rose, turn)))).toBeLessThanOrEqual(best.worstSumGainDb + 1e-9);
    expect(bestTurnFor([])).toBeNull();
  });

  it('turns a harmonic n times as far: a bass of two harmonics does not turn alike', () => {
    const sound = mudLine();
    const [rose] = rosesFor(sound);
    const { locks } = measureLine(sound, RATE);
    const constant = constantRose(locks[0].lock as Parameters<typeof constantRose>[0]);
    expect(roseGainDb(constant, 0)).toBeCloseTo((locks[0].lock as { sumGainDb: number }).sumGainDb, 9);
    const differs = Array.from({ length: 36 }, (_, k) => Math.abs(roseGainDb(constant, 10 * k) - roseGainDb(rose!, 10 * k)));
    expect(Math.max(...differs)).toBeGreaterThan(0.1);
  });

  it('is a constant rotation where the bass runs free', () => {
    const sound = mudLine();
    sound.layers[0].tones[0].startPhase = 'free';
    const rose = rosesFor(sound).find((each) => each !== null)!;
    expect(rose.orders).toEqual([1]);
  });

  it('takes as many renders as there are harmonics below Lock’s frequency', () => {
    expect(ordersOf(mudLine())).toEqual([-1, 0, 1, 2]);
    expect(ordersOf({ ...mudLine(), line: { notes: [] } })).toEqual([-1, 0, 1, 2]);
    expect(ordersOf({ ...mudLine(), lock: { ...mudLine().lock, belowHz: 250 } })).toEqual([-1, 0, 1, 2, 3, 4, 5, 6]);
  });
});

describe('the first look', () => {
  it.each([['Mud Line', mudLine], ['Trench Growl', trenchGrowl], ['Slack Water', slackWater]])('at %s says what the whole measurement says, within 0.1 dB', (_name, make) => {
    const sound = make();
    const look = firstLook(sound);
    const whole = soundingOf(sound, { sampleRateHz: RATE }).pass.notes;
    let compared = 0;
    look.locks.forEach((note, n) => {
      expect(note.note).toBe(whole[n].note);
      expect(Math.abs(note.subLevelDb.value! - whole[n].subLevelDb.value!)).toBeLessThan(0.1);
      const { lock } = whole[n];
      if (!('sumGainDb' in lock) || !('sumGainDb' in note.lock)) return;
      compared++;
      expect(Math.abs(note.lock.sumGainDb - lock.sumGainDb)).toBeLessThan(0.1);
      expect(Math.abs(note.bassToKickDb.value! - whole[n].bassToKickDb.value!)).toBeLessThan(0.1);
      expect(Math.abs(wrapDegrees(note.lock.bearingDeg! - lock.bearingDeg!))).toBeLessThan(2);
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
    for (const side of ['kick', 'bass'] as const) expect(Math.abs(20 * Math.log10(start(look[side].re) / start(whole[side].re)))).toBeLessThan(0.2);
    expect(look.ducking!.gains.length / look.ducking!.rateHz).toBeCloseTo(3.75, 1);
    expect(look.ducking!.gains[0]).toBeLessThan(0.5);
  });

  it('has a mover that runs free where the whole measurement has it', () => {
    const sound = mudLine();
    sound.movers = sound.movers.map((mover) => (mover.kind === 'wobble' ? { ...mover, restart: 'free' as const, rateIn: 'beats' as const, rateBeats: 8 } : mover));
    sound.links = [{ id: 'link-1', mover: sound.movers[0].id, target: 'layers.sub.levelDb', reachPct: -30, on: true }];
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
    const roses = rosesOf(sound, look, step.value);
    const exact = rosesFor(sound);
    roses.forEach((rose, n) => { for (let turn = -180; turn < 180; turn += 30) if (rose && exact[n]) expect(Math.abs(roseGainDb(rose, turn) - roseGainDb(exact[n], turn))).toBeLessThan(0.2); });
    expect(roses.filter((rose) => rose !== null).length).toBe(exact.filter((rose) => rose !== null).length);
  });
});

describe('start phases of single pitches', () => {
  it('let every pitch lock where one setting cannot, and leave tied notes out', () => {
    const sound = mudLine();
    const line = measureLine(sound, RATE);
    const roses = rosesFor(sound);
    const best = bestTurnsByPitch(line.locks, roses);
    expect([...best.keys()].sort()).toEqual([29, 31]);
    const changed = { ...sound, lock: { ...sound.lock, turns: [...best].map(([pitch, { turnDeg }]) => ({ pitch, turnDeg })) } };
    const of = (pitch: number) => Math.min(...measureLine(changed, RATE).locks.flatMap(({ note, lock }) => (note.pitch === pitch && 'sumGainDb' in lock ? [lock.sumGainDb] : [])));
    for (const [pitch, { worstSumGainDb }] of best) expect(Math.abs(of(pitch) - worstSumGainDb)).toBeLessThan(0.2);
    const tied = line.locks.map((each) => ({ ...each, note: { ...each.note, tie: each.note.pitch === 29 } }));
    expect([...bestTurnsByPitch(tied, roses).keys()]).toEqual([31]);
  });
});

describe('the nudge of a whole line', () => {
  it('is where moving the bass and measuring again is best, within a period', () => {
    const sound = mudLine();
    const line = measureLine(sound, RATE);
    const nudge = bestCommonNudge(sound, line.kick, line.bass)!;
    const worst = (nudgeMs: number) => lineLock(measureLine({ ...sound, lock: { ...sound.lock, nudgeMs } }, RATE).locks).worstSumGainDb!;
    const found = worst(Number(nudge.nudgeMs.toFixed(2)));
    for (let ms = -10; ms <= 10; ms += 2) expect(worst(ms)).toBeLessThan(found + 0.35);
    expect(bestCommonNudge({ ...sound, line: { notes: [] } }, line.kick, line.bass)).toBeNull();
  });
});

describe('the advice', () => {
  const sound = mudLine();
  const fit = fitOf(sound, { sampleRateHz: RATE });

  it('names the line as it is: its worst note and how many meet the kick', () => {
    expect(fit.before).toEqual(lineLock(measureLine(sound, RATE).locks));
    expect(fit.before.worstSumGainDb!).toBeLessThan(-1);
  });

  it('offers first to tune the kick and to turn the bass to it, and more after that', () => {
    expect(fit.proposals[0].id).toBe('retune-turn');
    expect(fit.proposals.map(({ id }) => id)).toEqual(expect.arrayContaining(['turns', 'turn', 'duck', 'shared', 'nudge']));
    expect(new Set(fit.proposals.map(({ id }) => id)).size).toBe(fit.proposals.length);
  });

  it('promises what is measured once it is applied, within 0.2 dB', () => {
    for (const { document, after, gainDb, id } of fit.proposals) {
      const measured = lineLock(measureLine(structuredClone(document), RATE).locks);
      if (after.worstSumGainDb === null) expect(measured.worstSumGainDb).toBeNull();
      else expect(Math.abs(measured.worstSumGainDb! - after.worstSumGainDb)).toBeLessThan(0.2);
      expect(id === 'level' || gainDb >= 0.2).toBe(true);
    }
  });

  it('comes to an end: what was applied is not offered again', () => {
    const second = fitOf(fit.proposals[0].document, { sampleRateHz: RATE });
    expect(second.before.worstSumGainDb!).toBeGreaterThan(fit.before.worstSumGainDb! + 2);
    expect(second.proposals.map(({ id }) => id)).not.toContain('retune-turn');
  });

  it('raises or lowers a bass that stands outside its range against the kick', () => {
    const quiet = fitOf(sound, { sampleRateHz: RATE, bassToKickDb: -14 }).proposals.find(({ id }) => id === 'level')!;
    expect(quiet.title).toMatch(/^Raise the bass by 12\.5 dB/);
    expect(fitOf(sound, { sampleRateHz: RATE, bassToKickDb: 0 }).proposals.find(({ id }) => id === 'level')).toBeUndefined();
  });

  it('renders what makes it worse as well, so that it can be told before it is done', () => {
    expect(fit.tried.map(({ id }) => id)).toEqual(expect.arrayContaining(['invert', 'retune', 'nudge']));
    for (const { id, document, after } of fit.tried.filter((each) => each.id === 'invert')) expect(lineLock(measureLine(document, RATE).locks)).toEqual(id === 'invert' ? after : null);
    expect(fit.proposals.every((proposal) => fit.tried.includes(proposal))).toBe(true);
  });

  it('moves the line to a tail that is a note, and offers ducking where no turn can lock', () => {
    const low = withTailAt(sound, 47.6, 55)!;
    const moved = fitOf({ ...low, kick: { ...low.kick, made: { ...low.kick.made, tailHz: 55 } } }, { sampleRateHz: RATE }).tried.find(({ id }) => id === 'line')!;
    expect(moved.title).toMatch(/^Move the line by \+2 semitones/);
    expect(moved.document.line.notes.map(({ pitch }) => pitch)).toEqual(sound.line.notes.map(({ pitch }) => pitch + 2));
    const growl = fitOf(trenchGrowl(), { sampleRateHz: RATE });
    expect(growl.before.withoutPhase).toBeGreaterThan(0);
    expect(growl.proposals.map(({ id }) => id)).toContain('duck');
  });

  it('has nothing to say without a kick or a line', () => {
    expect(fitOf({ ...sound, line: { notes: [] } }, { sampleRateHz: RATE })).toMatchObject({ before: { meeting: 0, worstSumGainDb: null }, proposals: [] });
    expect(fitOf({ ...sound, kick: { ...sound.kick, on: false } }, { sampleRateHz: RATE }).proposals).toEqual([]);
  });
});

describe('what cannot cancel', () => {
  const ids = (sound: SoundDocument) => measureLine(sound, RATE).locks.map(({ lock }) => ('sumGainDb' in lock ? 'measured' : lock.reason));

  it('is told as kept apart under hard ducking', () => {
    const found = ids({ ...mudLine(), duck: { ...mudLine().duck, on: true, hard: true } });
    expect(found).toContain(KEPT_APART);
    expect(found).not.toContain('measured');
  });

  it('is told as one wave with one oscillator for both, on the notes that a kick falls into', () => {
    const found = ids({ ...mudLine(), kick: { ...mudLine().kick, shared: true } });
    expect(found.map((reason) => reason === ONE_WAVE)).toEqual(found.map((_, n) => n % 4 === 0));
  });

  it('is counted by why, and leaves the advice nothing to better but the level', () => {
    const hard = fitOf({ ...mudLine(), duck: { ...mudLine().duck, on: true, hard: true } }, { sampleRateHz: RATE });
    expect(hard.before).toMatchObject({ worstSumGainDb: null, oneWave: 0, withoutPhase: 0 });
    expect(hard.before.keptApart).toBe(hard.before.meeting);
    expect(hard.tried).toEqual([]);
    const shared = { ...mudLine(), kick: { ...mudLine().kick, shared: true } };
    const one = fitOf(shared, { sampleRateHz: RATE, bassToKickDb: 9 });
    expect(one.before).toMatchObject({ worstSumGainDb: null, keptApart: 0, oneWave: 8, meeting: 8 });
    expect(one.tried.map(({ id }) => id)).toEqual(['level']);
  });
});

describe('tuning the tail', () => {
  it('goes to the pitch that most notes have, in the octave of the tail, and not too far', () => {
    const sound = mudLine();
    const { locks } = measureLine(sound, RATE);
    expect(rootHz(sound, locks, 47.6)).toBeCloseTo(48.999, 2);
    expect(withTailAt(sound, 47.6, 48.999)!.kick.made.tailHz).toBeCloseTo(47.7 * (48.999 / 47.6), 2);
    expect(withTailAt(sound, 47.6, 90)).toBeNull();
    expect(withTailTuned(sound, 47.6, 90, RATE)).toBeNull();
    expect(rootHz(sound, lockNotes({ ...sound, line: { notes: [] } }, measureLine(sound, RATE).kick, measureLine(sound, RATE).bass), 47.6)).toBeNull();
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

describe('one oscillator for both', () => {
  /** One held G1 of a sine over a bar, a kick on the third beat. */
  const held = (change: (sound: SoundDocument) => void = () => undefined) => {
    const sound = cleanSound();
    sound.ground = { ...sound.ground, bars: 1, tempoBpm: 120, key: 'G' };
    sound.layers = [sound.layers[0]];
    sound.links = [];
    sound.line.notes = [cleanNote({ tick: 0, ticks: 1900, pitch: 31 })];
    sound.kick = { ...sound.kick, shared: true, hits: [{ tick: 960, velocity: 127 }], made: { ...sound.kick.made, clickDb: -60, startHz: 196, tailHz: 49, dropMs: 100, dropBend: 0, settleMs: 0 } };
    change(sound);
    return sound;
  };
  const crossings = (x: ArrayLike<number>, from: number, to: number) => { let count = 0; for (let i = from + 1; i < to; i++) if (x[i - 1] < 0 !== x[i] < 0) count++; return count / 2; };
  const both = (sound: SoundDocument) => measureLine(sound, RATE);

  it('lets the bass make the drop: two octaves above its note at the beat, and back on it after', () => {
    // 24 semitones evenly down over 0.1 s pass 49·0.1·(4 − 1)/ln 4 = 10.6 cycles; 0.1 s without pass 4.9.
    const { bass } = both(held((sound) => { sound.lock.belowHz = 250; }));
    const rate = bass.rateHz;
    expect(Math.abs(crossings(bass.re, Math.round(1 * rate), Math.round(1.1 * rate)) - 10.6)).toBeLessThan(1);
    expect(Math.abs(crossings(bass.re, Math.round(1.15 * rate), Math.round(1.55 * rate)) - 0.4 * 49)).toBeLessThan(1);
  });

  it('goes on dropping in a note that begins on the way', () => {
    // The note begins 50 ms after the beat. In the last 44 ms of the drop the wave turns by 49·0.1·(2^0.88 − 1)/ln 4 = 3.0 cycles, without a drop by 2.2.
    const { bass } = both(held((sound) => { sound.line.notes = [cleanNote({ tick: 1008, ticks: 800, pitch: 31 })]; sound.lock.belowHz = 250; }));
    const turned = (from: number, to: number) => { let cycles = 0; for (let i = Math.round(from * bass.rateHz); i < Math.round(to * bass.rateHz); i++) { const d = Math.atan2(bass.im[i + 1], bass.re[i + 1]) - Math.atan2(bass.im[i], bass.re[i]); cycles += Math.abs(wrapDegrees((d * 180) / Math.PI)) / 360; } return cycles; };
    expect(Math.abs(turned(1.056, 1.1) - (49 * 0.1 * (2 ** 0.88 - 1)) / Math.log(4))).toBeLessThan(0.25);
    expect(Math.abs(turned(1.15, 1.25) - 4.9)).toBeLessThan(0.1);
  });

  it('makes the whole drop also where the bass had been nudged', () => {
    const nudged = (nudgeMs: number) => both(held((sound) => { sound.line.notes = [cleanNote({ tick: 960, ticks: 900, pitch: 31 })]; sound.lock = { ...sound.lock, belowHz: 250, nudgeMs }; })).bass.re;
    const [late, plain] = [nudged(6), nudged(0)];
    expect(Math.max(...late.map((x, i) => Math.abs(x - plain[i])))).toBeLessThan(1e-9);
    expect(plain.some((x) => Math.abs(x) > 0.1)).toBe(true);
  });

  it('leaves nothing of the kick below 120 Hz, and no note that could cancel', () => {
    const { kick, bass, locks } = both(held());
    const energy = ({ re }: typeof kick) => re.reduce((sum, x) => sum + x * x, 0);
    expect(energy(kick)).toBeLessThan(1e-6 * energy(bass));
    expect(locks[0].lock).toEqual({ reason: ONE_WAVE });
  });

  it('is bass only, or kick only, where a note asks for it, and stands in where there is no note', () => {
    const drops = (sound: SoundDocument) => { const { bass } = both({ ...sound, lock: { ...sound.lock, belowHz: 250 } }); return crossings(bass.re, Math.round(bass.rateHz), Math.round(1.1 * bass.rateHz)); };
    expect(Math.abs(drops(held((sound) => { sound.line.notes[0].carries = 'bass'; })) - 4.9)).toBeLessThan(0.8);
    const alone = both(held((sound) => { sound.line.notes[0].carries = 'kick'; })).bass;
    const level = (from: number, to: number) => Math.sqrt(alone.re.subarray(Math.round(from * alone.rateHz), Math.round(to * alone.rateHz)).reduce((sum, x) => sum + x * x, 0));
    // Before the beat the Sub is silent: the note is the kick alone.
    expect(level(0.3, 0.8)).toBeLessThan(0.02 * level(1, 1.3));
    expect(drops(held((sound) => { sound.line.notes = []; }))).toBeGreaterThan(9);
  });
});
