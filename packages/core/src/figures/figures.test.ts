import { cleanWavKick, cleanNote, type SoundDocument } from '../document/index.js';
import { demoSounds, slackWater } from '../demo/index.js';
import { plainGrowl } from '../testing/plain-growl.js';
import { sumGainAtTurn, wrapDegrees } from '../lock/index.js';
import { SYSTEMS } from '../translation/index.js';
import { FIGURE_IDS, FIGURES, IN_VIEW, IN_VIEW_IDS } from './kinds/index.js';
import { known, unknown } from '../measure/index.js';
import type { HeardPass } from './kinds/spec.js';
import type { PassFigures } from './passes/pass.js';
import { judgeLock, worse } from './passes/verdict.js';
import { judge, worstFirst } from './figures.js';
import { soundingOf, type WholeSounding } from './sounding.js';

const of = (sound: SoundDocument): WholeSounding => soundingOf(sound, { sampleRateHz: 48000 });
const figure = (sounding: WholeSounding, id: string) =>
  [...sounding.figures, ...sounding.report].find((found) => found.id === id)!;

describe('verdicts', () => {
  const targets = plainGrowl().targets;
  it('hold, watch and fall short by target and margin', () => {
    expect([1, 0, -0.5, -2, null].map((value) => judgeLock(value, 1.5, targets))).toEqual([
      'holds',
      'watch',
      'watch',
      'falls short',
      'unknown',
    ]);
    const standing = (value: number | null) =>
      FIGURES.bassToKick.stand(
        { figure: value === null ? unknown('x') : known(value), pass: {} as PassFigures, passes: [] },
        plainGrowl(),
      ).verdict;
    expect([0, 4, 7, -7, -12, null].map(standing)).toEqual([
      'holds',
      'watch',
      'falls short',
      'watch',
      'falls short',
      'unknown',
    ]);
    expect(worse('holds', 'falls short')).toBe('falls short');
  });
});

describe('figures of the demo', () => {
  const growl = of(plainGrowl());

  it('are all there, each with a value, and none falls short', () => {
    for (const sound of demoSounds()) {
      const { figures, pass } = of(sound);
      expect(figures.map(({ id }) => id)).toEqual(IN_VIEW_IDS);
      for (const {
        id,
        figure: { value },
        verdict,
      } of figures) {
        // Bilge Drone's kick ends on another key, so that the advice has something to say: the two beat, and
        // have no lock.
        if (sound.name === 'Bilge Drone' && id === 'kickLock')
          expect([value, verdict]).toEqual([null, 'watch']);
        else expect(value).not.toBeNull();
        // Mud Line has a kick that is a little out of tune and out of phase, so that the advice has something
        // to say.
        if (sound.name === 'Mud Line' && id === 'kickLock') expect(verdict).toBe('falls short');
        // Slack Water is a bare sub.
        else if (sound.name === 'Slack Water' && id === 'heard') expect(verdict).toBe('falls short');
        else expect(verdict).not.toBe('falls short');
      }
      expect(pass.clicks).toEqual([]);
    }
  });

  it('say by how much they miss a target that their number seems to meet', () => {
    const value = figure(growl, 'evenness').figure.value!;
    const sound = plainGrowl();
    sound.targets.evennessDb = value - 0.0005;
    expect(
      figure({ ...growl, figures: judge<HeardPass>(IN_VIEW, sound, [growl.pass]) }, 'evenness'),
    ).toMatchObject({
      verdict: 'watch',
      margin: '0.0005 over',
    });
    sound.targets.evennessDb = value + 0.01;
    expect(
      figure({ ...growl, figures: judge<HeardPass>(IN_VIEW, sound, [growl.pass]) }, 'evenness'),
    ).toMatchObject({
      verdict: 'holds',
      margin: 'just',
    });
  });

  it('tell of every note, and measure the loudness of what is rendered', () => {
    expect(growl.pass.notes).toHaveLength(plainGrowl().line.notes.length);
    expect(figure(growl, 'loudness').figure.value!).toBeCloseTo(growl.pass.loudness.integrated.value!, 9);
    expect(growl.kick.tail!.note).toBe('F1');
    expect(growl.kick.tail!.steady).toBe(true);
  });

  it('what the best turn promises comes true when it is rendered', () => {
    const apart = plainGrowl();
    apart.lock.turnDeg = 40;
    const before = of(apart).pass.notes.find(
      ({ lock }) => 'bearingDeg' in lock && lock.bearingDeg !== null,
    )!.lock;
    if (!('bearingDeg' in before)) throw new Error('no lock');
    const turn = Math.round(wrapDegrees(before.bestTurnDeg!));
    const after = of({ ...apart, lock: { ...apart.lock, turnDeg: wrapDegrees(40 + turn) } }).pass.notes[0]
      .lock;
    if (!('bearingDeg' in after)) throw new Error('no lock');
    expect(Math.abs(after.sumGainDb - sumGainAtTurn(before, turn))).toBeLessThan(0.25);
    expect(after.sumGainDb).toBeGreaterThan(before.sumGainDb + 0.3);
    expect(Math.abs(after.bearingDeg!)).toBeLessThan(8);
  });

  it('a nudge moves the bearing as far as the time is of the period', () => {
    const nudged = slackWater();
    const before = of(slackWater()).pass.notes[0].lock;
    nudged.lock.nudgeMs = 3;
    const after = of(nudged).pass.notes[0].lock;
    if (!('bearingDeg' in before) || !('bearingDeg' in after)) throw new Error('no lock');
    // D1 is 36.708 Hz: 3 ms are 39.6°; later by that much, the bass leads by so much less.
    expect(wrapDegrees(after.bearingDeg! - before.bearingDeg!)).toBeCloseTo(-39.6, -1);
  });
});

