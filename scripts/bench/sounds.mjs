// The sounds that the benchmark renders, by name.
import {
  cleanBand,
  cleanFilter,
  cleanLayer,
  cleanLink,
  cleanMover,
  cleanSource,
  cleanTone,
  cleanUnit,
  fillHarmonics,
  moverShape,
  slackWater,
  sluiceTalker,
  trenchGrowl,
} from '@abyssal/core';

/** A growl of a saw with no more than a soft clip. */
function sawGrowl() {
  const sound = trenchGrowl();
  sound.links = sound.links.filter(({ target }) => !target.startsWith('units.'));
  sound.grit.bands.splice(1);
  sound.grit.after = [];
  return sound;
}

/** The same with a body of six copies, spread over both sides. */
function sixCopies() {
  const sound = sawGrowl();
  Object.assign(sound.layers[1].tones[0], { copies: 6, spreadPct: 60 });
  return sound;
}

/**
 * Four layers of three tones each (FM, 64 harmonics, frames of seven copies), two filters each, every one of
 * them moved.
 */
function fourLayers() {
  const sound = sawGrowl();
  const fm = cleanSource('fm');
  const tones = () => [
    cleanTone({
      on: true,
      source: {
        ...fm,
        oscillators: fm.oscillators.map((oscillator, i) => ({ ...oscillator, ratio: [1, 2, 3.5, 0.5][i] })),
        matrix: [0.5, 0, 0, 0, 2, 0, 0, 0, 0, 1, 0, 0, 0.5, 0, 0, 0],
      },
    }),
    cleanTone({ on: true, levelDb: -6, source: cleanSource('harmonics', { a: fillHarmonics('1/n', 64) }) }),
    cleanTone({
      on: true,
      levelDb: -6,
      copies: 7,
      spreadPct: 50,
      source: cleanSource('frames', { table: 'growl mouth', positionPct: 30 }),
    }),
  ];
  sound.layers = ['sub', 'body', 'edge', 'knock'].map((role) =>
    cleanLayer(role, {
      tones: tones(),
      filters: [
        cleanFilter({ on: true, cutoffHz: 400, resonancePct: 40 }),
        cleanFilter({ on: true, mode: 'high', slope: '12', cutoffHz: 60 }),
      ],
      loudness: { ...cleanLayer('body').loudness, sustainPct: 100 },
    }),
  );
  sound.links = sound.layers.flatMap(({ id }, i) => [
    cleanLink({ id: `a-${i}`, mover: 'wobble-1', target: `layers.${id}.filters.0.cutoffHz`, reachPct: 30 }),
    cleanLink({
      id: `b-${i}`,
      mover: 'wobble-1',
      target: `layers.${id}.tones.2.source.frames.positionPct`,
      reachPct: 50,
    }),
  ]);
  return sound;
}

/** What the links of `allMovers` reach: what sounds in both growls anyway, so that nothing is paid but the moving. */
const REACHED = [
  'layers.body.filters.0.cutoffHz',
  'layers.body.filters.0.driveDb',
  'layers.body.filters.0.resonancePct',
  'layers.body.filters.0.levelDb',
  'layers.body.levelDb',
  'layers.body.tones.0.cents',
  'layers.sub.levelDb',
  'units.soft-clip-1.driveDb',
];

/** A sound in which nothing is moved. */
export const still = (sound) => ({ ...sound, movers: [], links: [], lanes: [] });

/** A growl with as many movers and links as a sound takes, of every kind alike. */
export function allMovers(sound) {
  const kinds = Object.keys(moverShape.cases);
  sound.movers = Array.from({ length: 16 }, (_, i) => ({
    ...cleanMover(kinds[i % kinds.length]),
    id: `m-${i}`,
  }));
  sound.links = Array.from({ length: 64 }, (_, i) =>
    cleanLink({ id: `l-${i}`, mover: `m-${i % 16}`, target: REACHED[i % REACHED.length], reachPct: 0.5 }),
  );
  return sound;
}

/** A growl: three layers, three bands of three units, and five units behind the sum; one of them is moved. */
function growl() {
  const sound = sluiceTalker();
  sound.links = [
    ...sound.links.filter(({ target }) => !target.startsWith('units.')),
    cleanLink({ id: 'after', mover: 'wobble-1', target: 'units.filter-1.cutoffHz', reachPct: 40 }),
  ];
  const unit = (kind, patch = {}) => cleanUnit(kind, { id: `${kind.replaceAll(' ', '-')}-1`, ...patch });
  const sections = cleanUnit('equaliser').sections.map((section, i) =>
    i < 3 ? { ...section, on: true, hz: [200, 900, 5000][i], gainDb: 2 } : section,
  );
  sound.grit.bands = [
    cleanBand({ units: [unit('tape'), unit('tube'), unit('compressor')] }),
    cleanBand({
      id: 'band-2',
      fromHz: 350,
      units: [unit('hard clip', { driveDb: 12 }), unit('filter', { cutoffHz: 1500 }), unit('phaser')],
    }),
    cleanBand({ id: 'band-3', fromHz: 1800, units: [unit('soft clip'), unit('tilt'), unit('chorus')] }),
  ];
  sound.grit.after = [
    unit('multiband compressor'),
    unit('equaliser', { sections }),
    unit('glare control'),
    unit('hall'),
    unit('limiter'),
  ];
  return sound;
}

export const SOUNDS = {
  'Saw growl, mono body': sawGrowl,
  'Saw growl, six copies in stereo': sixCopies,
  'Slack Water': slackWater,
  'Four layers of three tones': fourLayers,
  'A growl of three layers, nine units in bands and five after': growl,
};

/** Time of a run in ms. */
export function timed(run) {
  const from = performance.now();
  run();
  return performance.now() - from;
}

/** Shortest time of a run in ms, over so many seconds of runs. */
export function best(seconds, run) {
  let least = Infinity;
  const until = performance.now() + 1000 * seconds;
  while (performance.now() < until) {
    least = Math.min(least, timed(run));
  }
  return least;
}
