import { dbToGain } from '../../units/index.js';
import { GainLine } from './gain-line.js';

describe('a gain that movers carry', () => {
  it('is nothing while it stands', () => {
    const line = new GainLine();
    line.begin(-6);
    line.runTo(-6, 0, 16);
    line.runTo(-6, 16, 32);
    expect(line.frames).toBeNull();
  });

  it('stands before it moves, runs evenly, and stands after it', () => {
    const line = new GainLine();
    line.begin(0);
    line.runTo(0, 0, 16);
    line.runTo(-12, 16, 32);
    line.runTo(-12, 32, 48);
    const gains = [...line.frames!.subarray(0, 48)];
    const low = dbToGain(-12);
    expect(gains.slice(0, 16)).toEqual(new Array(16).fill(1));
    gains.slice(16, 32).forEach((gain, i) => {
      expect(gain).toBeCloseTo(1 + ((low - 1) * (i + 1)) / 16, 12);
    });
    expect(gains.slice(32)).toEqual(new Array(16).fill(low));
  });

  it('goes on in the next block from where it came to', () => {
    const line = new GainLine();
    line.begin(0);
    line.runTo(-3, 0, 16);
    line.begin(-3);
    expect(line.frames).toBeNull();
    line.runTo(-9, 0, 16);
    expect(line.frames![0]).toBeCloseTo(dbToGain(-3) + (dbToGain(-9) - dbToGain(-3)) / 16, 12);
    expect(line.frames![15]).toBeCloseTo(dbToGain(-9), 12);
  });
});
