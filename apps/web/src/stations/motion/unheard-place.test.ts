import { cleanUnit, trenchGrowl, type SoundDocument } from '@abyssal/core';
import { whyPlaceUnheard } from './unheard-place';

function said(target: string, change: (sound: SoundDocument) => void = () => undefined) {
  const sound = structuredClone(trenchGrowl());
  change(sound);
  return whyPlaceUnheard(sound, target);
}
const DRIVE = 'units.hard-clip-1.driveDb';
const unitOf = (sound: SoundDocument) => sound.grit.bands[2].units.find(({ id }) => id === 'hard-clip-1')!;

describe('what moves a unit or a band', () => {
  it('is heard where both are', () => {
    for (const target of [
      DRIVE,
      'bands.band-3.levelDb',
      'layers.body.filters.0.cutoffHz',
      'units.gone.driveDb',
    ])
      expect(said(target)).toBeNull();
  });

  it('is not heard of a unit that is off, or of which nothing is heard', () => {
    expect(said(DRIVE, (sound) => (unitOf(sound).on = false))).toBe('Hard clip is off.');
    expect(said(DRIVE, (sound) => (unitOf(sound).wetPct = 0))).toBe(
      'Nothing of Hard clip is heard: its wet share is 0 %.',
    );
    // Its wet share is what may bring it back.
    expect(said('units.hard-clip-1.wetPct', (sound) => (unitOf(sound).wetPct = 0))).toBeNull();
    expect(
      said(DRIVE, (sound) => {
        unitOf(sound).wetPct = 0;
        sound.links[0].target = 'units.hard-clip-1.wetPct';
      }),
    ).toBeNull();
  });

  it('is not heard in a band that is muted', () => {
    const mute = (sound: SoundDocument) => {
      sound.grit.bands[2].on = false;
    };
    for (const target of [DRIVE, 'bands.band-3.levelDb'])
      expect(said(target, mute)).toBe('The band above 1.6 kHz is muted.');
    expect(said('units.tube-1.driveDb', mute)).toBeNull();
  });

  it('is not heard in a clean path that is left alone, or off', () => {
    const worked = (on: boolean, alone: boolean) =>
      said('units.tilt-1.tiltDb', (sound) => {
        Object.assign(sound.grit.cleanPath, { on, alone, units: [cleanUnit('tilt', { id: 'tilt-1' })] });
      });
    expect(worked(true, false)).toBeNull();
    expect(worked(true, true)).toBe('The clean path is left alone.');
    expect(worked(false, false)).toBe('The clean path is off.');
  });
});
