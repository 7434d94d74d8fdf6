import {
  cleanBand,
  cleanBody,
  cleanFilter,
  cleanLayer,
  cleanLink,
  cleanMover,
  cleanNote,
  cleanSound,
  cleanSource,
  cleanSub,
  cleanTone,
  cleanUnit,
  type SoundDocument,
} from '../document/index.js';

const F1 = 29;
const AS1 = 34;
const C2 = 36;

/**
 * "Hollow Pier" with the kick "Long Ballast": a hollow bass of odd harmonics, widened above 125 Hz, with the
 * wobble after the distortion, 140 bpm, F minor.
 */
export function hollowPier(): SoundDocument {
  const sound = cleanSound('Hollow Pier');
  const sub = cleanSub();
  const body = cleanBody();
  return {
    ...sound,
    author: 'Low Water',
    tags: ['hollow', 'wobble', 'wide'],
    seed: 57,
    ground: { tempoBpm: 140, key: 'F', scale: 'minor', bars: 2, a4Hz: 440 },
    kick: {
      ...sound.kick,
      name: 'Long Ballast',
      levelDb: -5,
      made: {
        ...sound.kick.made,
        startHz: 240,
        startDeg: 0,
        tailHz: 43.654,
        dropMs: 44,
        dropBend: -0.7,
        holdMs: 40,
        decayMs: 380,
        decayBend: -0.25,
        clickDb: -22,
        clickHz: 2100,
        clickWidthOct: 1.8,
        clickMs: 9,
      },
      hits: [0, 1920].map((tick) => ({ tick, velocity: 114 })),
    },
    layers: [
      {
        ...sub,
        levelDb: -8.5,
        loudness: { ...sub.loudness, attackMs: 4, releaseMs: 30 },
        voice: { ...sub.voice, velocityPct: 0 },
      },
      {
        ...body,
        levelDb: -10,
        tones: [
          cleanTone({
            on: true,
            copies: 3,
            detuneCents: 7,
            spreadPct: 45,
            source: cleanSource('shape', { shape: 'square' }),
          }),
          cleanTone({
            on: true,
            octave: 1,
            levelDb: -8,
            source: cleanSource('shape', { shape: 'triangle' }),
          }),
          cleanTone(),
        ],
        filters: [cleanFilter(), cleanFilter({ on: true, mode: 'high', slope: '24', cutoffHz: 120 })],
        loudness: { ...body.loudness, attackMs: 4, releaseMs: 45 },
      },
      {
        ...cleanLayer('knock'),
        levelDb: -18,
        tones: [
          cleanTone({ on: true, octave: 2, source: cleanSource('noise', { colour: 'pink' }) }),
          cleanTone(),
          cleanTone(),
        ],
        loudness: { ...body.loudness, attackMs: 1, decayMs: 60, sustainPct: 0, releaseMs: 20 },
        chain: [
          cleanUnit('compressor', {
            id: 'compressor-1',
            thresholdDb: -24,
            ratio: 3,
            attackMs: 4,
            releaseMs: 80,
          }),
        ],
      },
    ],
    movers: [
      {
        ...cleanMover('wobble'),
        name: 'Swell',
        rateBeats: 1,
        smoothMs: 6,
        nodes: [
          { x: 0, y: 0.05, bend: -0.2 },
          { x: 0.4, y: 1, bend: 0.2 },
          { x: 1, y: 0.05, bend: 0 },
        ],
      },
      { ...cleanMover('envelope'), name: 'Snap', attackMs: 1, decayMs: 110 },
    ],
    links: [
      // The wobble comes after the distortion: it opens what the tube has made.
      cleanLink({ id: 'link-1', mover: 'wobble-1', target: 'units.filter-1.cutoffHz', reachPct: 42 }),
      cleanLink({ id: 'link-2', mover: 'wobble-1', target: 'units.filter-2.cutoffHz', reachPct: 40 }),
      cleanLink({ id: 'link-3', mover: 'envelope-1', target: 'units.filter-2.cutoffHz', reachPct: 14 }),
    ],
    grit: {
      ...sound.grit,
      cleanPath: { ...sound.grit.cleanPath, on: true, frequencyHz: 90 },
      bands: [
        cleanBand({
          units: [
            cleanUnit('tube', { id: 'tube-1', driveDb: 12, leanPct: 20, levelDb: -6 }),
            cleanUnit('filter', {
              id: 'filter-1',
              mode: 'low',
              slope: '24',
              cutoffHz: 260,
              resonancePct: 30,
            }),
          ],
        }),
        cleanBand({
          id: 'band-2',
          fromHz: 700,
          levelDb: 3,
          units: [
            cleanUnit('fold', { id: 'fold-1', driveDb: 10, levelDb: -8 }),
            cleanUnit('combs', { id: 'combs-1', wetPct: 30 }),
            cleanUnit('filter', {
              id: 'filter-2',
              mode: 'low',
              slope: '24',
              cutoffHz: 320,
              resonancePct: 40,
            }),
          ],
        }),
      ],
      after: [cleanUnit('widener', { id: 'widener-1', widthPct: 130, apartPct: 40, aboveHz: 125 })],
    },
    lock: { ...sound.lock, turnDeg: -108 },
    line: {
      notes: [
        cleanNote({ tick: 0, ticks: 940, pitch: F1 }),
        cleanNote({ tick: 960, ticks: 440, pitch: F1, velocity: 118, accent: true }),
        cleanNote({ tick: 1440, ticks: 460, pitch: AS1, velocity: 96 }),
        cleanNote({ tick: 1920, ticks: 940, pitch: F1 }),
        cleanNote({ tick: 2880, ticks: 700, pitch: C2, velocity: 104 }),
        cleanNote({ tick: 3600, ticks: 220, pitch: F1, velocity: 122, accent: true }),
      ],
    },
    output: { levelDb: 0, ceilingDb: -1.2 },
  };
}
