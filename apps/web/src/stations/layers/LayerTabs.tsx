import type { Layer } from '@abyssal/core';
import { DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext, sortableKeyboardCoordinates, useSortable } from '@dnd-kit/sortable';
import { Box, Menu, MenuItem } from '@mui/material';
import { memo, useState, type KeyboardEvent } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { edit, useDocumentStore } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { ROLE_TINT, sea } from '../../theme/sea';
import { MOST_LAYERS, moveLayer, newLayer } from './layer-edits';

const ROLES = ['sub', 'body', 'edge', 'knock'] as const;

/** What a tab shows of a layer, as one text: tabs render again only when one of these changes. */
interface Tab { readonly id: string; readonly name: string; readonly role: Layer['role']; readonly on: boolean }
const tabOf = ({ id, name, role, on }: Layer) => JSON.stringify({ id, name, role, on } satisfies Tab);
const readTab = (text: string) => JSON.parse(text) as Tab;

/** The layers, shallow to deep: chosen by a click, reordered by drag, or by Alt and the arrow keys. */
export const LayerTabs = memo(function LayerTabs({ chosen }: { readonly chosen: string }) {
  const layers = useDocumentStore(useShallow(({ document: sound }) => sound!.layers.map(tabOf)));
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }), useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }));
  // On paper the shallowest stands first; in the document the deepest does.
  const shown = layers.map(readTab).reverse();
  const move = (id: string, to: number) => {
    edit('order of the layers', (draft) => { draft.layers = moveLayer(draft.layers, draft.layers.findIndex((candidate) => candidate.id === id), to); });
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id) move(String(active.id), shown.length - 1 - shown.findIndex(({ id }) => id === over.id));
  };
  const onKeyDown = (event: KeyboardEvent, id: string) => {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const at = shown.findIndex((candidate) => candidate.id === id);
    if (event.altKey) move(id, layers.length - 1 - Math.max(0, Math.min(shown.length - 1, at + step)));
    else {
      const next = shown[(at + step + shown.length) % shown.length];
      useView.setState({ layerId: next.id });
      document.getElementById(`layer-tab-${next.id}`)?.focus();
    }
  };
  return (
    <Box sx={{ display: 'flex', alignItems: 'flex-end', minWidth: 0 }}>
      <DndContext sensors={sensors} onDragEnd={onDragEnd}>
        <SortableContext items={shown.map(({ id }) => id)} strategy={horizontalListSortingStrategy}>
          <Box role="tablist" aria-label="Layers" sx={{ display: 'flex', minWidth: 0, overflowX: 'auto', overflowY: 'hidden' }}>
            {shown.map((each) => <LayerTab key={each.id} layer={each} chosen={each.id === chosen} onKeyDown={onKeyDown} />)}
          </Box>
        </SortableContext>
      </DndContext>
      {layers.length < MOST_LAYERS && (
        <Box component="button" onClick={(event) => { setMenu(event.currentTarget); }} aria-haspopup="menu" sx={{ border: 0, bgcolor: 'transparent', font: 'inherit', fontSize: 14, color: sea.ink2, p: '6px 10px', cursor: 'pointer', whiteSpace: 'nowrap' }}>+ layer</Box>
      )}
      <Menu anchorEl={menu} open={menu !== null} onClose={() => { setMenu(null); }}>
        {ROLES.map((role) => (
          <MenuItem
            key={role}
            onClick={() => {
              setMenu(null);
              const added = newLayer(useDocumentStore.getState().document!.layers, role);
              edit(`add ${added.name}`, (draft) => { draft.layers.push(added); });
              useView.setState({ layerId: added.id, tone: 0 });
            }}
          >{role[0].toUpperCase()}{role.slice(1)}</MenuItem>
        ))}
      </Menu>
    </Box>
  );
});

function LayerTab({ layer, chosen, onKeyDown }: { readonly layer: Tab; readonly chosen: boolean; readonly onKeyDown: (event: KeyboardEvent, id: string) => void }) {
  const { setNodeRef, listeners, transform, isDragging } = useSortable({ id: layer.id });
  const solo = useView((state) => state.solo.some((name) => name.split('.')[0] === layer.id));
  return (
    <Box
      ref={setNodeRef} component="button" {...listeners} id={`layer-tab-${layer.id}`} role="tab" aria-selected={chosen} aria-keyshortcuts="Alt+ArrowLeft Alt+ArrowRight" tabIndex={chosen ? 0 : -1}
      onClick={() => { useView.setState({ layerId: layer.id, tone: 0 }); }} onKeyDown={(event: KeyboardEvent) => { onKeyDown(event, layer.id); }}
      style={transform ? { transform: `translateX(${transform.x}px)` } : undefined}
      sx={{
        display: 'flex', alignItems: 'center', gap: 1, height: 31, p: '0 14px', font: 'inherit', fontSize: 15, color: sea.ink, fontWeight: chosen ? 600 : 400, whiteSpace: 'nowrap', cursor: 'pointer', touchAction: 'none',
        bgcolor: chosen ? sea.sheet : 'transparent', border: '1px solid', borderColor: chosen ? sea.rule : 'transparent', borderBottom: 0, opacity: layer.on ? (isDragging ? 0.7 : 1) : 0.5, mb: chosen ? '-1px' : 0,
      }}
    >
      <Box sx={{ width: 10, height: 10, bgcolor: sea[ROLE_TINT[layer.role]], outline: solo ? `2px solid ${sea.note}` : 'none', outlineOffset: 1 }} />{layer.name}
    </Box>
  );
}
