import { CHAIN_FORMAT, CHAIN_VERSION, cleanUnit, type ChainFile, type GritUnit } from '../document/index.js';
import { hollowPier } from './hollow-pier.js';
import { mudLine } from './mud-line.js';
import { sluiceTalker } from './sluice-talker.js';
import { trenchGrowl } from './trench-growl.js';

function chain(name: string, units: readonly GritUnit[], figures: ChainFile['figures'] = null): ChainFile {
  return { format: CHAIN_FORMAT, formatVersion: CHAIN_VERSION, name, units: [...units], figures };
}

/**
 * The chains that come with the demo record. Those that stand in one of its sounds say what they do there, over a
 * loop at 48 kHz; the others were not measured anywhere yet.
 */
export function demoChains(): ChainFile[] {
  return [
    chain('Barnacle', mudLine().grit.bands[0].units, { loudnessLu: 7.28, crestDb: 0.64 }),
    chain('Undertow', hollowPier().grit.bands[0].units, { loudnessLu: 4.09, crestDb: -1.0 }),
    chain('Siren Mouth', sluiceTalker().grit.bands[1].units, { loudnessLu: 2.26, crestDb: -3.15 }),
    chain('Rip Current', trenchGrowl().grit.bands[2].units, { loudnessLu: 13.99, crestDb: -3.17 }),
    chain('Foghorn', [
      cleanUnit('harmonics', { id: 'harmonics-1', secondDb: -10, thirdDb: -14, fourthDb: -22 }),
      cleanUnit('tape', { id: 'tape-1', driveDb: 8 }),
    ]),
    chain('Flotsam', [
      cleanUnit('crush', { id: 'crush-1', bits: 7, rateHz: 9000, jitterPct: 15, wetPct: 45 }),
      cleanUnit('rough delay', { id: 'rough-delay-1', wetPct: 50 }),
      cleanUnit('delay', { id: 'delay-1', wetPct: 22 }),
    ]),
  ];
}
