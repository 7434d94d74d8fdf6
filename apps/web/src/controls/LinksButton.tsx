import {
  cleanLink,
  cleanMover,
  formatReach,
  MOST_LANES,
  sourceName,
  toPosition,
  type MoverKind,
  type NumberNode,
} from '@abyssal/core';
import { Box, Button, Divider, Link, ListSubheader, Menu, MenuItem } from '@mui/material';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { flatLane } from '../state/flat-lane';
import { edit, useDocumentStore } from '../state/document-store';
import { freeId } from '../state/free-id';
import { circleOf } from '../state/mover-edits';
import type { Carried } from '../state/moving';
import { useSession } from '../state/session';
import { tell, useView } from '../state/view-store';
import { pathOf, valueAt } from './path';
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

/** The word at the end of a row that opens its links: what moves it, another mover or macro, a lane. */
export function LinksButton({
  target,
  row,
  label,
  carried,
}: {
  readonly target: string;
  readonly row: NumberNode;
  readonly label: string;
  readonly carried: Carried;
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
  const join = (mover: string, make: MoverKind | null = null) => {
    setAnchor(null);
    const { document } = useDocumentStore.getState();
    if (!document) return;
    if (make === null) {
      const trial = cleanLink({ id: 'trial', mover, target });
      const circle = circleOf(document, [...document.links, trial]);
      if (circle) return tell(circle);
    }
    const at = toPosition(row, row.default);
    edit(`link ${label.toLowerCase()}`, (draft) => {
      let id = mover;
      if (make !== null) {
        const clean = cleanMover(make);
        id = freeId(draft.movers, (n) => `${make}-${n}`);
        draft.movers.push({
          ...clean,
          id,
          name:
            id === clean.id ? clean.name : `${clean.name.replace(/ \d+$/, '')} ${draft.movers.length + 1}`,
        });
      }
      draft.links.push(
        cleanLink({
          id: freeId(draft.links, (n) => `link-${n}`),
          mover: id,
          target,
          reachPct: at > 0.75 ? -25 : 25,
        }),
      );
    });
  };
  return (
    <Box sx={{ width: 42, flex: 'none' }}>
      <Link
        component="button"
        aria-haspopup="menu"
        aria-label={count > 0 ? `${words} of ${label}` : carried.lane ? `Lane of ${label}` : `Link ${label}`}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
        sx={{
          fontSize: TYPE.note,
          fontFamily: 'inherit',
          verticalAlign: 'baseline',
          minHeight: 24,
          minWidth: 24,
          whiteSpace: 'nowrap',
          color: sea.tint5,
          textDecorationColor: sea.tint4,
          // What is not linked says so only where it is pointed at, or reached by keys.
          opacity: count > 0 || carried.lane ? 1 : 0,
          '&:hover, &:focus-visible, *:hover > * > &': { opacity: 1 },
        }}
      >
        {words}
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
  readonly onJoin: (mover: string, make?: MoverKind | null) => void;
}

function RowMenu({ anchor, target, row, carried, onClose, onOpen, onJoin }: RowMenuProps) {
  const document = useDocumentStore.getState().document!;
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
            onJoin(id);
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
            onJoin('', kind);
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
              onJoin(id);
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
            addLaneFor(target, row);
          }}
        >
          {carried.lane ? 'It has a lane in Motion and Line' : 'Automate over the loop'}
        </MenuItem>
      )}
    </Menu>
  );
}

/** Gives a parameter a lane that stands where it stands. */
function addLaneFor(target: string, row: NumberNode): void {
  const document = useDocumentStore.getState().document!;
  const path = pathOf(document, target);
  if (!path) return;
  if (document.lanes.length >= MOST_LANES)
    return tell(`There are ${MOST_LANES} lanes, as many as a sound takes. Remove one first.`);
  edit('new lane', (draft) => {
    const at = toPosition(row, valueAt(document, path) as number);
    draft.lanes.push({ target, on: true, points: flatLane(at, document.ground.bars) });
  });
  tell('It has a lane now, in Motion and under the notes of the Line.');
}
