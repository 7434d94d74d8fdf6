import type { Targets } from '../../document/index.js';
import { marginText, missText, plain } from '../../units/index.js';
import { atMost, worse } from '../passes/verdict.js';
import type { PassFigures } from '../passes/pass.js';
import { missOf, type FigureSpec } from './spec.js';

/** How loudness stands to its target; where it holds and the true peak does not, how that does. */
function margin(
  lufs: number | null,
  peakDbtp: number | null,
  { loudnessLufs, loudnessHoldsLu, truePeakDbtp }: Targets,
): string | null {
  const peakMiss = missText(peakDbtp, { most: truePeakDbtp });
  const within = lufs !== null && Math.abs(lufs - loudnessLufs) <= loudnessHoldsLu;
  if (within && peakDbtp !== null && peakDbtp > truePeakDbtp) return peakMiss && `true peak ${peakMiss}`;
  return marginText(
    lufs,
    { least: loudnessLufs - loudnessHoldsLu, most: loudnessLufs + loudnessHoldsLu },
    'LU',
  );
}

/** The greater of two misses; one that cannot be told does not count. */
const greatest = (a: number | null, b: number | null) => (a === null ? b : b === null ? a : Math.max(a, b));

/** Integrated loudness of kick and bass, and the true peak that goes with it. */
export const loudness: FigureSpec<PassFigures> = {
  label: 'Loudness',
  unit: 'LUFS',
  signed: false,
  targets: ['loudnessLufs', 'loudnessHoldsLu', 'loudnessWatchLu', 'truePeakDbtp', 'truePeakWatchDbtp'],
  means: 'How loud kick and bass are together, and how high their peaks reach between the samples.',
  measure: (pass) => pass.loudness.integrated,
  badness: (value, { loudnessLufs }) => Math.abs(value - loudnessLufs),
  stand: ({ figure: { value }, passes }, { targets }) => {
    const peaks = passes.map(({ truePeakDbtp }) => truePeakDbtp.value).filter((peak) => peak !== null);
    const peak = peaks.length > 0 ? Math.max(...peaks) : null;
    const peakText =
      peak === null ? '' : `; true peak ${plain(peak)} dBTP, ${plain(targets.truePeakDbtp)} at most`;
    const off = value === null ? null : Math.abs(value - targets.loudnessLufs);
    return {
      detail: `target ${plain(targets.loudnessLufs)} ± ${plain(targets.loudnessHoldsLu)}${peakText}`,
      verdict: worse(
        atMost(off, targets.loudnessHoldsLu, targets.loudnessWatchLu),
        atMost(peak, targets.truePeakDbtp, targets.truePeakWatchDbtp),
      ),
      margin: margin(value, peak, targets),
      miss: greatest(
        missOf(off, { most: [targets.loudnessHoldsLu, targets.loudnessWatchLu] }),
        missOf(peak, { most: [targets.truePeakDbtp, targets.truePeakWatchDbtp] }),
      ),
    };
  },
};
