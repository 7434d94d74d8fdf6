import { placeName, unitKindOf, unitName, type GritUnit, type UnitPlace } from '@abyssal/core';
import { useDroppable } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { Box, Tooltip } from '@mui/material';
import { Lock } from 'lucide-react';
import { memo, type KeyboardEvent } from 'react';
import { useChainFigures } from '../sounding/chain-figures';
import { edit, presentSound, useSound } from '../state/document-store';
import { chainAt } from '../state/path';
import { removeUnit } from '../state/unit-edits';
import { useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { AddUnit } from './AddUnit';
import { moveTo } from './ChainBoard';
import { placeKey } from './place-key';
import { usePlaces } from './places';

const boxId = (id: string) => `unit-${id}`;
const choose = (id: string) => {
  useView.setState({ unitId: id, entry: 0 });
};

/** The units of a chain in order, and what adds one; `empty` is said where there is none. */
export const ChainStrip = memo(function ChainStrip({
  place,
  empty,
}: {
  readonly place: UnitPlace;
  readonly empty?: string;
}) {
  const units = useSound((sound) => chainAt(sound, place));
  const name = useSound((sound) => placeName(sound, place));
  const chosen = useView((state) => state.unitId);
  const { setNodeRef, isOver } = useDroppable({ id: placeKey(place) });
  return (
    <SortableContext items={units.map(({ id }) => id)} strategy={horizontalListSortingStrategy}>
      <Box
        ref={setNodeRef}
        role="group"
        aria-label={`Units of ${name}`}
        sx={{
          display: 'flex',
          flexWrap: 'wrap',
          alignItems: 'center',
          rowGap: '4px',
          minHeight: 30,
          minWidth: 0,
          outline: isOver ? `1px dashed ${sea.note}` : 'none',
          outlineOffset: 3,
        }}
      >
        {units.length === 0 && empty && (
          <Box component="span" sx={{ color: sea.ink2, fontSize: TYPE.note, mr: '10px' }}>
            {empty}
          </Box>
        )}
        {units.map((unit, at) => (
          <UnitBox
            key={unit.id}
            unit={unit}
            name={unitName(units, unit)}
            place={place}
            at={at}
            chosen={unit.id === chosen}
          />
        ))}
        <AddUnit place={place} of={name} />
      </Box>
    </SortableContext>
  );
});

interface UnitBoxProps {
  readonly unit: GritUnit;
  readonly name: string;
  readonly place: UnitPlace;
  readonly at: number;
  readonly chosen: boolean;
}

/** A unit: chosen by a click, moved by a drag; the arrows choose, with Alt they move, Delete removes. */
const UnitBox = memo(function UnitBox({ unit, name, place, at, chosen }: UnitBoxProps) {
  const places = usePlaces();
  const { setNodeRef, listeners, transform, isDragging } = useSortable({ id: unit.id });
  const change = useChainFigures(({ units }) => {
    const found = units?.get(unit.id);
    const { before, after } = found ?? {};
    return before?.loudnessLufs == null || after?.loudnessLufs == null
      ? null
      : after.loudnessLufs - before.loudnessLufs;
  });
  const row = places.findIndex((each) => placeKey(each) === placeKey(place));
  const focus = (id: string | undefined) => {
    if (id === undefined) return;
    choose(id);
    requestAnimationFrame(() => document.getElementById(boxId(id))?.focus());
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const sound = presentSound();
    const along = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const across = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const units = chainAt(sound, place);
    if (along !== undefined && event.altKey) moveTo(unit.id, place, Math.max(0, at + along));
    else if (along !== undefined) focus(units.at(Math.max(0, Math.min(units.length - 1, at + along)))?.id);
    else if (across !== undefined) {
      const next = places
        .slice(across < 0 ? 0 : row + 1, across < 0 ? Math.max(0, row) : undefined)
        .filter((each) => event.altKey || chainAt(sound, each).length > 0)
        .at(across < 0 ? -1 : 0);
      if (next && event.altKey) moveTo(unit.id, next, at);
      else if (next) focus(chainAt(sound, next)[Math.min(at, chainAt(sound, next).length - 1)].id);
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      const rest = units.filter(({ id }) => id !== unit.id);
      edit(`remove ${name}`, (draft) => {
        removeUnit(draft, unit.id);
      });
      focus(rest.at(Math.min(at, rest.length - 1))?.id);
    } else return;
    if (event.altKey) requestAnimationFrame(() => document.getElementById(boxId(unit.id))?.focus());
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Tooltip
      title={`${unitKindOf(unit.kind).purpose}${change === null ? '' : ` ${loudnessWords(change)}`}`}
      placement="top"
      disableInteractive
      describeChild
      enterDelay={500}
    >
      <Box
        component="button"
        type="button"
        ref={setNodeRef}
        {...listeners}
        id={boxId(unit.id)}
        aria-pressed={chosen}
        aria-label={unit.on ? name : `${name}, off`}
        aria-keyshortcuts="Alt+ArrowLeft Alt+ArrowRight Alt+ArrowUp Alt+ArrowDown Delete"
        style={
          transform
            ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 1, position: 'relative' }
            : undefined
        }
        onClick={() => {
          choose(unit.id);
        }}
        onKeyDown={onKeyDown}
        sx={{
          font: 'inherit',
          fontSize: TYPE.control,
          display: 'inline-flex',
          alignItems: 'center',
          gap: '4px',
          height: 26,
          p: '0 8px',
          mr: '12px',
          position: 'relative',
          whiteSpace: 'nowrap',
          color: chosen ? sea.onInk : sea.ink,
          bgcolor: chosen ? sea.ink : sea.sheet,
          border: `1px ${unit.on ? 'solid' : 'dashed'} ${sea.ink}`,
          borderRadius: '2px',
          opacity: isDragging || !unit.on ? 0.75 : 1,
          textDecoration: unit.on ? 'none' : 'line-through',
          touchAction: 'none',
          cursor: 'pointer',
          '&::after': {
            content: '""',
            position: 'absolute',
            left: '100%',
            top: '50%',
            width: 12,
            borderTop: `1px solid ${sea.ink}`,
          },
        }}
      >
        {unit.locked && <Lock size={11} aria-label="locked" />}
        {name}
      </Box>
    </Tooltip>
  );
});

/** What a unit does to the loudness, in words. */
export function loudnessWords(change: number): string {
  const by = Math.abs(change).toFixed(1);
  return by === '0.0'
    ? 'As loud behind it as before it.'
    : `${by} dB ${change > 0 ? 'louder' : 'softer'} behind it.`;
}
