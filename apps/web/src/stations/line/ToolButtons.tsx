import { parameter } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { memo, useState, type ReactNode } from 'react';
import { ValueField } from '../../controls/ValueField';
import { drawTicks } from '../../state/draw-ticks';
import { presentSound } from '../../state/document-store';
import { tell } from '../../state/view-store';
import { TYPE } from '../../theme/type';
import { useClipboard } from './clipboard';
import { changeNotes, moveNotes } from './line-edits';
import {
  copied,
  duplicated,
  gapped,
  joined,
  legato,
  pasted,
  split,
  stretched,
  type Changed,
} from './note-tools';
import { presentNotes, setNotes } from './set-notes';

const GAP = { ...parameter('layers.*.loudness.delayMs'), label: 'Gap', min: 1, max: 200, default: 12 };

export interface ChosenProps {
  readonly chosen: ReadonlySet<number>;
  readonly onChoose: (chosen: ReadonlySet<number>) => void;
}

export function Tool({
  children,
  onClick,
  disabled = false,
}: {
  readonly children: ReactNode;
  readonly onClick: () => void;
  readonly disabled?: boolean;
}) {
  return (
    <Button
      variant="outlined"
      disabled={disabled}
      sx={{ p: '0 7px', fontSize: TYPE.control }}
      onClick={onClick}
    >
      {children}
    </Button>
  );
}

/** Pastes what was copied behind the chosen notes, or at the start where none is. */
export function pasteAfter(chosen: ReadonlySet<number>, onChoose: ChosenProps['onChoose']): void {
  const notes = presentNotes();
  const gridTicks = drawTicks(presentSound());
  const last = Math.max(0, ...[...chosen].map((i) => notes[i].tick + notes[i].ticks));
  const changed = pasted(
    notes,
    useClipboard.getState().notes,
    Math.ceil(last / gridTicks) * gridTicks,
    presentSound().ground.bars,
  );
  if (changed.chosen.size === 0)
    return tell('There is no room behind the chosen notes: choose an earlier one, or make the loop longer.');
  setNotes('paste notes', changed.notes);
  onChoose(changed.chosen);
}

/** What is done with the chosen notes at a press. */
export const ToolButtons = memo(function ToolButtons({ chosen, onChoose }: ChosenProps) {
  const none = useClipboard((state) => state.notes.length === 0);
  const [gapMs, setGapMs] = useState<number>(GAP.default);
  const [first] = chosen;
  const take = (label: string, changed: Changed) => {
    setNotes(label, changed.notes);
    onChoose(changed.chosen);
  };
  const octave = (by: number) => {
    setNotes(
      'octave',
      moveNotes(presentNotes(), chosen, 0, (pitch) => pitch + by * 12, presentSound().ground.bars),
    );
  };
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: '4px', mt: '4px', alignItems: 'center' }}>
      <Tool
        onClick={() => {
          useClipboard.setState({ notes: copied(presentNotes(), chosen) });
        }}
      >
        Copy
      </Tool>
      <Tool
        disabled={none}
        onClick={() => {
          pasteAfter(chosen, onChoose);
        }}
      >
        Paste
      </Tool>
      <Tool
        onClick={() => {
          take(
            'duplicate notes',
            duplicated(presentNotes(), chosen, drawTicks(presentSound()), presentSound().ground.bars),
          );
        }}
      >
        Duplicate
      </Tool>
      <Tool
        onClick={() => {
          octave(1);
        }}
      >
        Octave up
      </Tool>
      <Tool
        onClick={() => {
          octave(-1);
        }}
      >
        Octave down
      </Tool>
      <Tool
        onClick={() => {
          setNotes('twice as slow', stretched(presentNotes(), chosen, 2, presentSound().ground.bars));
          onChoose(new Set());
        }}
      >
        Twice as slow
      </Tool>
      <Tool
        onClick={() => {
          setNotes('twice as fast', stretched(presentNotes(), chosen, 0.5, presentSound().ground.bars));
        }}
      >
        Twice as fast
      </Tool>
      <Tool
        onClick={() => {
          setNotes('legato', legato(presentNotes(), chosen));
        }}
      >
        Close gaps
      </Tool>
      <Tool
        onClick={() => {
          setNotes('gaps', gapped(presentNotes(), chosen, gapMs, presentSound().ground.tempoBpm));
        }}
      >
        Open gaps
      </Tool>
      <ValueField row={GAP} label="Gap" value={gapMs} a4Hz={440} width={54} onChange={setGapMs} />
      <Tool
        onClick={() => {
          take('split', split(presentNotes(), chosen, drawTicks(presentSound())));
        }}
      >
        Split
      </Tool>
      <Tool
        disabled={chosen.size < 2}
        onClick={() => {
          take('join', joined(presentNotes(), chosen));
        }}
      >
        Join
      </Tool>
      {chosen.size > 1 && (
        <Tool
          onClick={() => {
            setNotes(
              'velocity',
              changeNotes(presentNotes(), chosen, () => ({ velocity: presentNotes()[first].velocity })),
            );
          }}
        >
          The same velocity for all
        </Tool>
      )}
      <Tool
        onClick={() => {
          setNotes(
            'delete notes',
            presentNotes().filter((_note, i) => !chosen.has(i)),
          );
          onChoose(new Set());
        }}
      >
        Delete
      </Tool>
    </Box>
  );
});
