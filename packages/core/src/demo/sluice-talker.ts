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

const F1 = 29;
const GS1 = 32;
const C2 = 36;
const DS2 = 39;

/**
 * "Sluice Talker" with the kick "Pier Post": FM of a low ratio and a voice that speaks with the wobble, 140
 * bpm, F minor.
 */
export function sluiceTalker(): SoundDocument {
  const sound = cleanSound('Sluice Talker');
  const sub = cleanLayer('sub');
  const body = cleanLayer('body');
  const edge = cleanLayer('edge');
  const fm = cleanSource('fm');
  const levels = [100, 0, 0, 0];
  const ratios = [1, 0.5, 3, 1];
  return {
    ...sound,
    author: 'Low Water',
    tags: ['fm', 'vowel', 'talking'],
    seed: 21,
    ground: { tempoBpm: 140, key: 'F', scale: 'minor', bars: 2, a4Hz: 440 },
    kick: {
      ...sound.kick,
      name: 'Pier Post',
      levelDb: -5.5,
      made: { ...sound.kick.made, startHz: 310, startDeg: 0, tailHz: 43.654, dropMs: 58, decayMs: 300 },
      hits: [0, 1920].map((tick) => ({ tick, velocity: 112 })),
    },
    layers: [
      {
        ...sub,
        levelDb: -8.5,
        loudness: { ...sub.loudness, attackMs: 4, releaseMs: 30 },
        voice: { ...sub.voice, velocityPct: 10 },
      },
      {
        ...body,
        levelDb: -9,
        tones: [
          cleanTone({
            on: true,
            source: {
              ...fm,
              oscillators: fm.oscillators.map((oscillator, i) => ({
                ...oscillator,
                ratio: ratios[i],
                levelPct: levels[i],
              })),
              matrix: [0.2, 0, 0, 0, 1.6, 0, 0, 0, 0.8, 0, 0, 0, 0, 0, 0, 0],
            },
          }),
          cleanTone(),
          cleanTone(),
        ],
        filters: [
          cleanFilter({
            on: true,
            mode: 'low',
            slope: '12',
            cutoffHz: 2400,
            resonancePct: 15,
            followPct: 40,
          }),
          body.filters[1],
        ],
        loudness: { ...body.loudness, attackMs: 4, releaseMs: 40 },
      },
      {
        ...edge,
        levelDb: -9,
        tones: [
          cleanTone({
            on: true,
            octave: 1,
            source: cleanSource('vowel', {
              way: ['u', 'ɔ', 'ɑ', 'æ', 'i'],
              positionPct: 8,
              tiltDb: 0,
              breathPct: 8,
              sizeSt: -2,
            }),
          }),
          cleanTone(),
          cleanTone(),
        ],
        filters: [cleanFilter(), cleanFilter({ on: true, mode: 'high', slope: '12', cutoffHz: 180 })],
        loudness: { ...edge.loudness, attackMs: 8, releaseMs: 50 },
      },
    ],
    movers: [
      {
        ...cleanMover('wobble'),
        name: 'Talk',
        rateBeats: 1.5,
        smoothMs: 8,
        nodes: [
          { x: 0, y: 0, bend: -0.2 },
          { x: 0.35, y: 1, bend: 0.2 },
          { x: 0.7, y: 0.3, bend: 0 },
          { x: 1, y: 0, bend: 0 },
        ],
      },
      { ...cleanMover('envelope'), name: 'Snap', attackMs: 1, decayMs: 140 },
    ],
    links: [
      cleanLink({
        id: 'link-1',
        mover: 'wobble-1',
        target: 'layers.edge.tones.0.source.vowel.positionPct',
        reachPct: 85,
      }),
      cleanLink({
        id: 'link-2',
        mover: 'wobble-1',
        target: 'layers.body.tones.0.source.fm.matrix.4',
        reachPct: 22,
      }),
      cleanLink({
        id: 'link-3',
        mover: 'envelope-1',
        target: 'layers.body.tones.0.source.fm.matrix.8',
        reachPct: 14,
      }),
      cleanLink({ id: 'link-4', mover: 'wobble-1', target: 'units.filter-1.vowelPct', reachPct: 80 }),
      cleanLink({ id: 'link-5', mover: 'wobble-1', target: 'units.hard-clip-1.driveDb', reachPct: 15 }),
    ],
    grit: {
      ...sound.grit,
      cleanPath: { ...sound.grit.cleanPath, on: true, frequencyHz: 90 },
      bands: [
        cleanBand({ units: [cleanUnit('soft clip', { id: 'soft-clip-1', driveDb: 8, levelDb: -4 })] }),
        cleanBand({
          id: 'band-2',
          fromHz: 350,
          levelDb: 6,
          units: [
            cleanUnit('sine fold', { id: 'sine-fold-1', driveDb: 12, levelDb: -6, wetPct: 70 }),
            cleanUnit('filter', { id: 'filter-1', mode: 'vowel', vowelPct: 10, wetPct: 65 }),
          ],
        }),
        cleanBand({
          id: 'band-3',
          fromHz: 1800,
          levelDb: 6,
          units: [
            cleanUnit('hard clip', { id: 'hard-clip-1', driveDb: 36, levelDb: -10 }),
            cleanUnit('unison', { id: 'unison-1', voices: 4, wetPct: 50 }),
          ],
        }),
      ],
      after: [
        cleanUnit('glare control', { id: 'glare-control-1', amountPct: 60 }),
        cleanUnit('widener', { id: 'widener-1', widthPct: 110, apartPct: 25, aboveHz: 160 }),
      ],
    },
    lock: { ...sound.lock, turnDeg: 180 },
    line: {
      notes: [
        cleanNote({ tick: 0, ticks: 900, pitch: F1 }),
        cleanNote({ tick: 960, ticks: 420, pitch: GS1, velocity: 96 }),
        cleanNote({ tick: 1440, ticks: 420, pitch: F1, velocity: 92 }),
        cleanNote({ tick: 1920, ticks: 900, pitch: F1 }),
        cleanNote({ tick: 2880, ticks: 440, pitch: C2, velocity: 100 }),
        cleanNote({ tick: 3360, ticks: 440, pitch: DS2, velocity: 127, accent: true }),
      ],
    },
  };
}
