import { Box, Menu, MenuItem } from '@mui/material';
import { useState } from 'react';
import { edit, useDocumentStore } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { newLayer } from './layer-edits';

const ROLES = ['sub', 'body', 'edge', 'knock'] as const;

/** Another layer, of one of the four depths. */
export function AddLayer() {
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const add = (role: (typeof ROLES)[number]) => {
    setMenu(null);
    const added = newLayer(useDocumentStore.getState().document!.layers, role);
    edit(`add ${added.name}`, (draft) => {
      draft.layers.push(added);
    });
    useView.setState({ layerId: added.id, tone: 0 });
  };
  return (
    <>
      <Box
        component="button"
        onClick={(event) => {
          setMenu(event.currentTarget);
        }}
        aria-haspopup="menu"
        sx={{
          border: 0,
          bgcolor: 'transparent',
          font: 'inherit',
          fontSize: TYPE.label,
          color: sea.ink2,
          height: 24,
          p: '0 22px',
          cursor: 'pointer',
          whiteSpace: 'nowrap',
        }}
      >
        + layer
      </Box>
      <Menu
        anchorEl={menu}
        open={menu !== null}
        onClose={() => {
          setMenu(null);
        }}
      >
        {ROLES.map((role) => (
          <MenuItem
            key={role}
            onClick={() => {
              add(role);
            }}
          >
            {role[0].toUpperCase()}
            {role.slice(1)}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
