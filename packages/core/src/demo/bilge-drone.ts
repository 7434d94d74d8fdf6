import {
  cleanBand,
  cleanUnit,
  cleanBody,
  cleanMover,
  cleanFilter,
  cleanLayer,
  cleanLink,
  cleanNote,
  cleanSound,
  cleanSource,
  cleanSub,
  cleanTone,
  type SoundDocument,
} from '../document/index.js';

const C1 = 24;
const BEAT = 480;

/**
 * "Bilge Drone" with the kick "Stray Buoy": a held drone, 100 bpm, C minor, over a kick that ends on another
 * key, as found: the two beat and never lock. Each note begins with a dive and ends in a rise.
 */
export function bilgeDrone(): SoundDocument {
  const sound = cleanSound('Bilge Drone');
  const sub = cleanSub();
  const body = cleanBody();
  return {
    ...sound,
    author: 'Low Water',
    tags: ['drone', 'held'],
    seed: 23,
    ground: { tempoBpm: 100, key: 'C', scale: 'minor', bars: 2, a4Hz: 440 },
    kick: {
      ...sound.kick,
      name: 'Stray Buoy',
      levelDb: -4.5,
      made: {
        ...sound.kick.made,
        startHz: 260,
        kneeHz: 80,
        tailHz: 41.5,
        dropMs: 24,
        dropBend: -0.6,
        settleMs: 30,
        settleBend: -0.5,
        startDeg: -30,
        holdMs: 45,
        decayMs: 340,
        decayBend: -0.3,
        driveDb: 2,
        clickDb: -20,
        clickHz: 2400,
        clickWidthOct: 1.6,
        clickMs: 8,
      },
      hits: Array.from({ length: 8 }, (_, beat) => ({ tick: BEAT * beat, velocity: 112 })),
    },
    layers: [
      {
        ...sub,
        levelDb: -8,
        loudness: { ...sub.loudness, attackMs: 6, releaseMs: 60 },
        voice: { ...sub.voice, velocityPct: 0 },
      },
      {
        ...body,
        levelDb: -9,
        tones: [
          cleanTone({
            on: true,
            copies: 3,
            detuneCents: 6,
            spreadPct: 60,
            source: cleanSource('shape', { shape: 'saw' }),
          }),
          cleanTone(),
          cleanTone(),
        ],
        filters: [
          cleanFilter({
            on: true,
            mode: 'low',
            slope: '24',
            cutoffHz: 280,
            resonancePct: 25,
            driveDb: 6,
            followPct: 50,
          }),
          body.filters[1],
        ],
        loudness: { ...body.loudness, attackMs: 40, releaseMs: 90 },
      },
      {
        ...cleanLayer('edge'),
        levelDb: -20,
        tones: [
          cleanTone({ on: true, octave: 2, source: cleanSource('vowel', { way: ['u', 'ɑ'] }) }),
          cleanTone(),
          cleanTone(),
        ],
        loudness: { ...body.loudness, attackMs: 120, releaseMs: 120 },
      },
      {
        // A dive: three octaves down to the note, by the pitch alone.
        ...cleanLayer('edge', { id: 'dive', name: 'Dive' }),
        levelDb: -23,
        tones: [
          cleanTone({ on: true, octave: 3, source: cleanSource('shape', { shape: 'triangle' }) }),
          cleanTone(),
          cleanTone(),
        ],
        drop: { semitones: 36, timeMs: 1600, bend: -0.4 },
        loudness: {
          ...body.loudness,
          attackMs: 4,
          holdMs: 500,
          decayMs: 1100,
          sustainPct: 0,
          releaseMs: 60,
        },
      },
      {
        // A rise: noise through a filter that rings, opened by an envelope until the next note.
        ...cleanLayer('edge', { id: 'rise', name: 'Rise' }),
        levelDb: -30,
        tones: [
          cleanTone({ on: true, source: cleanSource('noise', { colour: 'pink' }) }),
          cleanTone(),
          cleanTone(),
        ],
        filters: [
          cleanFilter({ on: true, mode: 'band', slope: '12', cutoffHz: 300, resonancePct: 88 }),
          body.filters[1],
        ],
        loudness: { ...body.loudness, attackMs: 1900, attackBend: 0.5, releaseMs: 50 },
      },
    ],
    movers: [
      {
        ...cleanMover('wobble'),
        name: 'Swell',
        rateBeats: 4,
        smoothMs: 20,
        nodes: [
          { x: 0, y: 0.1, bend: 0.3 },
          { x: 0.5, y: 1, bend: -0.3 },
          { x: 1, y: 0.1, bend: 0 },
        ],
      },
      { ...cleanMover('envelope'), name: 'Onset', attackMs: 200, decayMs: 600, sustainPct: 40 },
      { ...cleanMover('noise'), name: 'Silt', colour: 'pink', rateHz: 5 },
      {
        ...cleanMover('envelope', { id: 'envelope-2' }),
        name: 'Pump',
        loop: 'held',
        attackMs: 60,
        decayMs: 540,
      },
      {
        ...cleanMover('envelope', { id: 'envelope-3' }),
        name: 'Climb',
        attackMs: 2200,
        attackBend: 0.2,
        sustainPct: 100,
        releaseMs: 60,
      },
    ],
    links: [
      cleanLink({ id: 'link-1', mover: 'wobble-1', target: 'layers.body.filters.0.cutoffHz', reachPct: 30 }),
      cleanLink({
        id: 'link-2',
        mover: 'wobble-1',
        target: 'layers.edge.tones.0.source.vowel.positionPct',
        reachPct: 60,
      }),
      cleanLink({ id: 'link-3', mover: 'envelope-1', target: 'layers.edge.levelDb', reachPct: 5 }),
      cleanLink({
        id: 'link-4',
        mover: 'noise-1',
        target: 'layers.edge.tones.0.source.vowel.positionPct',
        reachPct: 18,
        way: 'both ways',
      }),
      cleanLink({ id: 'link-5', mover: 'noise-1', target: 'layers.rise.filters.0.cutoffHz', reachPct: 4 }),
      cleanLink({
        id: 'link-6',
        mover: 'envelope-2',
        target: 'layers.body.filters.0.resonancePct',
        reachPct: 14,
      }),
      cleanLink({ id: 'link-7', mover: 'envelope-2', target: 'layers.body.filters.0.cutoffHz', reachPct: 8 }),
      cleanLink({
        id: 'link-8',
        mover: 'envelope-3',
        target: 'layers.rise.filters.0.cutoffHz',
        reachPct: 48,
      }),
    ],
    grit: {
      ...sound.grit,
      cleanPath: { ...sound.grit.cleanPath, on: true, frequencyHz: 80 },
      bands: [cleanBand({ units: [cleanUnit('soft clip', { id: 'soft-clip-1', driveDb: 8, levelDb: -4 })] })],
    },
    line: {
      notes: [0, 4].map((beat) =>
        cleanNote({ tick: BEAT * beat, ticks: 4 * BEAT - 60, pitch: C1, velocity: 104 }),
      ),
    },
    output: { levelDb: 0, ceilingDb: -1.2 },
    targets: { ...sound.targets, loudnessLufs: -12 },
  };
}
