import type { LineLock } from '../figures/index.js';
import type { Proposal } from './proposal.js';
import { harshness, MOST_LOWS_DB } from './takes.js';

/** Less gain than this is not offered, unless it makes the figure hold. */
export const LEAST_DB = 0.2;
/** Proposals whose harshness is alike, in dB of lows, are told apart by what they give. */
const ALIKE_DB = 0.5;

/** Whether a line is settled: every meeting adds or cannot cancel, or the figure holds. */
export const settles = ({ adds, verdict }: LineLock) => adds || verdict === 'holds';

/**
 * Whether a proposal is worth applying: it gains 0.2 dB or more, or makes the figure hold, or every meeting
 * add or be kept apart.
 */
export function isWorth(before: LineLock, { gainDb, after }: Proposal): boolean {
  return (
    (gainDb >= LEAST_DB && after.withoutPhase <= before.withoutPhase) ||
    (settles(after) && !settles(before)) ||
    (after.adds && !before.adds)
  );
}

const harshClass = (proposal: Proposal) => Math.round(harshness(proposal.takes) / ALIKE_DB);

/**
 * What is offered of all that was tried, best first: what settles the line before what does not; of those
 * that settle it the gentlest first, and of those as gentle what gives most; of the others what gives most
 * less
 * what it takes. The level of the bass comes last: it has a figure of its own.
 */
export function ranked(before: LineLock, tried: readonly Proposal[]): Proposal[] {
  const isLevel = ({ steps }: Proposal) => steps[0] === 'level';
  const worth = (proposal: Proposal) => proposal.gainDb - harshness(proposal.takes);
  const place = (proposal: Proposal) => (isLevel(proposal) ? 2 : settles(proposal.after) ? 0 : 1);
  // What takes so much of the lows is no answer while there is another.
  const answered = tried.some(({ after, takes }) => settles(after) && takes.lowsDb < MOST_LOWS_DB);
  const offered = tried.filter(
    (proposal) =>
      isLevel(proposal) ||
      (isWorth(before, proposal) && !(answered && proposal.takes.lowsDb >= MOST_LOWS_DB)),
  );
  const sorted = [...offered].sort(
    (a, b) =>
      place(a) - place(b) || (place(a) === 0 ? harshClass(a) - harshClass(b) : 0) || worth(b) - worth(a),
  );
  // Of one turn for all and one for each pitch only what gains more stays.
  const one = sorted.find(({ id }) => id === 'turn');
  return sorted.filter(({ id, gainDb }) => !(id === 'turns' && one && one.gainDb > gainDb - LEAST_DB));
}
