// The sounds that the benchmark renders, by name.
import { slackWater, trenchGrowl } from '@abyssal/core';

/** The demo sound with a body of six copies, spread over both sides. */
function sixCopies() {
  const sound = trenchGrowl();
  Object.assign(sound.layers[1].tone, { copies: 6, spreadPct: 60 });
  return sound;
}

export const SOUNDS = { 'Trench Growl, mono body': trenchGrowl, 'Trench Growl, six copies in stereo': sixCopies, 'Slack Water': slackWater };

/** Shortest time of a run in ms, over so many seconds of runs. */
export function best(seconds, run) {
  let least = Infinity;
  const until = performance.now() + 1000 * seconds;
  while (performance.now() < until) {
    const from = performance.now();
    run();
    least = Math.min(least, performance.now() - from);
  }
  return least;
}
