import {
  cleanFilter,
  cleanLayer,
  cleanSource,
  cleanTone,
  MOST_LAYERS,
  MOST_UNITS,
  type Layer,
  type SoundDocument,
} from '../../document/index.js';
import { losing } from '../../figures/index.js';
import { plain } from '../../units/index.js';
import { freshUnit, tidy, withLayer, withUnitOn } from '../base/edits.js';
import type { MendKind, Way } from '../base/way.js';

/** Most that each way is turned up. */
const MOST_LEVEL_DB = 15;
const MOST_OCTAVES = 4;
const MOST_DRIVE_DB = 30;
/** A harmonic that is next to nothing, and the most of one against the lows. */
const LEAST_DB = -42;
const MOST_HARMONIC_DB = -1;
/** A layer that is added comes in from here on, up to there. */
const SOFTEST_DB = -36;
const LOUDEST_DB = 6;
const HIGHEST_CUTOFF_HZ = 20000;

const isUpper = ({ on, role }: Layer) => on && role !== 'sub' && role !== 'knock';
const isSub = ({ on, role }: Layer) => on && role === 'sub';
const followsLow = ({ on, filters }: Layer) =>
  on && filters.some((filter) => filter.on && filter.mode === 'low');

/** More of a layer above the sub. */
const more = (sound: SoundDocument, { id, name, levelDb }: Layer): Way => ({
  id: `more-${id}`,
  title: (amount) => `Raise ${name} by ${plain(MOST_LEVEL_DB * amount)} dB`,
  apply: (amount) =>
    withLayer(sound, id, (layer) => ({
      ...layer,
      levelDb: tidy(Math.min(12, levelDb + MOST_LEVEL_DB * amount)),
    })),
});

/** A layer's low-passes opened, which lets through what its tones have. */
const opened = (sound: SoundDocument, { id, name }: Layer): Way => ({
  id: `open-${id}`,
  title: (amount) => `Open ${name}’s low-pass by ${plain(MOST_OCTAVES * amount)} octaves`,
  apply: (amount) =>
    withLayer(sound, id, (layer) => ({
      ...layer,
      filters: layer.filters.map((filter) =>
        filter.on && filter.mode === 'low'
          ? {
              ...filter,
              cutoffHz: tidy(Math.min(HIGHEST_CUTOFF_HZ, filter.cutoffHz * 2 ** (MOST_OCTAVES * amount))),
            }
          : filter,
      ),
    })),
});

/** A layer's low-passes that follow the keys, so that high notes keep the harmonics that low ones have. */
const following = (sound: SoundDocument, { id, name }: Layer): Way => ({
  id: `follow-${id}`,
  title: (amount) => `Let ${name}’s low-pass follow the keys by ${plain(100 * amount, 0)} %`,
  apply: (amount) =>
    withLayer(sound, id, (layer) => ({
      ...layer,
      filters: layer.filters.map((filter) =>
        filter.on && filter.mode === 'low'
          ? { ...filter, followPct: tidy(Math.max(filter.followPct, 100 * amount), 0) }
          : filter,
      ),
    })),
});

/** The lows' own harmonics, from the second to the sixth, added at levels that fall. */
const harmonics = (sound: SoundDocument, { id, name }: Layer): Way => {
  const levelAt = (amount: number) => LEAST_DB + (MOST_HARMONIC_DB - LEAST_DB) * amount;
  return {
    id: `harmonics-${id}`,
    title: (amount) => `Add harmonics to ${name} from ${plain(levelAt(amount))} dB down`,
    apply: (amount) => {
      if (amount === 0) return sound;
      const at = levelAt(amount);
      const fallen = (n: number) => tidy(Math.max(-60, at - 2 * n));
      return withUnitOn(sound, id, 'harmonics', {
        belowHz: 130,
        secondDb: fallen(0),
        thirdDb: fallen(1),
        fourthDb: fallen(2),
        fifthDb: fallen(3),
        sixthDb: fallen(4),
      });
    },
  };
};

