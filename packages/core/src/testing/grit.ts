import { cleanBand, cleanUnit, type SoundDocument } from '../document/index.js';

/** The target of what `clipWith` sets. */
export const CLIP_DRIVE = 'units.soft-clip-1.driveDb';

/** Leaves nothing but a soft clip in the only band. */
export function clipWith(sound: SoundDocument, driveDb: number, levelDb: number): void {
  sound.grit.bands = [
    cleanBand({ units: [cleanUnit('soft clip', { id: 'soft-clip-1', driveDb, levelDb })] }),
  ];
  sound.grit.after = [];
}

/** Leaves no unit at all. */
export function withoutUnits(sound: SoundDocument): void {
  sound.grit.bands = [cleanBand()];
  sound.grit.after = [];
}

/** The soft clip that `clipWith`, or a sound from clean, has. */
export const clipOf = (sound: SoundDocument) => {
  const [unit] = sound.grit.bands[0].units;
  if (unit.kind !== 'soft clip') throw new TypeError('the first unit is no soft clip');
  return unit;
};
