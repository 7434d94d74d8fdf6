import { Lateness } from './lateness';

const LASTS = 128 / 48;

describe('lateness', () => {
  it('is none while blocks take less than they last, also where one is late for once', () => {
    const late = new Lateness();
    for (let i = 0; i < 2000; i++) late.block(i % 200 === 0 ? 40 : 1.5, LASTS);
    expect([late.count, late.silentMs]).toEqual([0, 0]);
  });

  it('counts breaks and silence where every block takes half as long again as it lasts', () => {
    const late = new Lateness();
    // Ten seconds of sound that take fifteen: five of them are silence.
    for (let i = 0; i < 10_000 / LASTS; i++) late.block(1.5 * LASTS, LASTS);
    expect(late.count).toBeGreaterThan(50);
    expect(late.silentMs).toBeGreaterThan(4900);
    expect(late.silentMs).toBeLessThanOrEqual(5000);
  });

  it('counts one break where the thread stood still once', () => {
    const late = new Lateness();
    for (let i = 0; i < 1000; i++) late.block(i === 500 ? 300 : 1, LASTS);
    expect(late.count).toBe(1);
    expect(late.silentMs).toBeCloseTo(300 - LASTS, 0);
  });
});
