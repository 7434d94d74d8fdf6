import { kickTail, middle } from '../measure/index.js';
import { noise, sine } from '../testing/signals.js';
import { lowBand } from './low-band.js';
import { measureLock, noLock, type Lock, type NoLock } from './measure-lock.js';

const RATE = 48000;

function lockOf(kick: ArrayLike<number>, bass: ArrayLike<number>, hz = 50): Lock | NoLock {
  const frames = Math.max(kick.length, bass.length);
  const filled = (x: ArrayLike<number>) => {
    const out = new Float32Array(frames);
    for (let i = 0; i < x.length; i++) out[i] = x[i];
    return out;
  };
  const k = lowBand(filled(kick), RATE);
  const b = lowBand(filled(bass), RATE);
  return measureLock(k, b, 0, b.re.length, 1 / hz);
}
const measured = (lock: Lock | NoLock): Lock => {
  if (lock.kind === 'none') throw new Error(lock.reason);
  return lock;
};
/** A kick whose pitch falls from 4 times its tail within 60 ms and whose level falls by e in 0.15 s. */
const kick = (tailHz: number, seconds = 0.7) => {
  let phase = 0;
  return Float32Array.from({ length: seconds * RATE }, (_, i) => {
    const t = i / RATE;
    const left = Math.max(0, 1 - t / 0.06);
    phase += (tailHz * 4 ** left) / RATE;
    return 0.9 * Math.sin(2 * Math.PI * phase) * Math.exp(-t / 0.15);
  });
};

describe('a decaying tail whose drop has ended', () => {
  it.each([36, 41.2, 43.65, 49, 55, 61.7, 73.4])(
    'of %f Hz is found within 5 cents, and said to be steady',
    (hz) => {
      const tail = kickTail(kick(hz), RATE)!;
      expect(Math.abs(1200 * Math.log2(tail.hz / hz))).toBeLessThan(5);
      expect(tail.steady).toBe(true);
    },
  );

  it('has the phase of the sine that it is', () => {
    for (const phaseDeg of [-120, 0, 45, 170]) {
      const tail = kickTail(
        sine(50, 0.6, { phaseDeg }).map((x, i) => x * Math.exp(-i / 9600)),
        RATE,
      )!;
      expect(Math.abs(((((tail.phaseDeg - phaseDeg + 180) % 360) + 360) % 360) - 180)).toBeLessThan(2);
    }
  });

  it('that never settles is told as not steady', () => {
    let phase = 0;
    const falls = Float32Array.from({ length: 0.6 * RATE }, (_, i) => {
      phase += (120 - (110 * i) / RATE) / RATE;
      return Math.sin(2 * Math.PI * phase) * Math.exp(-i / 12000);
    });
    expect(kickTail(falls, RATE)!.steady).toBe(false);
  });
});

describe('kicks of other kinds', () => {
  const bass = sine(50, 0.7, { amplitude: 0.5 });

  it('of white noise have no common phase with a bass', () => {
    const lock = measured(
      lockOf(
        noise(0.7 * RATE).map((x, i) => x * Math.exp(-i / 7200)),
        bass,
      ),
    );
    expect(lock.coherence).toBeLessThan(0.6);
    expect(Math.abs(lock.sumGainDb)).toBeLessThan(2.2);
  });

  it('that are a click alone add next to nothing, or are refused, and so do three samples', () => {
    const click = new Float32Array(0.7 * RATE);
    for (let i = 0; i < 48; i++) click[i] = i % 2 === 0 ? 0.8 : -0.8;
    for (const kickSignal of [click, Float32Array.of(0.5, -0.2, 0.1)]) {
      const lock = lockOf(kickSignal, bass);
      if (lock.kind === 'lock') expect(Math.abs(lock.sumGainDb)).toBeLessThan(0.2);
      else expect(lock.reason).toMatch(/^(no kick|too short)$/);
    }
  });

  it('with DC are measured as without', () => {
    const plain = measured(lockOf(kick(50), bass));
    const offset = measured(
      lockOf(
        kick(50).map((x) => x + 0.2),
        bass,
      ),
    );
    // The step at the start and the end of the DC has lows of its own; in between nothing changes.
    expect(Math.abs(offset.sumGainDb - plain.sumGainDb)).toBeLessThan(0.5);
  });

  it('in stereo are measured by their middle, whichever side they stand on', () => {
    const left = kick(50);
    const silent = new Float32Array(left.length);
    const one = measured(lockOf(middle([left, silent]), bass));
    const other = measured(lockOf(middle([silent, left]), bass));
    expect(one.sumGainDb).toBeCloseTo(other.sumGainDb, 9);
    expect(one.bearingDeg).toBeCloseTo(measured(lockOf(left, bass)).bearingDeg!, 6);
    expect(lockOf(middle([left, left.map((x) => -x)]), bass)).toEqual(noLock('no kick'));
  });

  it('turned about in polarity turn the bearing by 180°', () => {
    const one = measured(lockOf(kick(50), bass));
    const other = measured(
      lockOf(
        kick(50).map((x) => -x),
        bass,
      ),
    );
    expect(Math.abs(Math.abs(one.bearingDeg! - other.bearingDeg!) - 180)).toBeLessThan(1e-6);
    expect(one.bestSumGainDb).toBeCloseTo(other.bestSumGainDb, 9);
  });

  it('of 20 s lock as a tone does', () => {
    const lock = measured(lockOf(sine(50, 20, { fadeS: 0.05 }), sine(50, 20, { fadeS: 0.05, phaseDeg: 60 })));
    expect(lock.bearingDeg).toBeCloseTo(60, 1);
    expect(lock.sumGainDb).toBeCloseTo(1.76, 1);
  });
});