/** A fold of the lows by a clip: many harmonics, past the sixth. */
const driven = (sound: SoundDocument, { id, name }: Layer): Way => ({
  id: `drive-${id}`,
  title: (amount) => `Clip ${name} hard at ${plain(MOST_DRIVE_DB * amount)} dB of drive, a part of it`,
  apply: (amount) =>
    amount === 0
      ? sound
      : withUnitOn(sound, id, 'hard clip', {
          driveDb: tidy(MOST_DRIVE_DB * amount),
          levelDb: tidy(-3 * amount),
          wetPct: 50,
        }),
});

/** The lowest band above the clean path driven: more harmonics of what sounds there. */
const drivenBand = (sound: SoundDocument): Way => ({
  id: 'drive-band',
  title: (amount) => `Drive what lies above the clean path by ${plain(MOST_DRIVE_DB * amount)} dB`,
  apply: (amount) => {
    const [lowest, ...others] = sound.grit.bands;
    if (amount === 0 || lowest.units.length >= MOST_UNITS) return sound;
    const unit = freshUnit(sound, 'soft clip', {
      driveDb: tidy(MOST_DRIVE_DB * amount),
      levelDb: tidy(-0.3 * MOST_DRIVE_DB * amount),
    });
    return {
      ...sound,
      grit: { ...sound.grit, bands: [{ ...lowest, units: [...lowest.units, unit] }, ...others] },
    };
  },
});

/** A saw that plays what the sub plays, with its glides, or an octave above it; from nothing. */
const octaveLayer = (
  sound: SoundDocument,
  { name, tones, voice, drop, plays, loudness }: Layer,
  octaves: 0 | 1,
): Way => {
  const levelAt = (amount: number) => SOFTEST_DB + (LOUDEST_DB - SOFTEST_DB) * amount;
  const [{ octave, semitones, cents }] = tones;
  const id = 'carry';
  return {
    id: `octave-layer-${octaves}`,
    title: (amount) =>
      `Add a saw ${octaves === 0 ? `at ${name}’s pitch` : `an octave above ${name}`} at ${plain(levelAt(amount))} dB, without its lows`,
    apply: (amount) => {
      if (amount === 0) return sound;
      const layer = cleanLayer('body', {
        id,
        name: 'Carry',
        levelDb: tidy(levelAt(amount)),
        voice,
        drop,
        plays,
        loudness,
        tones: [
          cleanTone({
            on: true,
            octave: octave + octaves,
            semitones,
            cents,
            source: cleanSource('shape', { shape: 'saw' }),
          }),
          cleanTone(),
          cleanTone(),
        ],
        filters: [
          cleanFilter({ on: true, mode: 'low', cutoffHz: 1600, slope: '12' }),
          cleanFilter({ on: true, mode: 'high', cutoffHz: 150, slope: '24' }),
        ],
      });
      return { ...sound, layers: [...sound.layers, layer] };
    },
  };
};

/** Carries the sub upward, so that no note is lost on the systems that matter. */
export const carry: MendKind = {
  figures: ['heard'],
  ways: ({ document }) => {
    const upper = document.layers.filter(isUpper);
    const subs = document.layers.filter(isSub);
    const room = document.layers.length < MOST_LAYERS && !document.layers.some(({ id }) => id === 'carry');
    return [
      ...upper.map((layer) => more(document, layer)),
      ...upper.filter(followsLow).flatMap((layer) => [opened(document, layer), following(document, layer)]),
      ...(upper.length > 0 ? [drivenBand(document)] : []),
      ...subs.flatMap((layer) => [harmonics(document, layer), driven(document, layer)]),
      ...(room && subs.length > 0
        ? [octaveLayer(document, subs[0], 0), octaveLayer(document, subs[0], 1)]
        : []),
    ];
  },
  against: ({ document, pass }) => {
    const names = losing(document, pass).map(({ name }) => name.toLowerCase());
    return `Nothing that was tried carries every note to the ${names.join(' and the ')}: its tones have too little among their first ten harmonics that such a system plays. Try another wave for Body, or leave that system out in Ground.`;
  },
};
