import type { GritUnit } from '@abyssal/core';
import { useEffect, useState } from 'react';
import { standsNow } from '../controls/live-place';
import { presentSound, useSound } from '../state/document-store';
import { useView } from '../state/view-store';
import { unitStanding } from './unit-stands';

/** So often what moves is looked at, in ms: a drawing need not be smoother. */
const EVERY_MS = 50;

/** A unit as it stands now: while the loop plays, the numbers that are moved stand where their movers have them. */
export function useLiveUnit(unit: GritUnit): GritUnit {
  const playing = useView((state) => state.playing);
  const start = `units.${unit.id}.`;
  const moved = useSound(
    ({ links, lanes }) =>
      links.some(({ target }) => target.startsWith(start)) ||
      lanes.some(({ target }) => target.startsWith(start)),
  );
  const [live, setLive] = useState<GritUnit | null>(null);
  const runs = playing && moved;
  useEffect(() => {
    if (!runs) return undefined;
    const look = () => {
      const document = presentSound();
      setLive(unitStanding(unit, (target) => standsNow(document, target)));
    };
    look();
    const timer = setInterval(look, EVERY_MS);
    return () => {
      clearInterval(timer);
      setLive(null);
    };
  }, [runs, unit]);
  return (runs && live) || unit;
}
