import { wrapDegrees } from '@abyssal/core';
import { edit } from '../../state/document-store';

/** Turns the whole bass to a bearing, in tenths of a degree; edits of one `group` are one undo step. */
export function turnTo(turnDeg: number, group: string | null = null): void {
  edit(
    'turn',
    (draft) => {
      draft.lock.turnDeg = Math.round(wrapDegrees(turnDeg) * 10) / 10;
    },
    group,
  );
}
