import type { LineNote } from '@abyssal/core';
import { edit, presentSound } from '../../state/document-store';

/** The notes of the open sound as they are now. */
export const presentNotes = (): LineNote[] => presentSound().line.notes;

/** Sets the notes as one step of undo; changes of one group are one step. */
export function setNotes(label: string, next: LineNote[], group: string | null = null): void {
  edit(
    label,
    (draft) => {
      draft.line.notes = next;
    },
    group,
  );
}
