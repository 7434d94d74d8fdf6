import {
  cleanBand,
  cleanUnit,
  cleanBody,
  cleanMover,
  cleanFilter,
  cleanLink,
  cleanNote,
  cleanSound,
  cleanSource,
  cleanSub,
  cleanTone,
  type SoundDocument,
} from '../document/index.js';

const D1 = 26;
const F1 = 29;
const A1 = 33;
const C2 = 36;

/**
 * "Slack Water" with the kick "Long Ballast": a long gliding sub under a breath of triangle, 140 bpm, D
 * minor.
 */
export function slackWater(): SoundDocument {
  const sound = cleanSound('Slack Water');
  const sub = cleanSub();
  const body = cleanBody();
  return {
    ...sound,
    author: 'Low Water',
    tags: ['sub', 'glide'],
    seed: 5,
    ground: { tempoBpm: 140, key: 'D', scale: 'minor', bars: 4, a4Hz: 440 },
    kick: {
      ...sound.kick,
      name: 'Long Ballast',
      levelDb: -6,
      made: {
        ...sound.kick.made,
        startHz: 190,
        startDeg: 0,
        tailHz: 36.708,
        dropMs: 110,
        dropBend: -0.8,
        holdMs: 60,
        decayMs: 620,
        decayBend: -0.35,
        clickDb: -24,
        clickHz: 2100,
        clickWidthOct: 2,
        clickMs: 16,
      },
      hits: [0, 1920, 3840, 5760].map((tick) => ({ tick, velocity: 108 })),
    },
    layers: [
      {
        ...sub,
        levelDb: -6,
        loudness: { ...sub.loudness, attackMs: 8, decayMs: 900, sustainPct: 86, releaseMs: 60 },
        voice: { ...sub.voice, glideMs: 180, glide: 'ties', velocityPct: 15 },
      },
      {
        ...body,
        levelDb: -13,
        tones: [
          cleanTone({
            on: true,
            copies: 5,
            detuneCents: 9,
            spreadPct: 70,
            octave: 1,
            source: cleanSource('shape', { shape: 'triangle' }),
          }),
          cleanTone(),
          cleanTone(),
        ],
        filters: [
          cleanFilter({
            on: true,
            mode: 'low',
            slope: '12',
            cutoffHz: 340,
            resonancePct: 11,
            driveDb: 5,
            followPct: 60,
          }),
          body.filters[1],
        ],
        loudness: { ...body.loudness, attackMs: 30, decayMs: 1200, sustainPct: 70, releaseMs: 120 },
        voice: { ...body.voice, glideMs: 180, glide: 'ties', velocityPct: 40 },
      },
    ],
    movers: [
      {
        ...cleanMover('wobble'),
        name: 'Tide',
        rateBeats: 3,
        restart: 'note',
        smoothMs: 20,
        nodes: [
          { x: 0, y: 0, bend: 0.2 },
          { x: 0.55, y: 1, bend: -0.3 },
          { x: 1, y: 0, bend: 0 },
        ],
      },
      { ...cleanMover('envelope'), name: 'Swell', attackMs: 400, decayMs: 900, sustainPct: 30 },
    ],
    links: [
      cleanLink({ id: 'link-1', mover: 'wobble-1', target: 'layers.body.filters.0.cutoffHz', reachPct: 22 }),
      cleanLink({ id: 'link-2', mover: 'envelope-1', target: 'layers.body.levelDb', reachPct: 6 }),
    ],
    grit: {
      ...sound.grit,
      cleanPath: { ...sound.grit.cleanPath, on: true, frequencyHz: 100 },
      bands: [cleanBand({ units: [cleanUnit('soft clip', { id: 'soft-clip-1', driveDb: 5, levelDb: -2 })] })],
    },
    line: {
      notes: [
        cleanNote({ tick: 0, ticks: 1440, pitch: D1, velocity: 104 }),
        cleanNote({ tick: 1440, ticks: 480, pitch: F1, velocity: 96, tie: true }),
        cleanNote({ tick: 1920, ticks: 1680, pitch: D1, velocity: 104 }),
        cleanNote({ tick: 3840, ticks: 1200, pitch: D1, velocity: 104 }),
        cleanNote({ tick: 5040, ticks: 720, pitch: A1, velocity: 92, tie: true }),
        cleanNote({ tick: 5760, ticks: 1200, pitch: D1, velocity: 104 }),
        cleanNote({ tick: 6960, ticks: 600, pitch: C2, velocity: 88, tie: true }),
      ],
    },
    lock: { ...sound.lock, turnDeg: -176 },
    duck: { ...sound.duck, on: true, amountDb: 3, holdMs: 40, returnMs: 220 },
    targets: { ...sound.targets, loudnessLufs: -12, evennessDb: 2.5 },
  };
}
