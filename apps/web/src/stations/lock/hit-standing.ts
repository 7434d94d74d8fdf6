import {
  bestTurnFor,
  bestTurnOfLine,
  isLock,
  lowsRunFree,
  spreadDeg,
  type Lock,
  type LockSettings,
  type NoteLevels,
  type Rose,
  type Turn,
} from '@abyssal/core';
import { useMemo } from 'react';
import type { ShownFit } from '../../sounding/told';
import { useSounding } from '../../sounding/sounding-store';
import { useDocument } from '../../state/document-store';
import { bearings, type Met } from './met';

const NO_NOTES: readonly NoteLevels[] = [];

/** How one hit of the kick and the note that it meets stand to each other. */
export interface HitStanding {
  /** The meeting that is looked at; null where there is none. */
  readonly present: Met | null;
  readonly measured: Lock | null;
  readonly rose: Rose | null;
  /** Best turn of this hit, and of all. */
  readonly best: Turn | null;
  readonly common: Turn | null;
  /** How far the bearings of all hits stand apart, and those of this one over the passes, degrees. */
  readonly spread: number | null;
  readonly passSpread: number | null;
  /** Whether its lows run free. */
  readonly free: boolean;
  /** The settings that were measured: what is proposed counts from them. */
  readonly from: LockSettings;
  /** What was rendered of other changes; null until it is. */
  readonly tried: ShownFit['tried'] | null;
}

/** The standing of a meeting; the same object until it is measured again, though the rose may be dragged meanwhile. */
export function useHitStanding(met: readonly Met[], present: Met | null): HitStanding {
  const document = useDocument();
  const look = useSounding((state) => state.look);
  const lookOf = useSounding((state) => state.lookOf);
  const roses = useSounding((state) => state.roses);
  const tried = useSounding(({ fit }) => fit?.tried ?? null);
  const bearingsShown = useSounding(({ shown }) => shown?.bearings);
  const notes = look?.notes ?? NO_NOTES;
  const measured = present && isLock(present.meeting.lock) ? present.meeting.lock : null;
  const rose = present ? (roses?.[present.index]?.[present.place] ?? null) : null;
  const best = useMemo(() => (rose ? bestTurnFor([rose]) : null), [rose]);
  const common = useMemo(() => (roses ? bestTurnOfLine(notes, roses) : null), [notes, roses]);
  const spread = useMemo(() => spreadDeg(bearings(met)), [met]);
  const passBearings = present ? bearingsShown?.[present.index]?.[present.place] : undefined;
  const passSpread = useMemo(() => spreadDeg(passBearings ?? []), [passBearings]);
  const free = lowsRunFree(document);
  // Figures are a moment behind while the bass is being turned: what is proposed counts from the state that
  // was measured, so that asking twice is asking once.
  const from = lookOf?.lock ?? document.lock;
  return useMemo(
    () => ({ present, measured, rose, best, common, spread, passSpread, free, from, tried }),
    [present, measured, rose, best, common, spread, passSpread, free, from, tried],
  );
}
