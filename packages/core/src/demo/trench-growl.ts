import {
  cleanBand,
  cleanUnit,
  cleanBody,
  cleanMover,
  cleanFilter,
  cleanLink,
  cleanNote,
  cleanSound,
  cleanSub,
  type SoundDocument,
} from '../document/index.js';

const F1 = 29;
const G1 = 31;
const GS1 = 32;
const AS1 = 34;

/** "Trench Growl" with the kick "Pier Post": a saw growl under a drawn wobble, 140 bpm, F minor. */
export function trenchGrowl(): SoundDocument {
  const sound = cleanSound('Trench Growl');
  const body = cleanBody();
  return {
    ...sound,
    author: 'Low Water',
    tags: ['growl', 'wobble'],
    seed: 14,
    ground: { tempoBpm: 140, key: 'F', scale: 'minor', bars: 2, a4Hz: 440 },
    kick: {
      ...sound.kick,
      name: 'Pier Post',
      levelDb: -5.5,
      made: {
        ...sound.kick.made,
        startHz: 310,
        startDeg: 0,
        tailHz: 43.654,
        dropMs: 58,
        dropBend: -0.75,
        holdMs: 30,
        decayMs: 300,
        decayBend: -0.2,
        clickDb: -17,
        clickHz: 3400,
        clickWidthOct: 1.6,
        clickMs: 11,
      },
      hits: [0, 960, 1920, 2880].map((tick) => ({ tick, velocity: 112 })),
    },
    layers: [
      {
        ...cleanSub(),
        levelDb: -8.5,
        loudness: { ...cleanSub().loudness, attackMs: 3, releaseMs: 24 },
        voice: { ...cleanSub().voice, glideMs: 70, velocityPct: 10 },
      },
      {
        ...body,
        levelDb: -8,
        filters: [
          cleanFilter({
            on: true,
            mode: 'low',
            slope: '24',
            cutoffHz: 150,
            resonancePct: 43.3,
            driveDb: 9,
            followPct: 40,
          }),
          body.filters[1],
        ],
        loudness: { ...body.loudness, attackMs: 3, releaseMs: 26 },
        voice: { ...body.voice, glideMs: 70, velocityPct: 35 },
      },
    ],
    movers: [
      {
        ...cleanMover('wobble'),
        name: 'Wobble 1',
        rateBeats: 1,
        smoothMs: 6,
        nodes: [
          { x: 0, y: 0.22, bend: -0.25 },
          { x: 0.3, y: 1, bend: 0.1 },
          { x: 0.62, y: 0.42, bend: -0.35 },
          { x: 1, y: 0.22, bend: 0 },
        ],
      },
      { ...cleanMover('envelope'), name: 'Snap', attackMs: 1, decayMs: 90 },
      // A rate for each note that is not tied: 1/4, 1/8, 1/8T, 1/4, 1/16, 1/8.
      { ...cleanMover('steps'), name: 'Pace', values: [0.358, 0.537, 0.642, 0.358, 0.716, 0.537] },
    ],
    macros: sound.macros.map((macro, i) => ({ ...macro, name: ['Open', 'Teeth'][i] ?? '' })),
    links: [
      cleanLink({ id: 'link-1', mover: 'wobble-1', target: 'layers.body.filters.0.cutoffHz', reachPct: 44 }),
      cleanLink({ id: 'link-2', mover: 'wobble-1', target: 'layers.body.filters.0.driveDb', reachPct: 25 }),
      cleanLink({
        id: 'link-3',
        mover: 'wobble-1',
        target: 'layers.body.filters.0.resonancePct',
        reachPct: 7.25,
      }),
      cleanLink({
        id: 'link-4',
        mover: 'envelope-1',
        target: 'layers.body.filters.0.cutoffHz',
        reachPct: 12,
      }),
      // From four beats to a twelfth of one.
      cleanLink({
        id: 'link-5',
        mover: 'steps-1',
        target: 'movers.wobble-1.rateBeats',
        fromPct: 20.86,
        reachPct: -37.4,
      }),
      cleanLink({ id: 'link-6', mover: 'macro-1', target: 'layers.body.filters.0.cutoffHz', reachPct: 22 }),
      cleanLink({ id: 'link-7', mover: 'macro-1', target: 'links.link-1.reachPct', reachPct: 4 }),
      cleanLink({ id: 'link-8', mover: 'macro-2', target: 'layers.body.filters.0.driveDb', reachPct: 40 }),
      cleanLink({
        id: 'link-9',
        mover: 'macro-2',
        target: 'layers.body.filters.0.resonancePct',
        reachPct: 12,
      }),
      cleanLink({ id: 'link-10', mover: 'wobble-1', target: 'units.phaser-1.centreHz', reachPct: 24 }),
      cleanLink({ id: 'link-11', mover: 'macro-2', target: 'units.hard-clip-1.driveDb', reachPct: 20 }),
    ],
    grit: {
      ...sound.grit,
      cleanPath: { ...sound.grit.cleanPath, on: true, frequencyHz: 90 },
      bands: [
        cleanBand({ units: [cleanUnit('soft clip', { id: 'soft-clip-1', driveDb: 11, levelDb: -5.5 })] }),
        cleanBand({
          id: 'band-2',
          fromHz: 320,
          levelDb: 3.5,
          units: [
            cleanUnit('tube', {
              id: 'tube-1',
              driveDb: 14,
              leanPct: 60,
              emphasisHz: 900,
              emphasisDb: 5,
              levelDb: -6,
            }),
            cleanUnit('phaser', {
              id: 'phaser-1',
              rateHz: 0,
              centreHz: 700,
              reachOct: 1.2,
              spreadPct: 45,
              wetPct: 55,
            }),
          ],
        }),
        cleanBand({
          id: 'band-3',
          fromHz: 1600,
          levelDb: 7,
          units: [
            cleanUnit('hard clip', { id: 'hard-clip-1', driveDb: 28, levelDb: -6 }),
            cleanUnit('compressor', {
              id: 'compressor-1',
              thresholdDb: -30,
              ratio: 4,
              attackMs: 2,
              releaseMs: 60,
              makeUpDb: 6,
            }),
            cleanUnit('chorus', { id: 'chorus-1' }),
          ],
        }),
      ],
      after: [
        cleanUnit('glare control', { id: 'glare-control-1', amountPct: 60 }),
        cleanUnit('widener', { id: 'widener-1', widthPct: 110, apartPct: 25, aboveHz: 160 }),
      ],
    },
    lock: { ...sound.lock, turnDeg: 140 },
    line: {
      notes: [
        cleanNote({ tick: 0, ticks: 720, pitch: F1, velocity: 100 }),
        cleanNote({ tick: 720, ticks: 200, pitch: F1, velocity: 127, accent: true }),
        cleanNote({ tick: 960, ticks: 820, pitch: GS1, velocity: 96 }),
        cleanNote({ tick: 1920, ticks: 460, pitch: F1, velocity: 100 }),
        cleanNote({ tick: 2400, ticks: 480, pitch: G1, velocity: 92 }),
        cleanNote({ tick: 2880, ticks: 400, pitch: AS1, velocity: 127, accent: true, tie: true }),
        cleanNote({ tick: 3360, ticks: 460, pitch: F1, velocity: 100 }),
      ],
    },
    duck: { ...sound.duck, on: false, amountDb: 8, holdMs: 25, returnMs: 140 },
    output: { levelDb: 0, ceilingDb: -1.2 },
  };
}
