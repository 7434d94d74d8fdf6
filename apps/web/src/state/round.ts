/**
 * The round of recording that is under way: while there is one, all that is done to the sound is one step of undo,
 * whatever was moved.
 */
let round: string | null = null;
let count = 0;

/** Begins a round; what was done in the one before is a step of its own. */
export function beginRound(): void {
  round = `round ${++count}`;
}

export function endRound(): void {
  round = null;
}

/** The group that every edit of the round belongs to; null while none is recorded. */
export const roundGroup = (): string | null => round;
