import { cleanNote, cleanSound, cleanWavKick, type SoundDocument } from '../document/index.js';
import { bilgeDrone, mudLine, slackWater, trenchGrowl } from '../demo/index.js';
import { isLock, KEPT_APART, kickFigures, lineLock, ONE_WAVE, soundingHz, soundingOf } from '../figures/index.js';
import { wrapDegrees } from '../lock/index.js';
import { toEnd } from '../units/index.js';
import { bestCommonNudge, bestTurnFor, bestTurnOfLine, bestTurnsByPitch, constantRose, firstLook, fitOf, fitSteps, harshness, isWorth, measureLine, roseGainDb, rosesOf, roseSteps, settles, turnable, turnedLowsSteps, withTailAt, withTailTuned, type LineRoses } from './index.js';
import { tailTargets } from './retune.js';
import { roomForKickMs, withKickLength } from './shorten.js';
import { ordersOf, turned } from './turned-lows.js';

const RATE = 48000;
const rosesFor = (document: SoundDocument): LineRoses => toEnd(roseSteps(document, measureLine(document, RATE)));
/** Sum gain of every meeting of a line, in order; null for those without a lock. */
const gains = (document: SoundDocument) => measureLine(document, RATE).locks.flatMap(({ meetings }) => meetings.map(({ lock }) => (isLock(lock) ? lock.sumGainDb : null)));
const lineOfSound = (document: SoundDocument) => lineLock(document, measureLine(document, RATE).locks);

