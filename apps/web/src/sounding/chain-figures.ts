import {
  matchedLevelDb,
  unitById,
  type GritUnit,
  type UnitFigures,
  type SoundDocument,
  type UnitPlace,
} from '@abyssal/core';
import { create } from 'zustand';
import { amend, presentSound } from '../state/document-store';
import { chainAt } from '../state/path';
import { tellError } from '../state/view-store';
import { meterOf, useSounding } from './sounding-store';

export interface ChainFiguresState {
  /** What the units of the chain that is looked at do, by their ids; null before it is measured. */
  readonly units: ReadonlyMap<string, UnitFigures> | null;
  /** The document that this was measured of. */
  readonly of: SoundDocument | null;
}

export const useChainFigures = create<ChainFiguresState>(() => ({ units: null, of: null }));

/** From here on a level is set anew where it is matched, in LU. */
const OFF_LU = 0.1;

let looked: UnitPlace | null = null;

/** Sets the levels that are matched and no longer are, as part of what made them so. */
function match(units: readonly UnitFigures[]): void {
  const document = presentSound();
  const off = units.flatMap((measured) => {
    const unit = unitById(document, measured.id)?.unit;
    if (!unit?.match) return [];
    const levelDb = matchedLevelDb(unit, measured);
    return Math.abs(levelDb - unit.levelDb) < OFF_LU ? [] : [{ id: unit.id, levelDb }];
  });
  if (off.length === 0) return;
  amend((draft) => {
    for (const { id, levelDb } of off) {
      const found = unitById(draft, id)?.unit;
      if (found) found.levelDb = levelDb;
    }
  });
}

async function measure(): Promise<void> {
  const { of } = useSounding.getState();
  const place = looked;
  if (!place || !of || of !== presentSound()) return;
  const measured = await meterOf().chain(place);
  if (!measured || looked !== place || presentSound() !== of) return;
  useChainFigures.setState({ units: new Map(measured.map((unit) => [unit.id, unit])), of });
  match(measured);
}

/** Has the units of a chain measured whenever the sound is, until what it returns is called. */
export function lookAtChain(place: UnitPlace): () => void {
  looked = place;
  const begin = () => {
    measure().catch(tellError);
  };
  begin();
  const leave = useSounding.subscribe((now, before) => {
    if (now.of !== before.of) begin();
  });
  return () => {
    leave();
    if (looked === place) looked = null;
    useChainFigures.setState({ units: null, of: null });
  };
}

/** A chain by chance for a place, each unit as loud as what goes into it in the sound as it was measured last. */
export const chainByChance = (place: UnitPlace, seed: number, most: number): Promise<GritUnit[]> =>
  meterOf().tryChain(place, seed, chainAt(presentSound(), place), most);
