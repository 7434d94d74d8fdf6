import { dbToGain, gainToDb } from '../units/index.js';
import { along } from './along.js';
import type { ResponsePart } from './systems.js';

/** Magnitude of one part at a frequency: its analogue prototype's, or as it was measured. */
function partGain(part: ResponsePart, hz: number): number {
  if (part.kind === 'measured') return dbToGain(along(part.hz, part.levelsDb, hz));
  const w = hz / part.hz;
  switch (part.kind) {
    case 'high-pass':
      return 1 / Math.sqrt(1 + w ** (-2 * part.order));
    case 'low-pass':
      return 1 / Math.sqrt(1 + w ** (2 * part.order));
    case 'bell': {
      // |(s² + s·A/Q + 1) / (s² + s/(A·Q) + 1)| at s = jw.
      const A = 10 ** (part.gainDb / 40);
      const rest = 1 - w * w;
      return Math.hypot(rest, (w * A) / part.q) / Math.hypot(rest, w / (A * part.q));
    }
    case 'low shelf':
      return Math.hypot(10 ** (part.gainDb / 20), w) / Math.hypot(1, w);
    case 'high shelf':
      return Math.hypot(1, w * 10 ** (part.gainDb / 20)) / Math.hypot(1, w);
  }
}

/** Magnitude of a system's response at a frequency in hertz, dB: its parts one after another. */
export function responseDb(parts: readonly ResponsePart[], hz: number): number {
  return gainToDb(parts.reduce((gain, part) => gain * partGain(part, hz), 1));
}
