import {
  cleanBand,
  cleanLayer,
  cleanNote,
  cleanSound,
  cleanUnit,
  type Duck,
  type GritUnit,
  type SoundDocument,
} from '../../document/index.js';
import { RATE } from '../../testing/signals.js';
import { renderLoop } from './render-loop.js';

/** A held sine at F1 under a kick on every beat, one bar at 120 bpm. */
function heldSine(patch: {
  readonly chain?: GritUnit[];
  readonly band?: GritUnit[];
  readonly after?: GritUnit[];
  readonly duck?: Partial<Duck>;
}): SoundDocument {
  const sound = cleanSound();
  return {
    ...sound,
    ground: { ...sound.ground, bars: 1, tempoBpm: 120 },
    kick: {
      ...sound.kick,
      on: true,
      hits: [0, 480, 960, 1440].map((tick) => ({ tick, velocity: 127 })),
    },
    layers: [{ ...cleanLayer('body', { id: 'body' }), chain: patch.chain ?? [] }],
    movers: [],
    links: [],
    line: { notes: [cleanNote({ tick: 0, ticks: 1920 })] },
    grit: {
      ...sound.grit,
      cleanPath: { ...sound.grit.cleanPath, on: false },
      bands: [cleanBand({ units: patch.band ?? [] })],
      after: patch.after ?? [],
    },
    duck: { ...sound.duck, on: false, ...patch.duck },
    output: { levelDb: -12, ceilingDb: 0 },
  };
}

const bassOf = (sound: SoundDocument) => renderLoop(sound, { sampleRateHz: RATE, stems: 'none' }).bass.left;
const rms = (x: Float32Array, fromMs: number, toMs: number) => {
  const part = x.subarray(Math.round((fromMs * RATE) / 1000), Math.round((toMs * RATE) / 1000));
  return Math.sqrt(part.reduce((sum, each) => sum + each * each, 0) / part.length);
};
const dB = (ratio: number) => 20 * Math.log10(ratio);

/** Lowers nothing, and lets everything through later: by a whole number of the blocks in which ducking moves. */
const waiting = (id: string) => cleanUnit('compressor', { id, thresholdDb: 0, ratio: 1, lookAheadMs: 8 });
const pumps = (id: string) =>
  cleanUnit('compressor', {
    id,
    listensTo: 'kick',
    thresholdDb: -40,
    ratio: 8,
    attackMs: 0.5,
    releaseMs: 60,
    kneeDb: 0,
  });

describe('what units hear of the kick', () => {
  it.each<[string, Parameters<typeof heldSine>[0]]>([
    ['a layer', { chain: [pumps('pump')] }],
    ['a band', { band: [pumps('pump')] }],
    ['what comes after the sum', { after: [pumps('pump')] }],
    ['a layer, behind a unit that waits', { chain: [waiting('wait'), pumps('pump')] }],
    [
      'what comes after the sum, behind units that wait',
      { chain: [waiting('wait')], after: [waiting('wait-2'), pumps('pump')] },
    ],
  ])('lowers %s while the kick is loud, at the same moment wherever it stands', (_where, patch) => {
    const bass = bassOf(heldSine(patch));
    const plain = bassOf(heldSine({}));
    const lowered = (fromMs: number, toMs: number) => dB(rms(bass, fromMs, toMs) / rms(plain, fromMs, toMs));
    for (const beat of [500, 1000, 1500]) {
      // Before the hit nothing, after it much.
      expect(lowered(beat - 40, beat - 4)).toBeGreaterThan(-3);
      expect(lowered(beat + 20, beat + 60)).toBeLessThan(-8);
    }
    const same = bassOf(heldSine({ after: [pumps('pump')] }));
    expect(Math.abs(lowered(520, 560) - dB(rms(same, 520, 560) / rms(plain, 520, 560)))).toBeLessThan(0.5);
  });

  it('is nothing where the kick is off', () => {
    const off = (sound: SoundDocument) => ({ ...sound, kick: { ...sound.kick, hits: [] } });
    const bass = bassOf(off(heldSine({ after: [pumps('pump')] })));
    expect(dB(rms(bass, 500, 900) / rms(bassOf(off(heldSine({}))), 500, 900))).toBeCloseTo(0, 2);
  });
});

describe('ducking of a bass that comes late', () => {
  it.each<[string, Partial<Duck>]>([
    ['by beats', { on: true, by: 'beats', amountDb: 18, attackMs: 2, holdMs: 40, returnMs: 80 }],
    ['by beats, ahead', { on: true, by: 'beats', amountDb: 18, lookAheadMs: 20 }],
    [
      'by level',
      { on: true, by: 'level', amountDb: 24, thresholdDb: -40, ratio: 8, attackMs: 1, returnMs: 60 },
    ],
    ['hard', { on: true, hard: true }],
  ])('%s: it stays where it is against the kick, a null under −50 dB', (_way, duck) => {
    const sooner = bassOf(heldSine({ duck }));
    const later = bassOf(
      heldSine({ duck, chain: [waiting('wait')], after: [waiting('wait-2'), waiting('wait-3')] }),
    );
    const rest = Float32Array.from(later, (x, i) => x - sooner[i]);
    expect(dB(rms(rest, 0, 2000) / rms(sooner, 0, 2000))).toBeLessThan(-50);
    // And there is something to be in step with.
    expect(dB(rms(sooner, 510, 540) / rms(sooner, 440, 470))).toBeLessThan(-6);
  });
});
