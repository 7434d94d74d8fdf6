import { Click } from './click';

const RATE = 48000;

describe('the click', () => {
  /** Beats in `seconds` at which it sounds up, in seconds. */
  const beats = (seconds: number, run: (click: Click, at: number, block: Float32Array) => void) => {
    const click = new Click(RATE);
    const out = new Float32Array(Math.round(seconds * RATE));
    for (let at = 0; at + 128 <= out.length; at += 128) {
      const block = new Float32Array(128);
      run(click, at / RATE, block);
      out.set(block, at);
    }
    const found: number[] = [];
    for (let i = 1; i < out.length; i++)
      if (Math.abs(out[i]) > 0.02 && !found.some((t) => i / RATE - t < 0.2)) found.push(i / RATE);
    return found;
  };

  it('counts every beat in, at the tempo', () => {
    const found = beats(2, (click, _at, block) => {
      click.count(120, block, new Float32Array(128));
    });
    expect(found.length).toBe(4);
    found.forEach((t, i) => {
      expect(Math.abs(t - 0.5 * i)).toBeLessThan(0.004);
    });
  });

  it('follows the loop, round its end too, and dies away', () => {
    const found = beats(3, (click, at, block) => {
      click.follow((at * 2) % 4, block, new Float32Array(128));
    });
    expect(found.length).toBe(6);
    const click = new Click(RATE);
    const block = new Float32Array(RATE);
    click.follow(0, block, new Float32Array(RATE));
    expect(block.subarray(RATE / 5).every((x) => Math.abs(x) < 1e-6)).toBe(true);
  });
});
