import {
  cleanBand,
  cleanSound,
  cleanUnit,
  unitById,
  withUnits,
  type SoundDocument,
} from '../document/index.js';
import { toEnd } from '../units/index.js';
import { chainFigureSteps, leftOut } from './chain-figures.js';

const OPTIONS = { sampleRateHz: 24000 };
const figures = (sound: SoundDocument, place: Parameters<typeof chainFigureSteps>[1]) =>
  toEnd(chainFigureSteps(sound, place, OPTIONS));

/** A sound with a level of 6 dB and a compressor in its one band, and a soft clip in its first layer. */
function withChains(): SoundDocument {
  const sound = cleanSound();
  const [layer, ...others] = sound.layers;
  return {
    ...sound,
    layers: [{ ...layer, chain: [cleanUnit('tilt', { tiltDb: 0, id: 'tilt-1', levelDb: -4 })] }, ...others],
    grit: {
      ...sound.grit,
      bands: [
        cleanBand({
          units: [
            cleanUnit('tilt', { tiltDb: 0, id: 'level', levelDb: 6 }),
            cleanUnit('tilt', { tiltDb: 0, id: 'off', on: false, levelDb: 20 }),
            cleanUnit('hard clip', { id: 'clip', driveDb: 24 }),
          ],
        }),
      ],
    },
  };
}

describe('the figures of a chain', () => {
  it('tell what each unit that is on does to the rendered loop, one after the other', () => {
    const sound = withChains();
    const { units } = figures(sound, { in: 'band', id: sound.grit.bands[0].id });
    expect(units.map(({ id }) => id)).toEqual(['level', 'clip']);
    const [level, clip] = units;
    expect(level.after.loudnessLufs! - level.before.loudnessLufs!).toBeCloseTo(6, 1);
    expect(level.after.crestDb).toBeCloseTo(level.before.crestDb!, 1);
    expect(clip.before).toEqual(level.after);
    // Driven hard, the peaks are what it takes.
    expect(clip.after.crestDb).toBeLessThan(clip.before.crestDb! - 1);
  });

  it('tell it of a layer’s own chain, and of one that is empty only what goes in', () => {
    const sound = withChains();
    const { units } = figures(sound, { in: 'layer', id: sound.layers[0].id });
    expect(units[0].after.loudnessLufs! - units[0].before.loudnessLufs!).toBeCloseTo(-4, 1);
    const after = figures(sound, { in: 'after' });
    expect(after.units).toEqual([]);
    expect(Math.max(...after.input[0])).toBeGreaterThan(0.01);
  });

  it('let a unit be left out at the level that it had', () => {
    const sound = withChains();
    const place = { in: 'band' as const, id: sound.grit.bands[0].id };
    const [, clip] = figures(sound, place).units;
    const without = withUnits(sound, (unit) => (unit.id === 'clip' ? leftOut(unit, clip) : unit));
    expect(unitById(without, 'clip')?.unit.wetPct).toBe(0);
    const [, bare] = figures(without, place).units;
    expect(bare.after.loudnessLufs).toBeCloseTo(clip.after.loudnessLufs!, 1);
    // And it is the unit that is gone: the crest is that of what goes in.
    expect(bare.after.crestDb).toBeCloseTo(clip.before.crestDb!, 1);
  });
});
