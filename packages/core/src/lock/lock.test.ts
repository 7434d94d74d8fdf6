import fc from 'fast-check';
import { noteToHz } from '../music/index.js';
import { noise, sine } from '../testing/signals.js';
import { bestTurnFor, constantRose } from '../advice/index.js';
import { wrapDegrees } from './wrap-degrees.js';
import { lowBand } from './low-band.js';
import { measureLock, noLock, sumGainAtTurn, type Lock } from './measure-lock.js';

const RATE = 48000;

/** Lock of two signals over their whole length. */
function lockOf(kick: Float32Array, bass: Float32Array, periodS: number): Lock {
  const k = lowBand(kick, RATE);
  const b = lowBand(bass, RATE);
  const found = measureLock(k, b, 0, b.re.length, periodS);
  if (found.kind === 'none') throw new Error(found.reason);
  return found;
}
const pair = (hz: number, leadDeg: number, level = 1) =>
  lockOf(
    sine(hz, 1.2, { fadeS: 0.02 }),
    sine(hz, 1.2, { fadeS: 0.02, phaseDeg: leadDeg, amplitude: level }),
    1 / hz,
  );
/** Two tones of amplitudes 1 and a at a phase: power of the sum over the sum of powers. */
const closedForm = (deg: number, a = 1) =>
  10 * Math.log10(1 + (2 * a * Math.cos((deg * Math.PI) / 180)) / (1 + a * a));

describe('lock of two sines of 1.2 s', () => {
  // +1.76 / 0.00 / −3.01 / −8.73 dB at 60 / 90 / 120 / 150° (closed form).
  it.each([
    [0, 3.01],
    [30, 2.71],
    [60, 1.76],
    [90, 0],
    [120, -3.01],
    [150, -8.73],
  ])('at %i° gives %f dB', (deg, wanted) => {
    const found = pair(55, deg);
    expect(closedForm(deg)).toBeCloseTo(wanted, 2);
    expect(Math.abs(found.sumGainDb - closedForm(deg))).toBeLessThan(0.05);
    expect(Math.abs(found.bestSumGainDb - 3.0103)).toBeLessThan(0.05);
  });

  it('at 180° with unequal levels gives the closed form', () => {
    expect(Math.abs(pair(55, 180, 0.5).sumGainDb - closedForm(180, 0.5))).toBeLessThan(0.05);
  });

  it.each(Array.from({ length: 33 }, (_, i) => 16 + i))(
    'finds the bearing of note %i (E0 to C3) within 1°',
    (note) => {
      for (const deg of [-140, -30, 75]) {
        const found = pair(noteToHz(note), deg);
        expect(Math.abs(wrapDegrees(found.bearingDeg! - deg))).toBeLessThan(1);
        expect(found.bestTurnDeg!).toBeCloseTo(-found.bearingDeg!, 9);
        expect(found.coherence).toBeGreaterThan(0.99);
      }
    },
  );
});

