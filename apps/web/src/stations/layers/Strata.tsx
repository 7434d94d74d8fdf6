import { MOST_LAYERS } from '@abyssal/core';
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { Box } from '@mui/material';
import { memo, type KeyboardEvent } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { edit, useDocumentStore } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { AddLayer } from './AddLayer';
import { moveLayer } from './layer-edits';
import { Stratum, tabId } from './Stratum';

/**
 * The layers of the sound as strata, the shallowest on top and the deepest at the bottom: chosen by a click,
 * reordered by drag or by Alt and the arrow keys, each with its level, pan, mute and solo.
 */
export const Strata = memo(function Strata({ chosen }: { readonly chosen: string }) {
  const ids = useDocumentStore(useShallow(({ document: sound }) => sound!.layers.map(({ id }) => id)));
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  // On paper the shallowest stands first; in the document the deepest does.
  const shown = [...ids].reverse();
  const move = (id: string, to: number) => {
    edit('order of the layers', (draft) => {
      draft.layers = moveLayer(
        draft.layers,
        draft.layers.findIndex((candidate) => candidate.id === id),
        to,
      );
    });
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id)
      move(String(active.id), shown.length - 1 - shown.indexOf(String(over.id)));
  };
  const onKeyDown = (event: KeyboardEvent, id: string) => {
    const step = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const at = shown.indexOf(id);
    if (event.altKey) move(id, shown.length - 1 - Math.max(0, Math.min(shown.length - 1, at + step)));
    else {
      const next = shown[(at + step + shown.length) % shown.length];
      useView.setState({ layerId: next, tone: 0 });
      document.getElementById(tabId(next))?.focus();
    }
  };
  return (
    <Box component="section" aria-label="Layers" sx={{ containerType: 'inline-size' }}>
      {/* The tabs stand among sliders and buttons: the list owns them without holding them. */}
      <Box
        role="tablist"
        aria-label="Layers"
        aria-orientation="vertical"
        aria-owns={shown.map(tabId).join(' ')}
        sx={{ position: 'absolute' }}
      />
      <DndContext sensors={sensors} onDragEnd={onDragEnd}>
        <SortableContext items={shown} strategy={verticalListSortingStrategy}>
          <Box sx={{ border: `1px solid ${sea.rule}`, bgcolor: sea.paper }}>
            {shown.map((id, row) => (
              <Stratum
                key={id}
                index={ids.length - 1 - row}
                id={id}
                chosen={id === chosen}
                onKeyDown={onKeyDown}
              />
            ))}
          </Box>
        </SortableContext>
      </DndContext>
      {ids.length < MOST_LAYERS && <AddLayer />}
    </Box>
  );
});
