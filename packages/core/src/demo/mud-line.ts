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

const G1 = 31;
const AS1 = 34;
const F1 = 29;
const SIXTEENTH = 120;
/** How long each of them is held, in ticks. */
const HELD = 100;
/** The pitch of each sixteenth of the two bars. */
const LINE = [
  G1,
  G1,
  G1,
  G1,
  G1,
  G1,
  G1,
  G1,
  G1,
  G1,
  G1,
  G1,
  G1,
  G1,
  AS1,
  AS1,
  G1,
  G1,
  G1,
  G1,
  G1,
  G1,
  G1,
  G1,
  F1,
  F1,
  F1,
  F1,
  F1,
  F1,
  G1,
  G1,
];

/**
 * "Mud Line" with the kick "Hull Knock": rolling sixteenths, 128 bpm, G minor; the kick is a little out of
 * tune and out of phase, as found.
 */
export function mudLine(): SoundDocument {
  const sound = cleanSound('Mud Line');
  const sub = cleanSub();
  const body = cleanBody();
  return {
    ...sound,
    author: 'Low Water',
    tags: ['rolling', 'four to the floor'],
    seed: 41,
    ground: { tempoBpm: 128, key: 'G', scale: 'minor', bars: 2, a4Hz: 440 },
    kick: {
      ...sound.kick,
      name: 'Hull Knock',
      levelDb: -5,
      made: {
        ...sound.kick.made,
        startHz: 290,
        kneeHz: 74,
        tailHz: 47.7,
        dropMs: 26,
        dropBend: -0.6,
        settleMs: 40,
        settleBend: -0.5,
        startDeg: 100,
        holdMs: 55,
        decayMs: 190,
        decayBend: -0.15,
        driveDb: 3,
        clickDb: -19,
        clickHz: 2600,
        clickWidthOct: 1.8,
        clickMs: 9,
      },
      hits: Array.from({ length: 8 }, (_, beat) => ({ tick: 480 * beat, velocity: 116 })),
    },
    layers: [
      {
        ...sub,
        levelDb: -9,
        loudness: { ...sub.loudness, attackMs: 3, releaseMs: 14 },
        voice: { ...sub.voice, velocityPct: 0 },
      },
      {
        ...body,
        levelDb: -12,
        filters: [
          cleanFilter({
            on: true,
            mode: 'low',
            slope: '24',
            cutoffHz: 320,
            resonancePct: 30,
            driveDb: 6,
            followPct: 50,
          }),
          body.filters[1],
        ],
        loudness: { ...body.loudness, attackMs: 4, decayMs: 150, sustainPct: 70, releaseMs: 16 },
      },
    ],
    movers: [
      { ...cleanMover('wobble'), rateBeats: 4 },
      { ...cleanMover('envelope'), name: 'Pluck', attackMs: 1, decayMs: 80 },
    ],
    links: [
      cleanLink({
        id: 'link-1',
        mover: 'envelope-1',
        target: 'layers.body.filters.0.cutoffHz',
        reachPct: 26,
      }),
      cleanLink({ id: 'link-2', mover: 'wobble-1', target: 'layers.body.filters.0.cutoffHz', reachPct: 14 }),
    ],
    grit: {
      ...sound.grit,
      cleanPath: { ...sound.grit.cleanPath, on: true, frequencyHz: 90 },
      bands: [
        cleanBand({
          units: [
            cleanUnit('soft clip', { id: 'soft-clip-1', driveDb: 8, levelDb: -4 }),
            cleanUnit('tilt', { id: 'tilt-1', tiltDb: 9, pivotHz: 200 }),
            cleanUnit('tube', { id: 'tube-1', driveDb: 14, leanPct: 70, levelDb: -5, wetPct: 80 }),
          ],
        }),
      ],
    },
    lock: { ...sound.lock, turnDeg: 99 },
    line: {
      notes: LINE.map((pitch, step) =>
        cleanNote({
          tick: SIXTEENTH * step,
          ticks: HELD,
          pitch,
          velocity: step % 4 === 0 ? 104 : step % 4 === 2 ? 112 : 92,
        }),
      ),
    },
    output: { levelDb: -1, ceilingDb: -1.2 },
  };
}
