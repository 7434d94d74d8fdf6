import { produce } from 'immer';
import {
  cleanLink,
  cleanUnit,
  findProblems,
  MOST_UNITS,
  unitById,
  type SoundDocument,
  type UnitPlace,
} from '@abyssal/core';
import { plainGrowl } from '../testing/plain-growl';
import { linkTarget, pathOf, rowId } from './path';
import {
  addUnit,
  addUnits,
  copyUnit,
  moveUnit,
  noRoom,
  removeUnit,
  replaced,
  replaceUnit,
  setChain,
} from './unit-edits';
import { chainAt } from './path';

const AFTER: UnitPlace = { in: 'after' };
const BODY: UnitPlace = { in: 'layer', id: 'body' };
const band = ({ grit }: SoundDocument, index = 0): UnitPlace => ({ in: 'band', id: grit.bands[index].id });

/** A sound with three units behind the sum, a link on the second. */
function withUnits(): SoundDocument {
  const sound = plainGrowl();
  for (const kind of ['tube', 'compressor', 'tilt'] as const) addUnit(sound, AFTER, kind);
  sound.links.push(cleanLink({ id: 'on-tube', mover: 'wobble-1', target: 'units.tube-1.driveDb' }));
  return sound;
}
const idsAt = (sound: SoundDocument, place: UnitPlace) => chainAt(sound, place).map(({ id }) => id);

describe('edits of units', () => {
  it('new ones have ids of their own wherever they stand', () => {
    const sound = withUnits();
    expect(idsAt(sound, AFTER)).toEqual(['tube-1', 'compressor-1', 'tilt-1']);
    expect(addUnit(sound, BODY, 'tube')).toBe('tube-2');
    expect(addUnit(sound, band(sound), 'tube', 0)).toBe('tube-3');
    expect(idsAt(sound, band(sound))[0]).toBe('tube-3');
    expect(findProblems(sound)).toEqual([]);
  });

  it('a link follows its unit into another chain', () => {
    const sound = withUnits();
    moveUnit(sound, 'tube-1', band(sound), 0);
    expect(idsAt(sound, AFTER)).toEqual(['compressor-1', 'tilt-1']);
    expect(idsAt(sound, band(sound))[0]).toBe('tube-1');
    expect(sound.links.map(({ id }) => id)).toContain('on-tube');
    expect(findProblems(sound)).toEqual([]);
    moveUnit(sound, 'tube-1', BODY, 7);
    expect(idsAt(sound, BODY)).toEqual(['tube-1']);
  });

  it('within a chain a unit goes to the place that is asked for', () => {
    const sound = withUnits();
    moveUnit(sound, 'tube-1', AFTER, 2);
    expect(idsAt(sound, AFTER)).toEqual(['compressor-1', 'tilt-1', 'tube-1']);
    moveUnit(sound, 'tube-1', AFTER, 0);
    expect(idsAt(sound, AFTER)).toEqual(['tube-1', 'compressor-1', 'tilt-1']);
  });

  it('a full chain takes no more, and says so', () => {
    const sound = withUnits();
    for (let n = 0; n < 4; n++) addUnit(sound, BODY, 'pan');
    expect(noRoom(sound, BODY)).toBe('A chain of a layer takes 4 units. Remove one first.');
    moveUnit(sound, 'tube-1', BODY, 0);
    expect(idsAt(sound, AFTER)).toContain('tube-1');
    expect(noRoom(sound, AFTER)).toBeNull();
    expect(noRoom(sound, AFTER, MOST_UNITS)).toMatch(/takes 8 units/);
  });

  it('a copy takes the links along, and what is removed takes them out', () => {
    const sound = withUnits();
    expect(copyUnit(sound, 'tube-1')).toBe('tube-2');
    expect(idsAt(sound, AFTER).slice(0, 2)).toEqual(['tube-1', 'tube-2']);
    expect(sound.links.filter(({ target }) => target === 'units.tube-2.driveDb')).toHaveLength(1);
    removeUnit(sound, 'tube-1');
    expect(sound.links.map(({ id }) => id)).not.toContain('on-tube');
    expect(findProblems(sound)).toEqual([]);
  });

  it('another kind keeps what both have, held to its bounds, and the links to it', () => {
    const sound = withUnits();
    Object.assign(unitById(sound, 'tube-1')!.unit, {
      driveDb: 21,
      emphasis: 'tilt',
      wetPct: 40,
      locked: true,
    });
    replaceUnit(sound, 'tube-1', 'fold');
    expect(unitById(sound, 'tube-1')!.unit).toMatchObject({
      kind: 'fold',
      id: 'tube-1',
      driveDb: 21,
      emphasis: 'tilt',
      wetPct: 40,
      locked: true,
    });
    expect(sound.links.map(({ id }) => id)).toContain('on-tube');
    replaceUnit(sound, 'tube-1', 'pan');
    expect(sound.links.map(({ id }) => id)).not.toContain('on-tube');
    expect(findProblems(sound)).toEqual([]);
    const limiter = replaced(cleanUnit('compressor', { id: 'x', releaseMs: 2000 }), 'limiter');
    expect(findProblems({ ...sound, grit: { ...sound.grit, after: [limiter] } })).toEqual([]);
  });

  it('a unit that leaves the bands hears no band any more', () => {
    const sound = withUnits();
    const id = addUnit(sound, band(sound), 'compare');
    Object.assign(unitById(sound, id)!.unit, { with: sound.grit.bands[0].id });
    expect(findProblems(sound)).toEqual([]);
    moveUnit(sound, id, AFTER, 0);
    expect(unitById(sound, id)!.unit).toMatchObject({ with: 'level' });
    expect(findProblems(sound)).toEqual([]);
  });

  it('another chain leaves locked units where they are, with their links, and names the others anew', () => {
    const sound = withUnits();
    Object.assign(unitById(sound, 'tube-1')!.unit, { locked: true });
    const other = [
      cleanUnit('compressor', { id: 'compressor-1' }),
      { ...unitById(sound, 'tube-1')!.unit },
      cleanUnit('tube', { id: 'tube-9' }),
    ];
    sound.links.push(cleanLink({ id: 'gone', mover: 'wobble-1', target: 'units.tilt-1.tiltDb' }));
    setChain(sound, AFTER, other);
    expect(chainAt(sound, AFTER).map(({ kind }) => kind)).toEqual(['compressor', 'tube', 'tube']);
    expect(idsAt(sound, AFTER)[1]).toBe('tube-1');
    expect(sound.links.map(({ id }) => id)).toContain('on-tube');
    expect(sound.links.map(({ id }) => id)).not.toContain('gone');
    expect(findProblems(sound)).toEqual([]);
  });

  it('units of another sound that come along have ids that are free', () => {
    const sound = withUnits();
    const ids = addUnits(sound, BODY, [
      cleanUnit('tube', { id: 'tube-1' }),
      cleanUnit('pan', { id: 'far-away' }),
    ]);
    expect([...ids]).toEqual([
      ['tube-1', 'tube-2'],
      ['far-away', 'far-away'],
    ]);
    expect(findProblems(sound)).toEqual([]);
  });
});

