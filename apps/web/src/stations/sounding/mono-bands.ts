import type { MonoBand, Targets, Verdict } from '@abyssal/core';

/** Octaves up to this centre are the lows, those from the next on the highs. */
const LOWS_TO_HZ = 63;
const HIGHS_FROM_HZ = 250;

/** How an octave stands to the target of its part; what lies between lows and highs has none. */
export function bandVerdict({ centreHz, lossDb: { value } }: MonoBand, targets: Targets): Verdict {
  if (value === null) return 'unknown';
  const [target, watch] =
    centreHz <= LOWS_TO_HZ
      ? [targets.lowMonoLossDb, targets.lowMonoLossWatchDb]
      : centreHz >= HIGHS_FROM_HZ
        ? [targets.highMonoLossDb, targets.highMonoLossWatchDb]
        : [-Infinity, -Infinity];
  return value >= target ? 'holds' : value >= watch ? 'watch' : 'falls short';
}

export const bandName = (hz: number) => (hz >= 1000 ? `${hz / 1000}k` : String(Math.floor(hz)));
