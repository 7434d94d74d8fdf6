import { setCleanPath, setFrom } from './band-edits';
import { edit } from './document-store';

/** Moves the crossover under a band of the open sound; a drag is one step. */
export function moveCrossover(index: number, hz: number): void {
  edit(
    'crossover',
    (draft) => {
      setFrom(draft, index, hz);
    },
    `crossover ${index}`,
  );
}

/** Moves the upper end of the clean path of the open sound; a drag is one step. */
export function moveCleanPath(hz: number): void {
  edit(
    'clean path',
    (draft) => {
      setCleanPath(draft, hz);
    },
    'grit.cleanPath.frequencyHz',
  );
}
