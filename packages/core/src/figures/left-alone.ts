import type { SoundDocument } from '../document/index.js';
import { signed } from '../units/index.js';
import type { JudgedFigure } from './figures.js';
import type { FigureId } from './kinds/index.js';

/** The figures that units in the clean path put at risk. */
const AT_RISK: readonly FigureId[] = ['kickLock', 'lowMono'];

/** A sound whose clean path is worked on, as it would be with it left alone; null where nothing works on it. */
export function withCleanPathAlone(document: SoundDocument): SoundDocument | null {
  const { cleanPath } = document.grit;
  if (!cleanPath.on || cleanPath.alone || !cleanPath.units.some(({ on }) => on)) return null;
  return { ...document, grit: { ...document.grit, cleanPath: { ...cleanPath, alone: true } } };
}

/** Says with lock and mono what each would be with the clean path left alone. */
export function withWordsOfAlone(
  figures: readonly JudgedFigure[],
  alone: readonly JudgedFigure[],
): JudgedFigure[] {
  return figures.map((judged) => {
    const value = alone.find(({ id }) => id === judged.id)?.figure.value ?? null;
    if (!AT_RISK.includes(judged.id) || value === null) return judged;
    return { ...judged, detail: `${judged.detail}; with the clean path left alone ${signed(value)}` };
  });
}
