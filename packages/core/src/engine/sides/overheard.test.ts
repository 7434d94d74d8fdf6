import { cleanBacking, cleanSound, cleanUnit, type SoundDocument } from '../../document/index.js';
import { BLOCK } from '../../dsp/index.js';
import { heardByUnits, Overheard } from './overheard.js';

const RATE = 48000;
const HASH = 'b'.repeat(64);
const assets = new Map([
  [
    HASH,
    { sampleRateHz: RATE, channels: [new Float32Array(4800).fill(0.5), new Float32Array(4800).fill(0.1)] },
  ],
]);

function withPart(gainDb = 0): SoundDocument {
  const sound = cleanSound();
  return {
    ...sound,
    kick: { ...sound.kick, on: true, levelDb: -6 },
    backing: [{ ...cleanBacking('quay', HASH, 'quay.wav'), gainDb }],
  };
}
const peak = (block: Float64Array) => block.reduce((most, x) => Math.max(most, Math.abs(x)), 0);

describe('whom units listen to', () => {
  it('is told by those that are on, each once', () => {
    const pump = (id: string, listensTo: string, on = true) => cleanUnit('compressor', { id, listensTo, on });
    expect(
      heardByUnits([
        pump('a', 'kick'),
        pump('b', 'quay'),
        pump('c', 'kick'),
        pump('d', 'self'),
        pump('e', 'x', false),
      ]),
    ).toEqual(['kick', 'quay']);
    expect(heardByUnits([cleanUnit('tube', { id: 't' })])).toEqual([]);
  });

  it('is played in mono at the level at which it is heard, from its event on and at once', () => {
    const heard = new Overheard(withPart(-6), ['kick', 'quay'], RATE, assets);
    const [kick, quay] = [heard.block('kick')!, heard.block('quay')!];
    heard.render(BLOCK);
    expect([peak(kick), peak(quay)]).toEqual([0, 0]);
    heard.begin(0);
    heard.render(BLOCK);
    expect(quay[0]).toBeCloseTo(0.3 * 10 ** (-6 / 20), 4);
    expect(peak(kick)).toBe(0);
    heard.hit(127);
    heard.render(BLOCK);
    expect(peak(kick)).toBeGreaterThan(0.05);
  });

  it('is as loud as the kick is set, live', () => {
    const loud = (levelDb: number) => {
      const sound = withPart();
      const heard = new Overheard(sound, ['kick'], RATE, assets);
      heard.set({ ...sound, kick: { ...sound.kick, levelDb } });
      heard.hit(127);
      for (let block = 0; block < 4; block++) heard.render(BLOCK);
      return peak(heard.block('kick')!);
    };
    expect(20 * Math.log10(loud(0) / loud(-12))).toBeCloseTo(12, 3);
  });

  it('is nobody that was not asked for, and nobody that is not there', () => {
    const heard = new Overheard(withPart(), ['quay', 'gone'], RATE, assets);
    expect(heard.block('kick')).toBeNull();
    expect(heard.block('gone')).toBeNull();
    heard.hit(127);
    heard.begin(5);
    heard.render(BLOCK);
    expect(peak(heard.block('quay')!)).toBe(0);
  });

  it('goes on from where another stands, and fades when it is stopped', () => {
    const one = new Overheard(withPart(), ['quay'], RATE, assets);
    one.begin(0);
    one.render(BLOCK);
    const other = new Overheard(withPart(), ['kick', 'quay'], RATE, assets);
    other.copyFrom(one);
    other.render(BLOCK);
    expect(peak(other.block('quay')!)).toBeCloseTo(0.3, 4);
    other.stop();
    for (let block = 0; block < 8; block++) other.render(BLOCK);
    expect(peak(other.block('quay')!)).toBe(0);
  });
});
