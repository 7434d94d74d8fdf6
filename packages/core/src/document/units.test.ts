import {
  bandName,
  chainKeys,
  chainPath,
  chainsOf,
  cleanBand,
  cleanLayer,
  cleanLink,
  cleanSound,
  cleanUnit,
  dropDangling,
  findProblems,
  linkTargets,
  placeName,
  resolveTarget,
  targetLabel,
  unitById,
  unitName,
  withUnits,
  type SoundDocument,
  type UnitPlace,
} from './index.js';

/** A sound with a unit in every place that takes one. */
function everywhere(): SoundDocument {
  const sound = cleanSound();
  return {
    ...sound,
    layers: [
      { ...cleanLayer('sub', { id: 'sub', name: 'Sub' }), chain: [cleanUnit('declick', { id: 'in-layer' })] },
      cleanLayer('body', { id: 'body', name: 'Body' }),
    ],
    grit: {
      cleanPath: {
        ...sound.grit.cleanPath,
        alone: false,
        units: [cleanUnit('harmonics', { id: 'in-clean' })],
      },
      bands: [
        cleanBand({ id: 'low', units: [cleanUnit('tube', { id: 'in-low' })] }),
        cleanBand({
          id: 'high',
          fromHz: 1600,
          units: [cleanUnit('tube', { id: 'one' }), cleanUnit('tube', { id: 'two' })],
        }),
      ],
      after: [cleanUnit('limiter', { id: 'in-after' })],
    },
  };
}
const PLACES: readonly (readonly [UnitPlace, string, string])[] = [
  [{ in: 'layer', id: 'sub' }, 'layers[0].chain', 'Sub'],
  [{ in: 'layer', id: 'body' }, 'layers[1].chain', 'Body'],
  [{ in: 'clean path' }, 'grit.cleanPath.units', 'Clean path'],
  [{ in: 'band', id: 'low' }, 'grit.bands[0].units', '90 Hz to 1.6 kHz'],
  [{ in: 'band', id: 'high' }, 'grit.bands[1].units', 'above 1.6 kHz'],
  [{ in: 'after' }, 'grit.after', 'After the sum'],
];

describe('chains of a document', () => {
  it('are listed from the layers to what comes after the sum, each with its path and its name', () => {
    const sound = everywhere();
    expect(findProblems(sound)).toEqual([]);
    expect(chainsOf(sound).map(({ place }) => place)).toEqual(PLACES.map(([place]) => place));
    for (const [place, path, name] of PLACES) {
      expect([chainPath(sound, place), placeName(sound, place)]).toEqual([path, name]);
      const at = chainKeys(sound, place).reduce<unknown>(
        (node, key) => (node as Record<string | number, unknown>)[key],
        sound,
      );
      expect(at).toBe(
        chainsOf(sound).find((chain) => chain.place.in === place.in && chain.units === at)?.units,
      );
    }
  });

  it('give a unit by its id wherever it stands', () => {
    const sound = everywhere();
    for (const { place, units } of chainsOf(sound))
      for (const unit of units) expect(unitById(sound, unit.id)).toEqual({ unit, place });
    expect(unitById(sound, 'nowhere')).toBeNull();
  });

  it('stay the same objects where no unit of theirs is changed', () => {
    const sound = everywhere();
    const changed = withUnits(sound, (unit) => (unit.id === 'in-low' ? { ...unit, on: false } : unit));
    expect(unitById(changed, 'in-low')!.unit.on).toBe(false);
    expect(unitById(sound, 'in-low')!.unit.on).toBe(true);
    expect(changed.layers[0]).toBe(sound.layers[0]);
    expect(changed.grit.after).toBe(sound.grit.after);
    expect(changed.grit.bands[1].units).toBe(sound.grit.bands[1].units);
  });
});

describe('names of bands and units', () => {
  it('say where a band lies, whatever lies below and above it', () => {
    const named = (on: boolean, fromHz: readonly number[]) => {
      const { grit } = cleanSound();
      const bands = fromHz.map((hz, b) => cleanBand({ id: `band-${b}`, fromHz: hz }));
      return bands.map((_, b) =>
        bandName({ grit: { ...grit, cleanPath: { ...grit.cleanPath, on, frequencyHz: 72.4 }, bands } }, b),
      );
    };
    expect(named(true, [40, 1234, 12000])).toEqual([
      '72 Hz to 1.23 kHz',
      '1.23 kHz to 12 kHz',
      'above 12 kHz',
    ]);
    expect(named(false, [40, 300])).toEqual(['below 300 Hz', 'above 300 Hz']);
    expect(named(false, [40])).toEqual(['all of it']);
  });

  it('number units of a kind only where their chain has several', () => {
    const [low, high] = everywhere().grit.bands;
    expect(low.units.map((unit) => unitName(low.units, unit))).toEqual(['Tube']);
    expect(high.units.map((unit) => unitName(high.units, unit))).toEqual(['Tube 1', 'Tube 2']);
  });
});

