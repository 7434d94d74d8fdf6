import { findMoverProblems, type Mover, type MoverKind, type SoundDocument } from '@abyssal/core';
import { Box, Button, Divider, IconButton, ListItemText, Menu, MenuItem } from '@mui/material';
import { MoreHorizontal } from 'lucide-react';
import { memo, useState } from 'react';
import { KeptPartsDialog } from '../../parts/KeptPartsDialog';
import { fetchPartAs, keepInLibrary } from '../../parts/kept-parts';
import { edit, presentSound } from '../../state/document-store';
import { tell, tellError, useView } from '../../state/view-store';
import { MOVER_VIEWS } from './kinds';
import { full } from '../../state/link-edits';
import { addKept, addMover, copyMover, moveMover, removeMover } from '../../state/mover-edits';

const KINDS = Object.entries(MOVER_VIEWS) as [MoverKind, (typeof MOVER_VIEWS)[MoverKind]][];

/** Adds a mover: of any kind from clean, or one that was kept. */
export const AddMover = memo(function AddMover() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [fetching, setFetching] = useState(false);
  const put = (label: string, recipe: (draft: SoundDocument) => string) => {
    let id = '';
    edit(label, (draft) => {
      id = recipe(draft);
    });
    if (id !== '') useView.setState({ moverId: id });
  };
  return (
    <>
      <Button
        variant="outlined"
        onClick={(event) => {
          const why = full(presentSound(), 'movers');
          if (why) tell(why);
          else setAnchor(event.currentTarget);
        }}
      >
        Add…
      </Button>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => {
          setAnchor(null);
        }}
      >
        {KINDS.map(([kind, { name, help }]) => (
          <MenuItem
            key={kind}
            dense
            onClick={() => {
              setAnchor(null);
              put(`new ${name.toLowerCase()}`, (draft) => addMover(draft, kind));
            }}
          >
            <ListItemText primary={name} secondary={help} />
          </MenuItem>
        ))}
        <Divider />
        <MenuItem
          dense
          onClick={() => {
            setAnchor(null);
            setFetching(true);
          }}
        >
          From the library…
        </MenuItem>
      </Menu>
      {fetching && (
        <KeptPartsDialog
          kind="mover"
          title="Kept movers"
          empty="No movers kept yet. Choose “Keep in the library” in a mover’s menu."
          onClose={() => {
            setFetching(false);
          }}
          onChoose={(part) => {
            setFetching(false);
            fetchPartAs<Mover>(part, findMoverProblems).then((mover) => {
              put(`kept ${mover.name}`, (draft) => addKept(draft, mover));
            }, tellError);
          }}
        />
      )}
    </>
  );
});

/** What is done with a mover as a whole. */
export function MoverMenu({
  mover,
  index,
  last,
}: {
  readonly mover: Mover;
  readonly index: number;
  readonly last: boolean;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const act = (run: () => void) => () => {
    setAnchor(null);
    run();
  };
  const move = (by: number) =>
    act(() => {
      edit(`move ${mover.name}`, (draft) => {
        moveMover(draft, mover.id, by);
      });
    });
  return (
    <Box component="span">
      <IconButton
        size="small"
        aria-label={`More for ${mover.name}`}
        aria-haspopup="menu"
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
      >
        <MoreHorizontal size={15} />
      </IconButton>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => {
          setAnchor(null);
        }}
      >
        <MenuItem
          onClick={act(() => {
            edit(`${mover.name} ${mover.on ? 'off' : 'on'}`, (draft) => {
              draft.movers[index].on = !mover.on;
            });
          })}
        >
          {mover.on ? 'Switch off' : 'Switch on'}
        </MenuItem>
        <MenuItem disabled={index === 0} onClick={move(-1)}>
          Move up
        </MenuItem>
        <MenuItem disabled={last} onClick={move(1)}>
          Move down
        </MenuItem>
        <MenuItem
          disabled={anchor !== null && full(presentSound(), 'movers') !== null}
          onClick={act(() => {
            let id = '';
            edit(`copy ${mover.name}`, (draft) => {
              id = copyMover(draft, mover.id);
            });
            useView.setState({ moverId: id });
          })}
        >
          Copy with its links
        </MenuItem>
        <MenuItem
          onClick={act(() => {
            keepInLibrary('mover', mover.name, mover).then(() => {
              tell(`${mover.name} is kept in the library.`);
            }, tellError);
          })}
        >
          Keep in the library
        </MenuItem>
        <Divider />
        <MenuItem
          onClick={act(() => {
            edit(`remove ${mover.name}`, (draft) => {
              removeMover(draft, mover.id);
            });
          })}
        >
          Remove
        </MenuItem>
      </Menu>
    </Box>
  );
}