describe('the rose', () => {
  // Brute force: the turn is rendered and measured.
  it.each([['Mud Line', mudLine], ['Trench Growl', trenchGrowl]])('of %s says within 0.2 dB what every turn gives at every hit when it is rendered', (_name, make) => {
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
      for (const [changed, turnDeg, sign] of [[turned(sound, 100), 100, 1], [{ ...sound, lock: { ...sound.lock, invert: true } }, 0, -1]] as const) {
        gains(changed).forEach((gain, m) => { expect(Math.abs(gain! - roseGainDb(roses[m]!, turnDeg, sign))).toBeLessThan(0.2); });
      }
    }
  });

  it('has its best turn where brute force over 360° has it', () => {
    const roses = rosesFor(mudLine()).flat().filter((rose) => rose !== null);
    const best = bestTurnFor(roses)!;
    for (let turn = -180; turn < 180; turn++) expect(Math.min(...roses.map((rose) => roseGainDb(rose, turn)))).toBeLessThanOrEqual(best.worstSumGainDb + 1e-9);
    expect(bestTurnFor([])).toBeNull();
  });

  it('leaves what beats out of the best turn of a line', () => {
    const sound = trenchGrowl();
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
    const differs = Array.from({ length: 36 }, (_, k) => Math.abs(roseGainDb(constant, 10 * k) - roseGainDb(rose!, 10 * k)));
    expect(Math.max(...differs)).toBeGreaterThan(0.1);
  });

  it('is a constant rotation where the bass runs free', () => {
    const sound = mudLine();
    sound.layers[0].tones[0].startPhase = 'free';
    const rose = rosesFor(sound).flat().find((each) => each !== null)!;
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
      expect(note.meetings.map(({ hit, phasePitch }) => [hit, phasePitch])).toEqual(whole[n].meetings.map(({ hit, phasePitch }) => [hit, phasePitch]));
      note.meetings.forEach(({ lock }, m) => {
        const { lock: exact } = whole[n].meetings[m];
        if (!isLock(lock) || !isLock(exact)) return;
        compared++;
        expect(Math.abs(lock.sumGainDb - exact.sumGainDb)).toBeLessThan(0.1);
        expect(Math.abs(note.bassToKickDb.value! - whole[n].bassToKickDb.value!)).toBeLessThan(0.1);
        if (exact.bearingDeg !== null) expect(Math.abs(wrapDegrees(lock.bearingDeg! - exact.bearingDeg))).toBeLessThan(2);
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
    const roses = rosesOf(look, step.value).flat();
    const exact = rosesFor(sound).flat();
    roses.forEach((rose, m) => { for (let turn = -180; turn < 180; turn += 30) if (rose && exact[m]) expect(Math.abs(roseGainDb(rose, turn) - roseGainDb(exact[m], turn))).toBeLessThan(0.2); });
    expect(roses.filter((rose) => rose !== null).length).toBe(exact.filter((rose) => rose !== null).length);
  });
});

describe('start phases of single pitches', () => {
  it('let every pitch lock where one setting cannot; a tied note is turned with the note before', () => {
    const sound = mudLine();
    const line = measureLine(sound, RATE);
    const roses = rosesFor(sound);
    const best = bestTurnsByPitch(line.locks, roses);
    const changed = { ...sound, lock: { ...sound.lock, turns: [...best].map(([pitch, { turnDeg }]) => ({ pitch, turnDeg })) } };
    const of = (pitch: number) => Math.min(...measureLine(changed, RATE).locks.flatMap(({ note, meetings }) => (note.pitch === pitch ? meetings.map(({ lock }) => (isLock(lock) ? lock.sumGainDb : 0)) : [])));
    expect([...best.keys()]).toEqual(expect.arrayContaining([29, 31]));
    for (const [pitch, { worstSumGainDb }] of best) expect(Math.abs(of(pitch) - worstSumGainDb)).toBeLessThan(0.2);
    expect(Math.min(...[...best.values()].map(({ worstSumGainDb }) => worstSumGainDb))).toBeGreaterThan(bestTurnOfLine(line.locks, roses)!.worstSumGainDb);
    const tied = line.locks.map((each) => ({ ...each, meetings: each.meetings.map((meeting) => ({ ...meeting, phasePitch: 31 })) }));
    expect([...bestTurnsByPitch(tied, roses).keys()]).toEqual([31]);
  });
});

describe('the nudge of a whole line', () => {
  it('is where moving the bass and measuring again is best, within a period', () => {
    const sound = mudLine();
    const line = measureLine(sound, RATE);
    const nudge = bestCommonNudge(line, 1 / soundingHz(sound, 29))!;
    const worst = (nudgeMs: number) => lineOfSound({ ...sound, lock: { ...sound.lock, nudgeMs } }).worstSumGainDb!;
    const found = worst(Number(nudge.nudgeMs.toFixed(2)));
    for (let ms = -10; ms <= 10; ms += 2) expect(worst(ms)).toBeLessThan(found + 0.35);
    expect(bestCommonNudge({ ...line, locks: [] }, 0.02)).toBeNull();
  });
});

describe('the advice', () => {
  const sound = mudLine();
  const fit = fitOf(sound, { sampleRateHz: RATE, known: measureLine(sound, RATE) });

  it('names the line as it is: its worst meeting, and how many there are', () => {
    expect(fit.before).toEqual(lineOfSound(sound));
    expect(fit.before.worstSumGainDb!).toBeLessThan(-1);
    expect(fit.why).toMatch(/^At the worst hit, on G1, kick and bass take 2\.\d dB from each other\.$/);
  });

  it('offers first to tune the kick and to turn the bass to it, and more after that', () => {
    expect(fit.proposals[0].id).toBe('retune-turns');
    expect(fit.proposals[0].title).toMatch(/^Tune the kick up \d+ ct to G1 and give each pitch of the bass a start phase of its own$/);
    expect(fit.proposals[0].says).toMatch(/^every hit adds 0\.\d dB or more$/);
    expect(fit.proposals.map(({ id }) => id)).toEqual(expect.arrayContaining(['turns', 'turn', 'duck', 'duck-beats', 'shared', 'nudge']));
    expect(new Set(fit.tried.map(({ id }) => id)).size).toBe(fit.tried.length);
  });

  it('promises what is measured once it is applied, within 0.2 dB', () => {
    for (const proposal of fit.proposals) {
      const { document, after } = proposal;
      const measured = lineOfSound(structuredClone(document));
      if (after.worstSumGainDb === null) expect(measured.worstSumGainDb).toBeNull();
      else expect(Math.abs(measured.worstSumGainDb! - after.worstSumGainDb)).toBeLessThan(0.2);
      expect(measured).toMatchObject({ adds: after.adds, verdict: after.verdict, keptApart: after.keptApart });
      expect(isWorth(fit.before, proposal)).toBe(true);
    }
  });

  it('states what each takes, as it is measured, and ranks by it', () => {
    const energy = (document: SoundDocument) => { const { bass } = measureLine(document, RATE); return bass.re.reduce((sum, x, i) => sum + x * x + bass.im[i] ** 2, 0); };
    for (const id of ['duck-beats', 'retune-turns']) {
      const { takes, document } = fit.tried.find((each) => each.id === id)!;
      expect(takes.lowsDb).toBeCloseTo(10 * Math.log10(energy(sound) / energy(document)), 2);
    }
    const retune = fit.tried.find(({ id }) => id === 'retune-turns')!;
    expect(Math.abs(retune.takes.kickCents - 1200 * Math.log2(48.999 / kickFigures(sound, RATE).tail!.hz))).toBeLessThan(1.5);
    const nudge = fit.tried.find(({ id }) => id === 'nudge')!;
    expect(nudge.takes.grooveMs).toBeCloseTo(Math.abs(nudge.document.lock.nudgeMs), 9);
    expect(fit.tried.find(({ id }) => id === 'octave')!.takes.keySemitones).toBe(12);
    const shorten = fit.tried.find(({ id }) => id === 'shorten')!;
    expect(shorten.takes.kickLengthMs).toBeCloseTo(1000 * (kickFigures(shorten.document, RATE).lengthS! - kickFigures(sound, RATE).lengthS!), 6);
    // What settles the line stands before what does not, and of that the gentler before the harsher.
    const settled = fit.proposals.filter(({ after }) => settles(after));
    expect(fit.proposals.slice(0, settled.length)).toEqual(settled);
    settled.forEach((proposal, i) => { if (i > 0) expect(harshness(proposal.takes)).toBeGreaterThan(harshness(settled[i - 1].takes) - 0.5); });
  });

  it('comes to an end: what was applied is not offered again', () => {
    const second = fitOf(fit.proposals[0].document, { sampleRateHz: RATE });
    expect(second.before.worstSumGainDb!).toBeGreaterThan(fit.before.worstSumGainDb! + 2);
    expect(second.proposals.map(({ id }) => id)).not.toContain('retune-turns');
  });

  it('raises or lowers a bass that stands outside its range against the kick', () => {
    const quiet = fitOf(sound, { sampleRateHz: RATE, bassToKickDb: -14 });
    expect(quiet.proposals[quiet.proposals.length - 1].title).toBe('Raise the bass by 12.5 dB');
    expect(fit.proposals.find(({ id }) => id === 'level')).toBeUndefined();
  });

  it('renders what makes it worse as well, so that it can be told before it is done', () => {
    expect(fit.tried.map(({ id }) => id)).toEqual(expect.arrayContaining(['invert', 'retune', 'nudge']));
    const invert = fit.tried.find(({ id }) => id === 'invert')!;
    const { worstSumGainDb, ...rest } = lineOfSound(invert.document);
    expect(invert.after).toMatchObject(rest);
    expect(Math.abs(worstSumGainDb! - invert.after.worstSumGainDb!)).toBeLessThan(0.1);
    expect(fit.proposals.every((proposal) => fit.tried.includes(proposal))).toBe(true);
  });

  it('tells what is offered so far after each that was measured, the first long before the last', () => {
    const steps = fitSteps(sound, { sampleRateHz: RATE, known: measureLine(sound, RATE) });
    const told: number[] = [];
    let last = 0;
    for (let step = steps.next(); !step.done; step = steps.next()) {
      expect(step.value.done).toBeGreaterThanOrEqual(last);
      last = step.value.done;
      if (step.value.soFar) told.push(step.value.soFar.tried.length);
    }
    expect(told).toEqual(fit.tried.map((_, i) => i + 1));
  });

  it('has nothing to say without a kick or a line', () => {
    expect(fitOf({ ...sound, line: { notes: [] } }, { sampleRateHz: RATE })).toMatchObject({ before: { meetings: 0, worstSumGainDb: null }, proposals: [], against: null, why: 'No note of the line meets the kick.' });
    expect(fitOf({ ...sound, kick: { ...sound.kick, on: false } }, { sampleRateHz: RATE }).proposals).toEqual([]);
  });
});

describe('a kick of another key under a held line', () => {
  const fit = fitOf(bilgeDrone(), { sampleRateHz: RATE });

  it('is told as a producer would say it', () => {
    expect(fit.why).toMatch(/^Your kick ends on E1 \+1\d ct; the line holds C1\. They beat 8\.\d times a second and never lock\.$/);
    expect(fit.before).toMatchObject({ worstSumGainDb: null, beating: 8, verdict: 'watch' });
    expect(fit.against).toBeNull();
  });

  it('is tuned, and the bass restarted with it: every hit adds', () => {
    const [first] = fit.proposals;
    expect(first.id).toMatch(/^retune-restart/);
    expect(first.title).toMatch(/^Tune the kick down 4\.1 semitones to C1, restart the bass with it/);
    expect(first.says).toMatch(/^every hit adds 1\.\d dB or more$/);
    expect(fit.tried[0].steps).toContain('restart');
    expect(measureLine(first.document, RATE).locks.every(({ meetings, spreadDeg }) => meetings.length === 4 && spreadDeg! < 5)).toBe(true);
  });

  it('or is ducked out of the way, by level and by its beats on the lows alone, and shortened with it', () => {
    for (const id of ['duck', 'duck-beats', 'shorten-duck-beats']) {
      const { document, after, takes } = fit.tried.find((each) => each.id === id)!;
      expect(document.duck).toMatchObject({ on: true, acts: 'low', hard: false, from: 'kick', by: id === 'duck' ? 'level' : 'beats' });
      expect(after).toMatchObject({ adds: true, keptApart: 8 });
      expect(takes.lowsDb).toBeLessThan(6);
      // No deeper than it must be.
      const less = { ...document, duck: { ...document.duck, amountDb: document.duck.amountDb - 4 } };
      expect(lineOfSound(less).adds).toBe(false);
    }
    expect(fit.tried.map(({ id }) => id)).not.toContain('duck-hard');
  });
});

describe('a kick next to the fifth of the root', () => {
  it('is offered it by name, with ducking, for a fifth does not lock', () => {
    const sound = cleanSound();
    sound.kick.made.tailHz = 64.2;
    const fit = fitOf(sound, { sampleRateHz: RATE });
    const fifth = fit.proposals.find(({ steps }) => steps[0] === 'fifth')!;
    expect(fifth.title).toMatch(/^Tune the kick up \d\d ct to C2 \(the fifth of F\) and duck the lows of the bass/);
    expect(fifth.costText).toMatch(/its drop, length and click stay/);
    expect(fifth.after).toMatchObject({ adds: true, keptApart: 8 });
    expect(Math.abs(1200 * Math.log2(kickFigures(fifth.document, RATE).tail!.hz / 65.406))).toBeLessThan(2);
  });
});

describe('what cannot cancel', () => {
  const reasons = (sound: SoundDocument) => measureLine(sound, RATE).locks.flatMap(({ meetings }) => meetings.map(({ lock }) => (isLock(lock) ? 'measured' : lock.reason)));

  it('is told as kept apart under hard ducking', () => {
    const found = reasons({ ...mudLine(), duck: { ...mudLine().duck, on: true, hard: true } });
    expect(found).toContain(KEPT_APART);
    expect(found).not.toContain('measured');
  });

  it('is told as one wave with one oscillator for both, at the hits that fall into a note', () => {
    const sound = { ...mudLine(), kick: { ...mudLine().kick, shared: true } };
    const { locks } = measureLine(sound, RATE);
    expect(locks.map(({ meetings }) => meetings.some(({ lock }) => !isLock(lock) && lock.reason === ONE_WAVE))).toEqual(locks.map((_, n) => n % 4 === 0));
  });

  it('is counted by why, and leaves the advice nothing to better but the level', () => {
    const hard = fitOf({ ...mudLine(), duck: { ...mudLine().duck, on: true, hard: true } }, { sampleRateHz: RATE });
    expect(hard.before).toMatchObject({ worstSumGainDb: null, oneWave: 0, withoutPhase: 0, adds: true, verdict: 'holds' });
    expect(hard.before.keptApart).toBe(hard.before.meetings);
    expect(hard.tried).toEqual([]);
    const shared = { ...mudLine(), kick: { ...mudLine().kick, shared: true } };
    const one = fitOf(shared, { sampleRateHz: RATE, bassToKickDb: 9 });
    expect(one.before).toMatchObject({ worstSumGainDb: null, keptApart: 0, oneWave: 8, meetings: 8 });
    expect(one.tried.map(({ id }) => id)).toEqual(['level']);
  });
});

describe('tuning the tail', () => {
  const sound = mudLine();
  const { locks } = measureLine(sound, RATE);
  const targets = (hz: number, steady = true) => tailTargets(sound, locks, { hz, steady, note: '', cents: 0, phaseDeg: 0, fromS: 0, toS: 1 }).map(({ step, hz: to, what }) => [step, Number(to.toFixed(2)), what]);

  it('goes to the pitch that is met most, the nearest of the line, the nearest of the scale; to the fifth and the octave by name', () => {
    expect(targets(47.6)).toEqual([['retune', 49, null]]);
    expect(targets(57)).toEqual([['retune', 49, null], ['scale', 58.27, null]]);
    expect(targets(44.5)).toEqual([['retune', 49, null], ['near', 43.65, null]]);
    expect(targets(72)).toEqual(expect.arrayContaining([['fifth', 73.42, 'the fifth of G']]));
    expect(targets(97)).toEqual(expect.arrayContaining([['tail-octave', 98, 'the octave of G']]));
    expect(targets(52)).toEqual([['retune', 49, null], ['scale', 55, null]]);
    expect(targets(47.6, false)).toEqual([]);
  });

  it('goes no further than seven semitones, and what that does to a recording is said', () => {
    expect(withTailAt(sound, 47.6, 48.999)!.kick.made.tailHz).toBeCloseTo(47.7 * (48.999 / 47.6), 2);
    expect(withTailAt(sound, 47.6, 90)).toBeNull();
    expect(withTailTuned(sound, 47.6, 90, RATE)).toBeNull();
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
    const wav = { ...sound, kick: { ...sound.kick, source: 'wav' as const, wav: { ...cleanWavKick('a'.repeat(64), 'k.wav'), retuneSt: 12 } } };
    expect(withKickLength(wav, 0.5, 200)!.kick.wav).toMatchObject({ endMs: 400, fadeMs: 200 });
  });

  it('leaves room for the next note, or half the way to the next hit where one is held', () => {
    expect(roomForKickMs(mudLine())).toBeCloseTo((60000 / 128) / 4, 6);
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
