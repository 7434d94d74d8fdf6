import {
  cleanBand,
  cleanUnit,
  cleanFilter,
  cleanLayer,
  cleanLink,
  cleanNote,
  cleanSound,
  cleanSource,
  cleanTone,
  type SoundDocument,
} from '../document/index.js';

const E1 = 28;
const G1 = 31;
const B1 = 35;
const C2 = 36;

/**
 * "Ebb Drift" with the kick "Pier Post": a wide stack of detuned saws that drift, over a plain sub, 174 bpm,
 * E minor.
 */
export function ebbDrift(): SoundDocument {
  const sound = cleanSound('Ebb Drift');
  const sub = cleanLayer('sub');
  const body = cleanLayer('body');
  const edge = cleanLayer('edge');
  return {
    ...sound,
    author: 'Low Water',
    tags: ['detuned', 'drone'],
    seed: 8,
    ground: { tempoBpm: 174, key: 'E', scale: 'minor', bars: 2, a4Hz: 440 },
    kick: {
      ...sound.kick,
      name: 'Pier Post',
      levelDb: -5,
      made: {
        ...sound.kick.made,
        startHz: 320,
        startDeg: 0,
        tailHz: 41.203,
        dropMs: 52,
        dropBend: -0.75,
        holdMs: 24,
        decayMs: 180,
      },
      hits: [0, 1200, 1920, 3120].map((tick) => ({ tick, velocity: 112 })),
    },
    layers: [
      {
        ...sub,
        levelDb: -8,
        loudness: { ...sub.loudness, attackMs: 4, releaseMs: 40 },
        voice: { ...sub.voice, velocityPct: 10 },
      },
      {
        ...body,
        levelDb: -11,
        tones: [
          cleanTone({
            on: true,
            copies: 7,
            detuneCents: 16,
            detuneLaw: 'inward',
            driftCents: 4,
            driftHz: 0.3,
            spreadPct: 60,
            source: cleanSource('shape'),
          }),
          cleanTone({
            on: true,
            octave: 1,
            copies: 3,
            detuneCents: 9,
            spreadPct: 80,
            levelDb: -9,
            source: cleanSource('shape'),
          }),
          cleanTone(),
        ],
        filters: [
          cleanFilter({
            on: true,
            mode: 'low',
            form: 'ladder',
            cutoffHz: 520,
            resonancePct: 20,
            driveDb: 4,
            followPct: 50,
          }),
          body.filters[1],
        ],
        loudness: { ...body.loudness, attackMs: 6, releaseMs: 90 },
        voice: { ...body.voice, velocityPct: 30 },
      },
      {
        ...edge,
        levelDb: -22,
        tones: [
          cleanTone({
            on: true,
            octave: 2,
            source: cleanSource('frames', { table: 'tide noise', positionPct: 40 }),
          }),
          cleanTone(),
          cleanTone(),
        ],
        filters: [
          cleanFilter({ on: true, mode: 'band', slope: '12', cutoffHz: 2400, widthOct: 1.2 }),
          edge.filters[1],
        ],
        loudness: { ...edge.loudness, attackMs: 30, releaseMs: 120 },
      },
    ],
    links: [
      cleanLink({ id: 'link-1', mover: 'wobble-1', target: 'layers.body.filters.0.cutoffHz', reachPct: 24 }),
      cleanLink({
        id: 'link-2',
        mover: 'wobble-1',
        target: 'layers.edge.tones.0.source.frames.positionPct',
        reachPct: 45,
      }),
    ],
    grit: {
      ...sound.grit,
      cleanPath: { ...sound.grit.cleanPath, on: true, frequencyHz: 95 },
      bands: [cleanBand({ units: [cleanUnit('soft clip', { id: 'soft-clip-1', driveDb: 6, levelDb: -3 })] })],
    },
    line: {
      notes: [
        cleanNote({ tick: 0, ticks: 1080, pitch: E1 }),
        cleanNote({ tick: 1200, ticks: 640, pitch: E1, velocity: 88 }),
        cleanNote({ tick: 1920, ticks: 900, pitch: G1 }),
        cleanNote({ tick: 2880, ticks: 440, pitch: B1, velocity: 92 }),
        cleanNote({ tick: 3360, ticks: 440, pitch: C2, velocity: 110 }),
      ],
    },
    lock: { ...sound.lock, turnDeg: 60 },
    targets: { ...sound.targets, loudnessLufs: -12 },
  };
}
