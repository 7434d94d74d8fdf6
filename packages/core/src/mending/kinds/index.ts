import type { FigureId } from '../../figures/index.js';
import type { MendKind } from '../base/way.js';
import { balance, levels } from './balance.js';
import { carry } from './carry.js';
import { centre, declick } from './declick.js';
import { even } from './even.js';
import { narrow } from './narrow.js';
import { glareTamed, mudCleared, room } from './tame.js';

/** The kinds of mend, each for its figures. */
export const MEND_KINDS: readonly MendKind[] = [
  carry,
  narrow,
  even,
  glareTamed,
  mudCleared,
  room,
  balance,
  levels,
  declick,
  centre,
];

export const mendKindFor = (figure: FigureId): MendKind | undefined =>
  MEND_KINDS.find(({ figures }) => figures.includes(figure));
