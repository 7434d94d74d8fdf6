import { formatReach, sourceName, type MoverKind, type NumberNode } from '@abyssal/core';
import { Box, Button, Divider, Link, ListSubheader, Menu, MenuItem } from '@mui/material';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { edit, presentSound } from '../state/document-store';
import { addLane, addLink, full, noLink } from '../state/link-edits';
import { addMover } from '../state/mover-edits';
import type { Carried } from '../state/moving';
import { useSession } from '../state/session';
import { tell, useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

/** Kinds that are made from a row, with what they are called. */
const MAKES: readonly (readonly [MoverKind, string])[] = [
  ['wobble', 'New wobble'],
  ['envelope', 'New envelope'],
  ['steps', 'New note steps'],
  ['follower', 'New follower'],
  ['noise', 'New noise'],
];

/** What is to move a row: a mover or macro that is there, or one that is made for it. */
type Source = { readonly id: string } | { readonly make: MoverKind };

/** What is not linked says so only where it is pointed at, or reached by keys. */
const ownWord = (shown: boolean) => ({
  fontSize: TYPE.note,
  color: sea.tint5,
  textDecorationColor: sea.tint4,
  opacity: shown ? 1 : 0,
  '&:hover, &:focus-visible, *:hover > * > &': { opacity: 1 },
});
const AS_NAME = {
  fontSize: TYPE.label,
  color: sea.ink2,
  textDecoration: 'none',
  '&:hover, &:focus-visible': { color: sea.tint5, textDecoration: 'underline' },
};

/**
 * The word at the end of a row that opens its links: what moves it, another mover or macro, a lane. Where there is
 * no room for it the row's own name is that word (`named`).
 */
export function LinksButton({
  target,
  row,
  label,
  carried,
  named,
}: {
  readonly target: string;
  readonly row: NumberNode;
  readonly label: string;
  readonly carried: Carried;
  readonly named?: string;
}) {
  const navigate = useNavigate();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const count = carried.links.length;
  const words = count > 0 ? `${count} ${count === 1 ? 'link' : 'links'}` : carried.lane ? 'lane' : 'link';
  const open = (moverId: string) => {
    setAnchor(null);
    useView.setState({ moverId });
    void navigate(`/sounds/${useSession.getState().id}/motion`);
  };
  const join = (source: Source) => {
    setAnchor(null);
    const document = presentSound();
    const why =
      'id' in source
        ? noLink(document, source.id, target)
        : (full(document, 'movers') ?? full(document, 'links'));
    if (why) return tell(why);
    edit(`link ${label.toLowerCase()}`, (draft) => {
      addLink(draft, 'id' in source ? source.id : addMover(draft, source.make), target);
    });
  };
  return (
    <Box sx={named === undefined ? { width: 42, flex: 'none' } : { minWidth: 0 }}>
      <Link
        component="button"
        aria-haspopup="menu"
        aria-label={count > 0 ? `${words} of ${label}` : carried.lane ? `Lane of ${label}` : `Link ${label}`}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
        sx={{
          fontFamily: 'inherit',
          verticalAlign: 'baseline',
          minHeight: 24,
          minWidth: 24,
          whiteSpace: 'nowrap',
          ...(named === undefined ? ownWord(count > 0 || carried.lane) : AS_NAME),
        }}
      >
        {named ?? words}
      </Link>
      {anchor && (
        <RowMenu
          anchor={anchor}
          target={target}
          row={row}
          carried={carried}
          onClose={() => {
            setAnchor(null);
          }}
          onOpen={open}
          onJoin={join}
        />
      )}
    </Box>
  );
}

interface RowMenuProps {
  readonly anchor: HTMLElement;
  readonly target: string;
  readonly row: NumberNode;
  readonly carried: Carried;
  readonly onClose: () => void;
  readonly onOpen: (moverId: string) => void;
  readonly onJoin: (source: Source) => void;
}

function RowMenu({ anchor, target, row, carried, onClose, onOpen, onJoin }: RowMenuProps) {
  const document = presentSound();
  const linked = new Set(carried.links.map(({ mover }) => mover));
  const free = document.movers.filter(({ id }) => !linked.has(id));
  const macros = document.macros.flatMap((_macro, i) =>
    linked.has(`macro-${i + 1}`) ? [] : [`macro-${i + 1}`],
  );
  return (
    <Menu
      anchorEl={anchor}
      open
      onClose={onClose}
      slotProps={{ paper: { sx: { maxHeight: 420, minWidth: 220 } } }}
    >
      {carried.links.map((link) => (
        <MenuItem
          key={link.id}
          dense
          onClick={() => {
            onOpen(link.mover);
          }}
        >
          <Box component="span" sx={{ flex: 1 }}>
            {sourceName(document, link.mover) ?? link.mover}
          </Box>
          <Box component="span" sx={{ color: sea.ink2, ml: 2 }}>
            {link.on ? formatReach(row, link.reachPct) : 'off'}
          </Box>
        </MenuItem>
      ))}
      {carried.links.length > 0 && <Divider />}
      <ListSubheader sx={{ lineHeight: '26px' }}>Let it be moved by</ListSubheader>
      {free.map(({ id, name }) => (
        <MenuItem
          key={id}
          dense
          onClick={() => {
            onJoin({ id });
          }}
        >
          {name}
        </MenuItem>
      ))}
      {MAKES.map(([kind, name]) => (
        <MenuItem
          key={kind}
          dense
          onClick={() => {
            onJoin({ make: kind });
          }}
        >
          {name}
        </MenuItem>
      ))}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: '4px', p: '4px 16px', maxWidth: 260 }}>
        {macros.map((id) => (
          <Button
            key={id}
            variant="outlined"
            sx={{ p: '0 6px', fontSize: TYPE.note }}
            onClick={() => {
              onJoin({ id });
            }}
          >
            {sourceName(document, id)}
          </Button>
        ))}
      </Box>
      {!target.startsWith('links.') && (
        <MenuItem
          dense
          disabled={carried.lane}
          onClick={() => {
            onClose();
            automate(target);
          }}
        >
          {carried.lane ? 'It has a lane in Motion and Line' : 'Automate over the loop'}
        </MenuItem>
      )}
    </Menu>
  );
}

/** Gives a parameter a lane and says where it is. */
function automate(target: string): void {
  const why = full(presentSound(), 'lanes');
  if (why) return tell(why);
  edit('new lane', (draft) => {
    addLane(draft, target);
  });
  tell('It has a lane now, in Motion and under the notes of the Line.');
}
