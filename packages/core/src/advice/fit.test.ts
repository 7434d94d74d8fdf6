import { cleanSound, type SoundDocument } from '../document/index.js';
import { bilgeDrone, mudLine } from '../demo/index.js';
import { isLock, kickFigures, lineLock } from '../figures/index.js';
import { fitOf, fitSteps, harshness, isWorth, measureLine, settles } from './index.js';

const RATE = 48000;
const lineOfSound = (document: SoundDocument) => lineLock(document, measureLine(document, RATE).locks);

describe('the advice', () => {
  const sound = mudLine();
  const fit = fitOf(sound, { sampleRateHz: RATE, known: measureLine(sound, RATE) });

  it('names the line as it is: its worst meeting, and how many there are', () => {
    expect(fit.before).toEqual(lineOfSound(sound));
    expect(fit.before.worstSumGainDb!).toBeLessThan(-1);
    expect(fit.why).toMatch(/^At the worst hit, on G1, kick and bass cancel each other by 2\.\d dB\.$/);
  });

  it('offers first to tune the kick and to turn the bass to it, and more after that', () => {
    expect(fit.proposals[0].id).toBe('retune-turns');
    expect(fit.proposals[0].title).toMatch(
      /^Tune the kick up \d+ ct to G1 and give each note pitch its own start phase$/,
    );
    expect(fit.proposals[0].says).toMatch(/^every hit adds 0\.\d dB or more$/);
    expect(fit.proposals.map(({ id }) => id)).toEqual(
      expect.arrayContaining(['turns', 'turn', 'duck', 'duck-beats', 'shared', 'nudge']),
    );
    expect(new Set(fit.tried.map(({ id }) => id)).size).toBe(fit.tried.length);
  });

  it('promises what is measured once it is applied, within 0.2 dB', () => {
    for (const proposal of fit.proposals) {
      const { document, after } = proposal;
      const measured = lineOfSound(structuredClone(document));
      if (after.worstSumGainDb === null) expect(measured.worstSumGainDb).toBeNull();
      else expect(Math.abs(measured.worstSumGainDb! - after.worstSumGainDb)).toBeLessThan(0.2);
      expect(measured).toMatchObject({
        adds: after.adds,
        verdict: after.verdict,
        keptApart: after.keptApart,
      });
      expect(isWorth(fit.before, proposal)).toBe(true);
    }
  });

  it('states what each takes, as it is measured, and ranks by it', () => {
    const energy = (document: SoundDocument) => {
      const { bass } = measureLine(document, RATE);
      return bass.re.reduce((sum, x, i) => sum + x * x + bass.im[i] ** 2, 0);
    };
    for (const id of ['duck-beats', 'retune-turns']) {
      const { takes, document } = fit.tried.find((each) => each.id === id)!;
      // Tried at a low rate, where curves bend the lows a little differently; a tenth is shown.
      const measured = 10 * Math.log10(energy(sound) / energy(document));
      expect(Math.abs(takes.lowsDb - measured)).toBeLessThan(0.02);
    }
    const retune = fit.tried.find(({ id }) => id === 'retune-turns')!;
    expect(
      Math.abs(retune.takes.kickCents - 1200 * Math.log2(48.999 / kickFigures(sound, RATE).tail!.hz)),
    ).toBeLessThan(1.5);
    const nudge = fit.tried.find(({ id }) => id === 'nudge')!;
    expect(nudge.takes.grooveMs).toBeCloseTo(Math.abs(nudge.document.lock.nudgeMs), 9);
    expect(fit.tried.find(({ id }) => id === 'octave')!.takes.keySemitones).toBe(12);
    const shorten = fit.tried.find(({ id }) => id === 'shorten')!;
    expect(shorten.takes.kickLengthMs).toBeCloseTo(
      1000 * (kickFigures(shorten.document, RATE).lengthS! - kickFigures(sound, RATE).lengthS!),
      6,
    );
    // What settles the line stands before what does not, and of that the gentler before the harsher.
    const settled = fit.proposals.filter(({ after }) => settles(after));
    expect(fit.proposals.slice(0, settled.length)).toEqual(settled);
    settled.forEach((proposal, i) => {
      if (i > 0) expect(harshness(proposal.takes)).toBeGreaterThan(harshness(settled[i - 1].takes) - 0.5);
    });
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
    expect(fitOf({ ...sound, line: { notes: [] } }, { sampleRateHz: RATE })).toMatchObject({
      before: { meetings: 0, worstSumGainDb: null },
      proposals: [],
      against: null,
      why: 'No kick lands on a note of the line.',
    });
    expect(fitOf({ ...sound, kick: { ...sound.kick, on: false } }, { sampleRateHz: RATE }).proposals).toEqual(
      [],
    );
  });
});

