import { findProblems, MOST_BANDS, type SoundDocument } from '@abyssal/core';
import { plainGrowl } from '../testing/plain-growl';
import { noBand, partBand, removeBand, roomFor, setCleanPath, setFrom, toggleCleanPath } from './band-edits';
import { bandSolo, CLEAN_SOLO, soloed } from './solo';
import { addUnit } from './unit-edits';

/** A sound whose clean path ends at 90 Hz, with three bands above it. */
function ofThree(): SoundDocument {
  const sound = plainGrowl();
  partBand(sound, 0);
  partBand(sound, 1);
  return sound;
}
const froms = ({ grit }: SoundDocument) => grit.bands.slice(1).map(({ fromHz }) => fromHz);

describe('edits of bands', () => {
  it('a band is parted in its middle until there are as many as a sound takes', () => {
    const sound = ofThree();
    const [first, second] = froms(sound);
    expect(first).toBeGreaterThan(sound.grit.cleanPath.frequencyHz);
    expect(second).toBeGreaterThan(first);
    expect(sound.grit.bands.map(({ id }) => id)).toEqual([...new Set(sound.grit.bands.map(({ id }) => id))]);
    expect(sound.grit.bands.length + 1).toBe(MOST_BANDS);
    expect(noBand(sound)).toMatch(/as many as a sound takes/);
    expect(findProblems(sound)).toEqual([]);
  });

  it('crossovers are held between their neighbours', () => {
    const sound = ofThree();
    const [least, most] = roomFor(sound, 1);
    setFrom(sound, 1, 20000);
    expect(sound.grit.bands[1].fromHz).toBeCloseTo(most, 6);
    expect(most).toBeLessThan(sound.grit.bands[2].fromHz);
    setFrom(sound, 1, 20);
    expect(sound.grit.bands[1].fromHz).toBeCloseTo(least, 6);
    expect(least).toBeGreaterThan(sound.grit.cleanPath.frequencyHz);
    setCleanPath(sound, 250);
    expect(sound.grit.cleanPath.frequencyHz).toBeLessThan(sound.grit.bands[1].fromHz);
    expect(findProblems(sound)).toEqual([]);
  });

  it('one that is removed takes its links with it', () => {
    const sound = ofThree();
    const { id } = sound.grit.bands[2];
    sound.links.push({ ...sound.links[0], id: 'level', target: `bands.${id}.levelDb` });
    expect(findProblems(sound)).toEqual([]);
    removeBand(sound, id);
    expect(sound.links.map((link) => link.id)).not.toContain('level');
    expect(findProblems(sound)).toEqual([]);
  });

  it('the clean path comes back only where there is room for it', () => {
    const sound = ofThree();
    expect(toggleCleanPath(sound)).toBeNull();
    expect(sound.grit.cleanPath.on).toBe(false);
    partBand(sound, 2);
    expect(findProblems(sound)).toEqual([]);
    expect(toggleCleanPath(sound)).toMatch(/Remove one/);
    expect(sound.grit.cleanPath.on).toBe(false);
    removeBand(sound, sound.grit.bands[3].id);
    expect(toggleCleanPath(sound)).toBeNull();
    expect(findProblems(sound)).toEqual([]);
  });
});

describe('bands that are listened to alone', () => {
  it('silence the others and the clean path, and change no unit', () => {
    const sound = ofThree();
    addUnit(sound, { in: 'band', id: sound.grit.bands[1].id }, 'tube');
    expect(soloed(sound, ['band gone'])).toBe(sound);
    const { grit } = soloed(sound, [bandSolo(sound.grit.bands[1].id)]);
    expect(grit.bands.map(({ on }) => on)).toEqual([false, true, false]);
    expect(grit.bands[1]).toBe(sound.grit.bands[1]);
    expect(grit.cleanPath.levelDb).toBeLessThan(-100);
    const clean = soloed(sound, [CLEAN_SOLO]).grit;
    expect(clean.cleanPath).toBe(sound.grit.cleanPath);
    expect(clean.bands.some(({ on }) => on)).toBe(false);
  });
});
