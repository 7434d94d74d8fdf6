import { bent, shapeAt } from './curve.js';
import { Ceiling } from './ceiling.js';
import { Random } from '../waves/random.js';
import { SegmentEnvelope } from './segment-envelope.js';

const RATE = 48000;

describe('ceiling', () => {
  it('lets nothing stand above it, and returns to 1', () => {
    const ceiling = new Ceiling(RATE);
    const n = 24000;
    const x = Float64Array.from(
      { length: n },
      (_, i) => (i > 5000 && i < 5400 ? 3 : 0.4) * Math.sin(0.05 * i),
    );
    const gains = new Float64Array(n).fill(1);
    for (let at = 0; at < n; at += 64) {
      const peaks = x.subarray(at, at + 64).map(Math.abs);
      const out = new Float64Array(64).fill(1);
      ceiling.peak.set([Math.max(...peaks), 0.5]);
      if (ceiling.gains(peaks, out, peaks.length)) gains.set(out.subarray(0, peaks.length), at);
    }
    let most = 0;
    for (let i = ceiling.delayFrames; i < n; i++)
      most = Math.max(most, Math.abs(x[i - ceiling.delayFrames] * gains[i]));
    expect(most).toBeLessThanOrEqual(0.5 + 1e-9);
    expect(gains[4000]).toBe(1);
    expect(gains[n - 1]).toBeCloseTo(1, 2);
  });
});

describe('bent lines', () => {
  it('run from 0 to 1, straight without bend', () => {
    for (const bend of [-1, -0.3, 0, 0.5, 1]) {
      expect(bent(0, bend)).toBeCloseTo(0, 12);
      expect(bent(1, bend)).toBeCloseTo(1, 12);
    }
    expect(bent(0.25, 0)).toBe(0.25);
    expect(bent(0.5, 0.5)).toBeLessThan(0.5);
    expect(bent(0.5, -0.5)).toBeGreaterThan(0.5);
  });

  it('read a drawn shape, jumps and all', () => {
    const gate = [
      { x: 0, y: 1, bend: 0 },
      { x: 0.5, y: 1, bend: 0 },
      { x: 0.5, y: 0, bend: 0 },
      { x: 1, y: 0.5, bend: 0 },
    ];
    expect(shapeAt(gate, 0.25)).toBe(1);
    expect(shapeAt(gate, 0.5)).toBe(0);
    expect(shapeAt(gate, 0.75)).toBeCloseTo(0.25, 12);
  });
});

describe('segment envelope', () => {
  const times = {
    attackMs: 10,
    attackBend: 0,
    decayMs: 20,
    decayBend: 0,
    sustainPct: 40,
    releaseMs: 50,
    releaseBend: 0,
  };
  const after = (envelope: SegmentEnvelope, ms: number) => {
    envelope.step((ms * RATE) / 1000);
    return envelope.level;
  };

  it('goes through its segments in the times that are set', () => {
    const envelope = new SegmentEnvelope(times, RATE);
    expect(envelope.active).toBe(false);
    envelope.start();
    expect(after(envelope, 5)).toBeCloseTo(0.5, 9);
    expect(after(envelope, 5)).toBeCloseTo(1, 9);
    expect(after(envelope, 10)).toBeCloseTo(0.7, 9);
    expect(after(envelope, 500)).toBeCloseTo(0.4, 9);
    envelope.release();
    expect(after(envelope, 25)).toBeCloseTo(0.2, 9);
    expect(after(envelope, 25)).toBeCloseTo(0, 9);
    expect(envelope.active).toBe(false);
  });

  it('crosses several segments in one step', () => {
    const envelope = new SegmentEnvelope(times, RATE);
    envelope.start();
    expect(after(envelope, 20)).toBeCloseTo(0.7, 9);
  });

  it('is let go in the attack from the level it has reached', () => {
    const envelope = new SegmentEnvelope(times, RATE);
    envelope.start();
    after(envelope, 3);
    envelope.release();
    expect(envelope.releasing).toBe(true);
    expect(after(envelope, 25)).toBeCloseTo(0.15, 9);
  });
});

describe('seeded random numbers', () => {
  it('repeat for a seed and stream, and differ between streams', () => {
    const run = (seed: number, stream: number) => {
      const random = new Random(seed, stream);
      return Array.from({ length: 5 }, () => random.next());
    };
    expect(run(7, 1)).toEqual(run(7, 1));
    expect(run(7, 1)).not.toEqual(run(7, 2));
    expect(run(0, 0)).not.toEqual(run(1, 0));
  });

  it('are even between 0 and 1', () => {
    const random = new Random(3);
    const counts = new Array<number>(10).fill(0);
    for (let i = 0; i < 100000; i++) counts[Math.floor(10 * random.next())]++;
    for (const count of counts) expect(Math.abs(count - 10000)).toBeLessThan(400);
  });
});