describe('figures that cannot be told', () => {
  const without = (change: (sound: SoundDocument) => void) => {
    const sound = plainGrowl();
    change(sound);
    return of(sound);
  };

  it('an empty line', () => {
    const sounding = without((s) => {
      s.line.notes = [];
    });
    for (const id of ['kickLock', 'evenness', 'bassToKick'])
      expect(figure(sounding, id)).toMatchObject({
        verdict: 'unknown',
        figure: { value: null, reason: 'the line is empty' },
      });
    expect(figure(sounding, 'lowMono').figure.value).toBeNull();
    expect(sounding.pass.clicks).toEqual([]);
  });

  it('no kick, and a kick of silence', () => {
    expect(
      figure(
        without((s) => {
          s.kick.on = false;
        }),
        'kickLock',
      ).figure.reason,
    ).toBe('there is no kick');
    const asset = 'c'.repeat(64);
    const sound = plainGrowl();
    sound.kick = { ...sound.kick, source: 'wav', wav: cleanWavKick(asset, 'silence.wav') };
    const sounding = soundingOf(sound, {
      sampleRateHz: 48000,
      assets: new Map([[asset, { channels: [new Float32Array(4800)], sampleRateHz: 48000 }]]),
    });
    expect(figure(sounding, 'kickLock').figure).toEqual({
      value: null,
      reason: 'no kick overlaps a note for a whole cycle',
    });
    expect(sounding.kick).toEqual({ tail: null, lengthS: null });
  });

  it('silence', () => {
    const sounding = without((s) => {
      s.layers.forEach((layer) => {
        layer.on = false;
      });
      s.kick.on = false;
    });
    for (const {
      figure: { value },
      verdict,
    } of sounding.figures)
      expect([value, verdict]).toEqual([null, 'unknown']);
  });

  it('a high note does not count for evenness', () => {
    const sounding = without((s) => {
      s.line.notes = [cleanNote({ tick: 0, ticks: 400, pitch: 60 })];
    });
    expect(figure(sounding, 'evenness').figure.reason).toMatch(/no note has a fundamental below 100 Hz/);
  });
});

describe('what runs free', () => {
  it('is measured over four passes, and the spread is told', () => {
    const sound = plainGrowl();
    sound.layers[0].tones[0].startPhase = 'free';
    const sounding = of(sound);
    expect(sounding.passes).toBe(4);
    expect(figure(sounding, 'kickLock').spread!).toBeGreaterThan(0);
    expect(figure(of(plainGrowl()), 'kickLock').spread).toBeNull();
  });
});

describe('the report', () => {
  const slack = of(slackWater());

  it('has every other figure, each with a sentence, and none but what is meant to falls short', () => {
    expect([...slack.figures, ...slack.report].map(({ id }) => id)).toEqual(FIGURE_IDS);
    for (const spec of Object.values(FIGURES)) expect(spec.means.length).toBeGreaterThan(30);
    // A bare sub has little body to set against it.
    expect(figure(slack, 'subToBody').verdict).toBe('watch');
    for (const { id, verdict } of slack.report)
      if (id !== 'subToBody') expect(verdict).not.toBe('falls short');
  });

  it('is sorted by what is worst, and then by how far it misses', () => {
    const sorted = worstFirst([...slack.figures, ...slack.report]);
    expect(sorted[0].id).toBe('heard');
    const place = (verdict: string) => ['falls short', 'watch', 'holds', 'unknown'].indexOf(verdict);
    sorted.slice(1).forEach((each, i) => {
      expect(place(each.verdict)).toBeGreaterThanOrEqual(place(sorted[i].verdict));
      if (each.verdict === sorted[i].verdict && each.miss !== null)
        expect(each.miss).toBeLessThanOrEqual(sorted[i].miss!);
    });
  });

  it('counts the systems that matter, and names those that lose a note', () => {
    expect(figure(slack, 'heard')).toMatchObject({ figure: { value: 4 }, outOf: 7, verdict: 'falls short' });
    const fewer = slackWater();
    fewer.systems.leftOut = ['radio', 'laptop'];
    const judged = judge<HeardPass>(IN_VIEW, fewer, [slack.pass]);
    expect(judged.find(({ id }) => id === 'heard')).toMatchObject({
      figure: { value: 4 },
      outOf: 5,
      verdict: 'watch',
      detail: 'lost: small phone on D1, F1 and 2 more',
    });
    fewer.systems.leftOut.push('phone');
    const [, , , heard] = judge<HeardPass>(IN_VIEW, fewer, [slack.pass]);
    expect(heard).toMatchObject({ figure: { value: 4 }, outOf: 4, verdict: 'holds' });
    fewer.systems.leftOut = SYSTEMS.map(({ id }) => id);
    const [, , , none] = judge<HeardPass>(IN_VIEW, fewer, [slack.pass]);
    expect(none).toMatchObject({
      verdict: 'unknown',
      figure: { reason: 'no system matters for this sound' },
    });
  });
});
