import { MOST_LAYERS, plainText } from '@abyssal/core';
import { Divider, IconButton, Menu, MenuItem, ToggleButton } from '@mui/material';
import { MoreHorizontal } from 'lucide-react';
import { memo, useState } from 'react';
import { KeptPartsDialog } from '../../parts/KeptPartsDialog';
import { edit, useDocumentStore, useSound } from '../../state/document-store';
import { tell, tellError, useView, type CopiedLayer } from '../../state/view-store';
import { addCopy, linksOf, removeLayer } from './layer-edits';
import { cleanAgain, fetchKept, keepLayer, swapWithKept } from './kept-layers';

/** What is done with a layer as a whole: copied, kept, compared with what was kept, loaded, removed. */
export const LayerMenu = memo(function LayerMenu({ index }: { readonly index: number }) {
  const id = useSound(({ layers }) => layers[index].id);
  const name = useSound(({ layers }) => layers[index].name);
  const kept = useSound(({ layers }) => layers[index].kept);
  const count = useSound(({ layers }) => layers.length);
  const clipboard = useView((state) => state.copied);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [fetching, setFetching] = useState(false);
  const act = (run: () => void | Promise<void>) => () => {
    setMenu(null);
    Promise.resolve(run()).catch(tellError);
  };
  const now = () => useDocumentStore.getState().document!.layers[index];
  const copy = (): CopiedLayer => ({
    layer: now(),
    links: linksOf(useDocumentStore.getState().document!, id),
  });
  const paste = (what: CopiedLayer) => {
    let added = '';
    edit(`paste ${what.layer.name}`, (draft) => {
      added = addCopy(draft, what.layer, what.links);
    });
    useView.setState({ layerId: added, tone: 0 });
  };
  return (
    <>
      {kept !== '' && (
        <ToggleButton
          value="kept"
          size="small"
          aria-label={`Compare ${name} with what was kept`}
          onClick={act(() => swapWithKept(now(), index))}
        >
          ⇄ kept
        </ToggleButton>
      )}
      <IconButton
        size="small"
        aria-label={`More for ${name}`}
        aria-haspopup="menu"
        onClick={(event) => {
          setMenu(event.currentTarget);
        }}
      >
        <MoreHorizontal size={16} />
      </IconButton>
      <Menu
        anchorEl={menu}
        open={menu !== null}
        onClose={() => {
          setMenu(null);
        }}
      >
        <MenuItem
          onClick={act(() => {
            useView.setState({ copied: copy() });
            tell(`${name} is copied; paste it into this sound or another.`);
          })}
        >
          Copy
        </MenuItem>
        <MenuItem
          disabled={!clipboard || count >= MOST_LAYERS}
          onClick={act(() => {
            if (clipboard) paste(clipboard);
          })}
        >
          Paste{clipboard ? ` ${clipboard.layer.name}` : ''}
        </MenuItem>
        <MenuItem
          disabled={count >= MOST_LAYERS}
          onClick={act(() => {
            const { layer, links } = copy();
            paste({ layer: { ...layer, name: plainText(`${name} copy`, 40) }, links });
          })}
        >
          Duplicate
        </MenuItem>
        <Divider />
        <MenuItem onClick={act(() => keepLayer(now(), index))}>Keep in the library</MenuItem>
        <MenuItem
          onClick={() => {
            setMenu(null);
            setFetching(true);
          }}
        >
          Load from the library…
        </MenuItem>
        <MenuItem
          onClick={act(() => {
            cleanAgain(now(), index);
          })}
        >
          Start clean
        </MenuItem>
        <Divider />
        <MenuItem
          disabled={count === 1}
          onClick={act(() => {
            edit(`remove ${name}`, (draft) => {
              removeLayer(draft, index);
            });
            const { layers } = useDocumentStore.getState().document!;
            useView.setState({ layerId: layers[Math.min(index, layers.length - 1)].id });
          })}
        >
          Remove
        </MenuItem>
      </Menu>
      {fetching && (
        <KeptPartsDialog
          kind="layer"
          title="Kept layers"
          empty="No layers kept yet. Choose “Keep in the library” in a layer’s menu."
          onClose={() => {
            setFetching(false);
          }}
          onChoose={(part) => {
            setFetching(false);
            fetchKept(part)
              .then((layer) => {
                if (count < MOST_LAYERS) paste({ layer, links: [] });
              })
              .catch(tellError);
          }}
        />
      )}
    </>
  );
});