describe('a kick of another key under a held line', () => {
  const fit = fitOf(bilgeDrone(), { sampleRateHz: RATE });

  it('is told as a producer would say it', () => {
    expect(fit.why).toMatch(
      /^Your kick ends on E1 \+1\d ct; the line holds C1\. They beat 8\.\d times a second and never lock\.$/,
    );
    expect(fit.before).toMatchObject({ worstSumGainDb: null, beating: 8, verdict: 'watch' });
    expect(fit.against).toBeNull();
  });

  it('is tuned, and the bass restarted with it: every hit adds', () => {
    const [first] = fit.proposals;
    expect(first.id).toMatch(/^retune-restart/);
    expect(first.title).toMatch(/^Tune the kick down 4\.1 semitones to C1, restart the bass with it/);
    expect(first.says).toMatch(/^every hit adds [12]\.\d dB or more$/);
    expect(fit.tried[0].steps).toContain('restart');
    expect(
      measureLine(first.document, RATE).locks.every(
        ({ meetings, spreadDeg }) => meetings.length === 4 && spreadDeg! < 5,
      ),
    ).toBe(true);
  });

  it('or is ducked out of the way, by level and by its beats on the lows alone, and shortened with it', () => {
    for (const id of ['duck', 'duck-beats', 'shorten-duck-beats']) {
      const { document, after, takes } = fit.tried.find((each) => each.id === id)!;
      expect(document.duck).toMatchObject({
        on: true,
        acts: 'low',
        hard: false,
        from: 'kick',
        by: id === 'duck' ? 'level' : 'beats',
      });
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
    expect(fifth.title).toMatch(
      /^Tune the kick up \d\d ct to C2 \(the fifth of F\) and duck the lows of the bass/,
    );
    expect(fifth.costText).toMatch(/its drop, length and click stay/);
    expect(fifth.after).toMatchObject({ adds: true, keptApart: 8 });
    expect(Math.abs(1200 * Math.log2(kickFigures(fifth.document, RATE).tail!.hz / 65.406))).toBeLessThan(2);
  });
});

describe('what cannot cancel', () => {
  const reasons = (sound: SoundDocument) =>
    measureLine(sound, RATE).locks.flatMap(({ meetings }) =>
      meetings.map(({ lock }) => (isLock(lock) ? 'measured' : lock.reason)),
    );

  it('is told as kept apart under hard ducking', () => {
    const found = reasons({ ...mudLine(), duck: { ...mudLine().duck, on: true, hard: true } });
    expect(found).toContain('kept apart');
    expect(found).not.toContain('measured');
  });

  it('is told as one wave with one oscillator for both, at the hits that fall into a note', () => {
    const sound = { ...mudLine(), kick: { ...mudLine().kick, shared: true } };
    const { locks } = measureLine(sound, RATE);
    expect(
      locks.map(({ meetings }) => meetings.some(({ lock }) => !isLock(lock) && lock.reason === 'one wave')),
    ).toEqual(locks.map((_, n) => n % 4 === 0));
  });

  it('is counted by why, and leaves the advice nothing to better but the level', () => {
    const hard = fitOf(
      { ...mudLine(), duck: { ...mudLine().duck, on: true, hard: true } },
      { sampleRateHz: RATE },
    );
    expect(hard.before).toMatchObject({
      worstSumGainDb: null,
      oneWave: 0,
      withoutPhase: 0,
      adds: true,
      verdict: 'holds',
    });
    expect(hard.before.keptApart).toBe(hard.before.meetings);
    expect(hard.tried).toEqual([]);
    const shared = { ...mudLine(), kick: { ...mudLine().kick, shared: true } };
    const one = fitOf(shared, { sampleRateHz: RATE, bassToKickDb: 9 });
    expect(one.before).toMatchObject({ worstSumGainDb: null, keptApart: 0, oneWave: 8, meetings: 8 });
    expect(one.tried.map(({ id }) => id)).toEqual(['level']);
  });
});
