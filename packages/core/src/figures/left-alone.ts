import type { SoundDocument } from '../document/index.js';
import { signed } from '../units/index.js';
import type { JudgedFigure } from './figures.js';
import { kickLock } from './kinds/kick-lock.js';
import { lowMono } from './kinds/low-mono.js';
import type { PassFigures } from './passes/pass.js';

/** The figures that units in the clean path put at risk. */
const AT_RISK = { kickLock, lowMono };
const isAtRisk = (id: string): id is keyof typeof AT_RISK => id in AT_RISK;

/** A sound whose clean path is worked on, as it would be with it left alone; null where nothing works on it. */
export function withCleanPathAlone(document: SoundDocument): SoundDocument | null {
  const { cleanPath } = document.grit;
  if (!cleanPath.on || cleanPath.alone || !cleanPath.units.some(({ on }) => on)) return null;
  return { ...document, grit: { ...document.grit, cleanPath: { ...cleanPath, alone: true } } };
}

/** Says with lock and mono what each would be with the clean path left alone: `alone` is a pass of `untouched`. */
export function withWordsOfAlone(
  figures: readonly JudgedFigure[],
  untouched: SoundDocument,
  alone: PassFigures,
): JudgedFigure[] {
  return figures.map((judged) => {
    if (!isAtRisk(judged.id)) return judged;
    const { value } = AT_RISK[judged.id].measure(alone, untouched);
    if (value === null) return judged;
    return { ...judged, detail: `${judged.detail}; with the clean path left alone ${signed(value)}` };
  });
}