describe('what movers reach of units and bands', () => {
  it('goes by ids, and is named by where it stands', () => {
    const sound = everywhere();
    expect(targetLabel(sound, 'units.two.driveDb')).toBe('above 1.6 kHz · Tube 2 · drive');
    expect(targetLabel(sound, 'bands.low.wetPct')).toBe('90 Hz to 1.6 kHz · wet');
    expect(targetLabel(sound, 'grit.cleanPath.levelDb')).toBe('Clean path · level');
    expect(resolveTarget(sound, 'units.in-layer.cutoffHz')).toMatchObject({ part: 'unit', id: 'in-layer' });
    for (const target of [
      'units.gone.driveDb',
      'units.two.ceilingDb',
      'units.two.locked',
      'bands.gone.levelDb',
      'bands.low.fromHz',
      'units.in-after.lookAheadMs',
    ])
      expect([target, resolveTarget(sound, target)]).toEqual([target, null]);
  });

  it('is offered of units that are on, without what has no effect as they are set', () => {
    const sound = withUnits(everywhere(), (unit) => (unit.id === 'two' ? { ...unit, on: false } : unit));
    const offered = linkTargets(sound).map(({ target }) => target);
    expect(offered).toContain('units.one.driveDb');
    // Emphasis by nothing has no frequency; what is off moves nothing.
    expect(offered).not.toContain('units.one.emphasisHz');
    expect(offered).not.toContain('units.two.driveDb');
    expect(offered).toContain('bands.high.levelDb');
    expect(new Set(offered).size).toBe(offered.length);
    for (const target of offered)
      expect([target, resolveTarget(sound, target) !== null]).toEqual([target, true]);
  });

  it('is taken out with what it stands in', () => {
    const sound = everywhere();
    sound.links = ['units.in-low.driveDb', 'units.in-after.ceilingDb', 'bands.high.levelDb'].map(
      (target, i) => cleanLink({ id: `link-${i}`, mover: 'wobble-1', target }),
    );
    sound.macros[0].switches = [{ target: 'units.in-low.on', fromPct: 50, on: false }];
    expect(findProblems(sound)).toEqual([]);
    sound.grit.bands = [cleanBand({ id: 'other' })];
    dropDangling(sound);
    expect(sound.links.map(({ target }) => target)).toEqual(['units.in-after.ceilingDb']);
    expect(sound.macros[0].switches).toEqual([]);
    expect(findProblems(sound)).toEqual([]);
  });
});

describe('what a unit hears', () => {
  const hearing = (place: 'band' | 'after', name: string): SoundDocument => {
    const sound = everywhere();
    const unit = cleanUnit('compare', { id: 'hears', with: name });
    if (place === 'band') sound.grit.bands[0].units = [unit];
    else sound.grit.after = [unit];
    return sound;
  };
  it.each([
    ['band', 'kick', 'kick'],
    ['band', 'high', 'high'],
    ['after', 'kick', 'kick'],
    ['after', 'high', 'level'],
    ['band', 'a part that is gone', 'level'],
  ] as const)('of %s: %s is %s once nothing dangles', (place, name, left) => {
    const sound = hearing(place, name.replaceAll(' ', '-'));
    expect(findProblems(sound).length).toBe(left === 'level' ? 1 : 0);
    dropDangling(sound);
    expect(unitById(sound, 'hears')!.unit).toMatchObject({ with: left });
    expect(findProblems(sound)).toEqual([]);
  });
});

describe('a sound whose bands or units do not fit together', () => {
  it.each<[string, (sound: SoundDocument) => void, RegExp]>([
    [
      'two units of one id',
      ({ grit }) => {
        grit.after[0].id = 'one';
      },
      /grit\.after\[0\]\.id.*"one" appears twice/,
    ],
    [
      'bands that do not rise',
      ({ grit }) => {
        grit.bands[1].fromHz = 80;
      },
      /grit\.bands\[1\]\.fromHz.*80 is not above 90/,
    ],
    [
      'more bands than there may be with the clean path',
      ({ grit }) => {
        for (let b = 0; b < 2; b++) grit.bands.push(cleanBand({ id: `more-${b}`, fromHz: 3000 + 1000 * b }));
      },
      /grit\.bands.*are 4 beside the clean path, more than 4/,
    ],
    [
      'a chain of a layer that is too long',
      ({ layers }) => {
        layers[0].chain = Array.from({ length: 5 }, (_, u) => cleanUnit('pan', { id: `pan-${u}` }));
      },
      /layers\[0\]\.chain.*5/,
    ],
  ])('%s is refused with its place', (_what, spoil, says) => {
    const sound = everywhere();
    spoil(sound);
    expect(
      findProblems(sound)
        .map(({ path, message }) => `${path}: ${message}`)
        .join('\n'),
    ).toMatch(says);
  });
});