describe('lock', () => {
  const found = pair(49, 70, 0.6);

  it('has its best turn where brute force over 360° has it', () => {
    let best = 0;
    for (let turn = 0; turn < 360; turn++)
      if (sumGainAtTurn(found, turn) > sumGainAtTurn(found, best)) best = turn;
    expect(Math.abs(wrapDegrees(best - found.bestTurnDeg!))).toBeLessThan(1);
    expect(sumGainAtTurn(found, found.bestTurnDeg!)).toBeCloseTo(found.bestSumGainDb, 9);
    expect(sumGainAtTurn(found, 0)).toBeCloseTo(found.sumGainDb, 9);
  });

  it('has its nudge where moving the bass and measuring again is best', () => {
    const hz = 49;
    const kick = sine(hz, 1.2, { fadeS: 0.02 });
    const bass = sine(hz, 1.2, { fadeS: 0.02, phaseDeg: 70 });
    let best = { ms: 0, gain: -Infinity };
    for (let frames = -480; frames <= 480; frames += 8) {
      const moved = new Float32Array(bass.length);
      for (let i = 0; i < bass.length; i++)
        if (i - frames >= 0 && i - frames < bass.length) moved[i] = bass[i - frames];
      const gain = lockOf(kick, moved, 1 / hz).sumGainDb;
      if (gain > best.gain) best = { ms: frames / 48, gain };
    }
    // The bass leads by 70°: later by 70/360 of its period.
    expect(pair(hz, 70).nudgeMs!).toBeCloseTo((1000 * 70) / 360 / hz, 1);
    expect(Math.abs(pair(hz, 70).nudgeMs! - best.ms)).toBeLessThan(0.2);
  });

  it('gives no bearing where there is no common phase, and says why', () => {
    const fall = Float32Array.from({ length: 28800 }, (_, i) =>
      Math.sin(2 * Math.PI * (300 * (i / RATE) - 200 * (i / RATE) ** 2)),
    );
    const other = lockOf(fall, sine(43, 0.6), 1 / 43);
    expect(other.coherence).toBeLessThan(0.25);
    expect([other.bearingDeg, other.bestTurnDeg, other.nudgeMs]).toEqual([null, null, null]);
    expect(other.noPhase).toMatchObject({ cause: 'still falling' });
    expect(Number.isFinite(other.sumGainDb)).toBe(true);
  });

  it('names the cause that holds: different pitches, a kick that falls, a bass that glides, noise', () => {
    const kick = (hz: (t: number) => number) => {
      let phase = 0;
      return Float32Array.from({ length: 0.6 * RATE }, (_, i) => {
        phase += hz(i / RATE) / RATE;
        return Math.sin(2 * Math.PI * phase) * Math.exp(-i / 6000);
      });
    };
    const causeOf = (k: Float32Array, b: Float32Array, hz: number) =>
      lockOf(k, b, 1 / hz).noPhase?.cause ?? null;
    for (const tail of [47, 52, 58.3, 65])
      expect(
        causeOf(
          kick((t) => tail * 4 ** Math.exp(-t / 0.012)),
          sine(43.654, 0.6),
          43.654,
        ),
      ).toBe('different pitches');
    expect(
      causeOf(
        kick((t) => 40 + 90 * Math.exp(-t / 0.15)),
        sine(43.654, 0.6),
        43.654,
      ),
    ).toBe('still falling');
    expect(
      causeOf(
        kick(() => 70),
        Float32Array.from({ length: 0.6 * RATE }, (_, i) =>
          Math.sin(2 * Math.PI * (43 * (i / RATE) + 110 * (i / RATE) ** 2)),
        ),
        43,
      ),
    ).toBe('gliding');
    const hiss = noise(0.6 * RATE, 3).map((x, i) => x * Math.exp(-i / 9600));
    expect([null, 'no pitch']).toContain(causeOf(hiss, sine(43.654, 0.6), 43.654));
    // A bass of two harmonics is found where it is written, and within 50 cents nothing differs.
    const two = sine(43.654, 0.6).map((x, i) => x + 0.5 * Math.sin((4 * Math.PI * 43.654 * i) / RATE + 1));
    const apart = lockOf(
      kick((t) => 58.3 * 4 ** Math.exp(-t / 0.012)),
      two,
      1 / 43.654,
    ).noPhase!;
    expect(Math.abs(apart.bassHz - 43.654)).toBeLessThan(0.2);
    expect(Math.abs(apart.beatsHz - 14.65)).toBeLessThan(0.3);
    expect(
      causeOf(
        kick(() => 43.9),
        sine(43.654, 0.6),
        43.654,
      ),
    ).toBeNull();
  });

  it('is refused with the reason where one is silent or they meet too briefly', () => {
    const silence = lowBand(new Float32Array(RATE), RATE);
    const tone = lowBand(sine(50, 1), RATE);
    expect(measureLock(silence, tone, 0, 3000, 0.02)).toEqual(noLock('no kick'));
    expect(measureLock(tone, silence, 0, 3000, 0.02)).toEqual(noLock('no bass'));
    expect(measureLock(tone, tone, 1000, 1010, 0.02)).toEqual(noLock('too short'));
  });

  it('hears nothing above its frequency', () => {
    const low = lowBand(sine(240, 1), RATE);
    let most = 0;
    for (let i = 500; i < 2500; i++) most = Math.max(most, Math.hypot(low.re[i], low.im[i]));
    expect(20 * Math.log10(most)).toBeLessThan(-75);
    const at = lowBand(sine(120, 1), RATE);
    expect(20 * Math.log10(Math.hypot(at.re[1500], at.im[1500]))).toBeCloseTo(-6.02, 0);
  });

  it('turns for the whole line to where the worst note gains most', () => {
    const locks = [pair(43.654, 40), pair(49, 80)];
    const { turnDeg, worstSumGainDb } = bestTurnFor(locks.map(constantRose))!;
    for (let turn = 0; turn < 360; turn += 5)
      expect(Math.min(...locks.map((lock) => sumGainAtTurn(lock, turn)))).toBeLessThanOrEqual(
        worstSumGainDb + 1e-9,
      );
    expect(turnDeg).toBeCloseTo(-60, -0.5);
    expect(bestTurnFor([])).toBeNull();
  });

  it('keeps degrees in (−180, 180]', () => {
    fc.assert(
      fc.property(fc.integer({ min: -100000, max: 100000 }), (deg) => {
        const wrapped = wrapDegrees(deg);
        expect(wrapped > -180 && wrapped <= 180 && (((wrapped - deg) % 360) + 360) % 360 === 0).toBe(true);
      }),
    );
  });
});