describe('edits of a draft, as the page makes them', () => {
  it.each<[string, (sound: SoundDocument) => void]>([
    ['a copy', (sound) => void copyUnit(sound, 'tube-1')],
    [
      'a move',
      (sound) => {
        moveUnit(sound, 'tube-1', band(sound), 0);
      },
    ],
    [
      'another kind',
      (sound) => {
        replaceUnit(sound, 'tube-1', 'fold');
      },
    ],
    [
      'another chain',
      (sound) => {
        setChain(sound, AFTER, [cleanUnit('fold', { id: 'fold-1' })]);
      },
    ],
    ['units that come along', (sound) => void addUnits(sound, BODY, chainAt(sound, AFTER).slice(0, 2))],
  ])('%s comes to the same as of a sound by itself', (_what, recipe) => {
    const alone = withUnits();
    recipe(alone);
    expect(produce(withUnits(), recipe)).toEqual(alone);
  });
});

describe('the numbers of units and bands', () => {
  it('are known by the ids of what they belong to, wherever that stands', () => {
    const sound = withUnits();
    const path = ['grit', 'after', 0, 'driveDb'];
    expect(rowId(sound, path)).toBe('units.*.tube.driveDb');
    expect(linkTarget(sound, path)).toBe('units.tube-1.driveDb');
    expect(pathOf(sound, 'units.tube-1.driveDb')).toEqual(path);
    const own = ['layers', 1, 'chain', 0, 'sections', 3, 'hz'];
    const id = addUnit(sound, { in: 'layer', id: sound.layers[1].id }, 'equaliser');
    expect(rowId(sound, own)).toBe('units.*.equaliser.sections.*.hz');
    expect(linkTarget(sound, own)).toBe(`units.${id}.sections.3.hz`);
    expect(pathOf(sound, `units.${id}.sections.3.hz`)).toEqual(own);
    const level = ['grit', 'bands', 0, 'levelDb'];
    expect(rowId(sound, level)).toBe('grit.bands.*.levelDb');
    expect(linkTarget(sound, level)).toBe(`bands.${sound.grit.bands[0].id}.levelDb`);
    expect(pathOf(sound, linkTarget(sound, level))).toEqual(level);
    expect(pathOf(sound, 'units.gone.driveDb')).toBeNull();
    expect(pathOf(sound, 'bands.gone.levelDb')).toBeNull();
  });
});
