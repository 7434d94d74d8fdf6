// The sounds that the benchmark renders, by name.
import {
  cleanFilter,
  cleanLayer,
  cleanLink,
  cleanMover,
  cleanSource,
  cleanTone,
  fillHarmonics,
  moverShape,
  slackWater,
  trenchGrowl,
} from '@abyssal/core';

/** The demo sound with a body of six copies, spread over both sides. */
function sixCopies() {
  const sound = trenchGrowl();
  Object.assign(sound.layers[1].tones[0], { copies: 6, spreadPct: 60 });
  return sound;
}

/**
 * Four layers of three tones each (FM, 64 harmonics, frames of seven copies), two filters each, every one of
 * them moved.
 */
function fourLayers() {
  const sound = trenchGrowl();
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
    { id: `a-${i}`, mover: 'wobble-1', target: `layers.${id}.filters.0.cutoffHz`, reachPct: 30, on: true },
    {
      id: `b-${i}`,
      mover: 'wobble-1',
      target: `layers.${id}.tones.2.source.frames.positionPct`,
      reachPct: 50,
      on: true,
    },
  ]);
  return sound;
}

/** What the links of `allMovers` reach: what sounds in Trench Growl anyway, so that nothing is paid but the moving. */
const REACHED = [
  'layers.body.filters.0.cutoffHz',
  'layers.body.filters.0.driveDb',
  'layers.body.filters.0.resonancePct',
  'layers.body.filters.0.levelDb',
  'layers.body.levelDb',
  'layers.body.tones.0.cents',
  'layers.sub.levelDb',
  'grit.clip.driveDb',
];

/** Trench Growl with as many movers and links as a sound takes, of every kind alike. */
export function allMovers() {
  const sound = trenchGrowl();
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

export const SOUNDS = {
  'Trench Growl, mono body': trenchGrowl,
  'Trench Growl, six copies in stereo': sixCopies,
  'Slack Water': slackWater,
  'Four layers of three tones': fourLayers,
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
