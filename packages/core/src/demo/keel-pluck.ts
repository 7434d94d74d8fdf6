import {
  cleanBand,
  cleanUnit,
  cleanMover,
  cleanFilter,
  cleanLayer,
  cleanLink,
  cleanNote,
  cleanSound,
  cleanSource,
  cleanTone,
  type SoundDocument,
} from '../document/index.js';

const A1 = 33;
const C2 = 36;
const E2 = 40;
const G2 = 43;

/**
 * "Keel Pluck" with the kick "Hull Knock": one saw through a resonant ladder, accents that open it and ties
 * that glide, 126 bpm, A minor.
 */
export function keelPluck(): SoundDocument {
  const sound = cleanSound('Keel Pluck');
  const body = cleanLayer('body');
  const step = (tick: number, pitch: number, more: Partial<ReturnType<typeof cleanNote>> = {}) =>
    cleanNote({ tick, ticks: 110, pitch, velocity: 84, ...more });
  return {
    ...sound,
    author: 'Low Water',
    tags: ['pluck', 'acid'],
    seed: 3,
    ground: { tempoBpm: 126, key: 'A', scale: 'minor', bars: 1, a4Hz: 440 },
    kick: {
      ...sound.kick,
      name: 'Hull Knock',
      levelDb: -5,
      made: { ...sound.kick.made, startHz: 260, startDeg: 0, tailHz: 55, dropMs: 46, decayMs: 220 },
      hits: [0, 480, 960, 1440].map((tick) => ({ tick, velocity: 108 })),
    },
    layers: [
      {
        ...body,
        levelDb: -5,
        tones: [
          cleanTone({ on: true, source: cleanSource('shape', { shape: 'saw' }) }),
          cleanTone(),
          cleanTone(),
        ],
        filters: [
          cleanFilter({
            on: true,
            mode: 'low',
            form: 'ladder',
            slope: '24',
            cutoffHz: 190,
            resonancePct: 74,
            driveDb: 3,
            levelDb: -4,
            followPct: 60,
          }),
          body.filters[1],
        ],
        loudness: { ...body.loudness, attackMs: 2, decayMs: 340, sustainPct: 35, releaseMs: 40 },
        voice: {
          ...body.voice,
          glideMs: 70,
          velocityPct: 25,
          velocityFilterOct: 1.2,
          velocityEnvelopePct: 60,
        },
      },
    ],
    movers: [{ ...cleanMover('envelope'), name: 'Pluck', attackMs: 1, decayMs: 190, sustainPct: 0 }],
    links: [
      cleanLink({
        id: 'link-1',
        mover: 'envelope-1',
        target: 'layers.body.filters.0.cutoffHz',
        reachPct: 34,
      }),
    ],
    grit: {
      ...sound.grit,
      cleanPath: { ...sound.grit.cleanPath, on: false, frequencyHz: 90 },
      bands: [cleanBand({ units: [cleanUnit('soft clip', { id: 'soft-clip-1', driveDb: 4, levelDb: -2 })] })],
    },
    lock: { ...sound.lock, turnDeg: 60 },
    targets: { ...sound.targets, loudnessLufs: -13 },
    line: {
      notes: [
        step(0, A1, { velocity: 127, accent: true }),
        step(240, A1),
        step(360, A1 + 12, { velocity: 127, accent: true }),
        step(600, A1),
        step(720, C2),
        step(840, E2, { tie: true }),
        step(1080, A1),
        step(1200, A1, { velocity: 127, accent: true }),
        step(1440, G2),
        step(1560, E2, { tie: true }),
        step(1800, C2),
      ],
    },
  };
}
