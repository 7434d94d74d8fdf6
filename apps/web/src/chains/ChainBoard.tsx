import { placeName, unitById, unitName, type SoundDocument, type UnitPlace } from '@abyssal/core';
import {
  closestCenter,
  DndContext,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type CollisionDetection,
  type DragEndEvent,
} from '@dnd-kit/core';
import type { ReactNode } from 'react';
import { edit, presentSound } from '../state/document-store';
import { chainAt } from '../state/path';
import { moveUnit, noRoom, samePlace } from '../state/unit-edits';
import { tell } from '../state/view-store';
import { placeKey } from './place-key';
import { Places } from './places';

/** What lies under the pointer, or else what is nearest. */
const under: CollisionDetection = (args) => {
  const hits = pointerWithin(args);
  return hits.length > 0 ? hits : closestCenter(args);
};

/** Moves a unit within its chain or into another, as one undo step; what does not fit is told. */
export function moveTo(id: string, to: UnitPlace, at: number): void {
  const document = presentSound();
  const found = unitById(document, id);
  if (!found) return;
  const why = samePlace(found.place, to) ? null : noRoom(document, to);
  if (why) return tell(why);
  const name = unitName(chainAt(document, found.place), found.unit);
  edit(`move ${name} to ${placeName(document, to).toLowerCase()}`, (draft) => {
    moveUnit(draft, id, to, at);
    if (to.in === 'clean path') draft.grit.cleanPath.alone = false;
  });
}

/** Where a drag ends: in front of the unit that it was let go over, or at the end of a chain. */
function target(
  document: SoundDocument,
  places: readonly UnitPlace[],
  over: string,
): { to: UnitPlace; at: number } | null {
  const chain = places.find((place) => placeKey(place) === over);
  if (chain) return { to: chain, at: chainAt(document, chain).length };
  const found = unitById(document, over);
  return found ? { to: found.place, at: chainAt(document, found.place).indexOf(found.unit) } : null;
}

/** Chains among which units are dragged, and moved by keys in the order in which the chains are given. */
export function ChainBoard({
  places,
  children,
}: {
  readonly places: readonly UnitPlace[];
  readonly children: ReactNode;
}) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || over.id === active.id) return;
    const end = target(presentSound(), places, String(over.id));
    if (end) moveTo(String(active.id), end.to, end.at);
  };
  return (
    <Places value={places}>
      <DndContext sensors={sensors} collisionDetection={under} onDragEnd={onDragEnd}>
        {children}
      </DndContext>
    </Places>
  );
}
