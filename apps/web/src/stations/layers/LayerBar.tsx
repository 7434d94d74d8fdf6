import type { Layer } from '@abyssal/core';
import { Box, Divider, IconButton, Menu, MenuItem, ToggleButton } from '@mui/material';
import { MoreHorizontal } from 'lucide-react';
import { useState } from 'react';
import { edit, useDocument, useDocumentStore } from '../../state/document-store';
import { toggleSolo } from '../../state/solo';
import { tell, tellError, useView, type CopiedLayer } from '../../state/view-store';
import { addCopy, linksOf, removeLayer } from './layer-edits';
import { cleanAgain, fetchKept, keepLayer, swapWithKept } from './kept-layers';
import { KeptLayersDialog } from './KeptLayersDialog';

/** What is done with a layer as a whole: heard or not, alone, copied, kept and fetched back. */
export function LayerBar({ layer, index }: { readonly layer: Layer; readonly index: number }) {
  const sound = useDocument();
  const solo = useView((state) => state.solo);
  const clipboard = useView((state) => state.copied);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [fetching, setFetching] = useState(false);
  const act = (run: () => void | Promise<void>) => () => {
    setMenu(null);
    Promise.resolve(run()).catch(tellError);
  };
  const paste = (what: CopiedLayer) => {
    let id = '';
    edit(`paste ${what.layer.name}`, (draft) => { id = addCopy(draft, what.layer, what.links); });
    useView.setState({ layerId: id, tone: 0 });
  };
  return (
    <Box sx={{ display: 'flex', gap: '4px', alignItems: 'center' }}>
      <ToggleButton value="on" size="small" selected={layer.on} onChange={() => { edit(`${layer.name} ${layer.on ? 'off' : 'on'}`, (draft) => { draft.layers[index].on = !layer.on; }); }}>{layer.on ? 'sounds' : 'silent'}</ToggleButton>
      <ToggleButton value="solo" size="small" selected={solo.includes(layer.id)} aria-label={`${layer.name} alone`} onChange={() => { useView.setState({ solo: toggleSolo(solo, layer.id) }); }}>alone</ToggleButton>
      {layer.kept !== '' && <ToggleButton value="kept" size="small" aria-label={`Compare ${layer.name} with what was kept`} onClick={act(() => swapWithKept(layer, index))}>⇄ kept</ToggleButton>}
      <IconButton size="small" aria-label={`More for ${layer.name}`} aria-haspopup="menu" onClick={(event) => { setMenu(event.currentTarget); }}><MoreHorizontal size={16} /></IconButton>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => { setMenu(null); }}>
        <MenuItem onClick={act(() => { useView.setState({ copied: { layer, links: linksOf(sound, layer.id) } }); tell(`${layer.name} is copied; paste it into this sound or another.`); })}>Copy</MenuItem>
        <MenuItem disabled={!clipboard || sound.layers.length >= 8} onClick={act(() => { if (clipboard) paste(clipboard); })}>Paste{clipboard ? ` ${clipboard.layer.name}` : ''}</MenuItem>
        <MenuItem disabled={sound.layers.length >= 8} onClick={act(() => { paste({ layer: { ...layer, name: `${layer.name} copy`.slice(0, 40) }, links: linksOf(sound, layer.id) }); })}>Duplicate</MenuItem>
        <Divider />
        <MenuItem onClick={act(() => keepLayer(layer, index))}>Keep in the library</MenuItem>
        <MenuItem onClick={() => { setMenu(null); setFetching(true); }}>Fetch from the library…</MenuItem>
        <MenuItem onClick={act(() => { cleanAgain(layer, index); })}>Start clean</MenuItem>
        <Divider />
        <MenuItem disabled={sound.layers.length === 1} onClick={act(() => {
          edit(`remove ${layer.name}`, (draft) => { removeLayer(draft, index); });
          const { layers } = useDocumentStore.getState().document!;
          useView.setState({ layerId: layers[Math.min(index, layers.length - 1)].id });
        })}>Remove</MenuItem>
      </Menu>
      {fetching && <KeptLayersDialog onClose={() => { setFetching(false); }} onChoose={(id) => { setFetching(false); fetchKept(id).then((kept) => { if (sound.layers.length < 8) paste({ layer: kept, links: [] }); }).catch(tellError); }} />}
    </Box>
  );
}
