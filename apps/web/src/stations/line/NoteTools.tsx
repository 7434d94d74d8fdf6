import {
  clampValue,
  DIVISIONS,
  formatDivision,
  noteName,
  parameter,
  TICKS_PER_BEAT,
  type LineNote,
} from '@abyssal/core';
import { Box } from '@mui/material';
import { memo, useDeferredValue, useMemo } from 'react';
import { Choice } from '../../controls/Choice';
import { ListChoice } from '../../controls/ListChoice';
import { Panel } from '../../controls/Panel';
import { ParameterRow } from '../../controls/ParameterRow';
import { Row } from '../../controls/Row';
import { ToggleTitle } from '../../controls/ToggleTitle';
import { ValueField } from '../../controls/ValueField';
import { useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { useClipboard } from './clipboard';
import { changeNotes } from './line-edits';
import { presentNotes, setNotes } from './set-notes';
import { pasteAfter, Tool, ToolButtons, type ChosenProps } from './ToolButtons';

const RATE = parameter('line.notes.*.wobbleBeats');
const RATES = DIVISIONS.filter(
  (beats) => beats >= 1 / 12 && beats <= 4 && formatDivision(beats) !== null,
).reverse();

/** What the chosen notes are, in words: how many, which pitches, where. */
export function chosenWords(notes: readonly LineNote[], chosen: ReadonlySet<number>): string {
  const mine = [...chosen].map((i) => notes[i]);
  if (mine.length === 0) return '';
  const pitches = mine.map(({ pitch }) => pitch);
  const low = Math.min(...pitches);
  const high = Math.max(...pitches);
  const from = Math.min(...mine.map(({ tick }) => tick)) / TICKS_PER_BEAT;
  const to = Math.max(...mine.map((note) => note.tick + note.ticks)) / TICKS_PER_BEAT;
  const place = (beats: number) => `${Math.floor(beats / 4) + 1}.${Math.floor(beats % 4) + 1}`;
  return `${mine.length === 1 ? '1 note' : `${mine.length} notes`}, ${noteName(low)}${high > low ? ` to ${noteName(high)}` : ''}, from ${place(from)} to ${place(Math.max(from, to - 0.01))}`;
}

/**
 * All that is done with the chosen notes. It is shown a moment late, so that a drag over the sheet is drawn first;
 * what it does, it does to the present line.
 */
export const NoteTools = memo(function NoteTools({ chosen, onChoose }: ChosenProps) {
  const notes = useSound(({ line }) => line.notes);
  const present = useMemo(() => ({ notes, chosen }), [notes, chosen]);
  const later = useDeferredValue(present);
  // Notes that are gone have no settings to show any more.
  const shown = later.notes.length === notes.length ? later : present;
  return <ChosenPanel notes={shown.notes} chosen={shown.chosen} onChoose={onChoose} />;
});

const ChosenPanel = memo(function ChosenPanel({
  notes,
  chosen,
  onChoose,
}: ChosenProps & { readonly notes: readonly LineNote[] }) {
  const shared = useSound(({ kick }) => kick.shared);
  const copies = useClipboard((state) => state.notes.length);
  const first = chosen.size > 0 ? notes[[...chosen][0]] : null;
  const toggle = (field: 'accent' | 'tie') => {
    const to = !first?.[field];
    setNotes(
      field,
      changeNotes(presentNotes(), chosen, () => ({ [field]: to })),
    );
  };
  return (
    <Panel
      title={
        first === null ? 'Note' : chosen.size === 1 ? `Note ${noteName(first.pitch)}` : `${chosen.size} notes`
      }
      label="Note"
      aside={
        first ? (
          <>
            <span aria-live="polite">{chosenWords(notes, chosen)}</span>
            <ToggleTitle
              label="Accent"
              on={first.accent}
              onToggle={() => {
                toggle('accent');
              }}
            />
            <ToggleTitle
              label="Tie"
              on={first.tie}
              onToggle={() => {
                toggle('tie');
              }}
            />
          </>
        ) : undefined
      }
    >
      {first === null ? (
        <Box sx={{ color: sea.ink2, fontSize: TYPE.label, lineHeight: 1.55 }}>
          Click an empty place to draw a note; drag a note to move it, its end to lengthen it; with Alt, up
          and down, its wobble’s rate. Shift and drag over the grid chooses several. With a note in focus:
          arrows move, Shift and arrows lengthen, Alt and arrows nudge, plus and minus change the velocity, Q
          accents, T ties, Delete removes.
          {copies > 0 && (
            <Box sx={{ mt: '4px' }}>
              <Tool
                onClick={() => {
                  pasteAfter(chosen, onChoose);
                }}
              >
                Paste {copies}
              </Tool>
            </Box>
          )}
        </Box>
      ) : (
        <>
          <ParameterRow path={['line', 'notes', [...chosen][0], 'velocity']} of="Note" />
          <NoteRate wobbleBeats={first.wobbleBeats} chosen={chosen} />
          {shared && <NoteCarries carries={first.carries} chosen={chosen} />}
          <ToolButtons chosen={chosen} onChoose={onChoose} />
        </>
      )}
    </Panel>
  );
});

/** The rate that the notes give to wobbles. */
const NoteRate = memo(function NoteRate({
  wobbleBeats,
  chosen,
}: Pick<LineNote, 'wobbleBeats'> & Pick<ChosenProps, 'chosen'>) {
  return (
    <Row label="Wobble rate">
      <ListChoice
        label="Wobble rate of the note"
        options={[
          { value: '', label: 'the wobble’s own' },
          { value: '0', label: 'held' },
          ...RATES.map((beats) => ({ value: String(beats), label: formatDivision(beats)! })),
          ...(wobbleBeats !== null && wobbleBeats !== 0 && !RATES.includes(wobbleBeats)
            ? [
                {
                  value: String(wobbleBeats),
                  label: formatDivision(wobbleBeats) ?? `${wobbleBeats} beats`,
                },
              ]
            : []),
        ]}
        value={wobbleBeats === null ? '' : String(wobbleBeats)}
        onChange={(value) => {
          setNotes(
            'wobble rate',
            changeNotes(presentNotes(), chosen, () => ({ wobbleBeats: value === '' ? null : Number(value) })),
          );
        }}
      />
      {wobbleBeats !== null && (
        <ValueField
          row={RATE}
          label="Wobble rate of the note"
          value={wobbleBeats}
          a4Hz={440}
          onChange={(value) => {
            setNotes(
              'wobble rate',
              changeNotes(presentNotes(), chosen, () => ({ wobbleBeats: clampValue(RATE, value) })),
            );
          }}
        />
      )}
    </Row>
  );
});

/** What of the notes sounds under a kick of one oscillator with them. */
const NoteCarries = memo(function NoteCarries({
  carries,
  chosen,
}: Pick<LineNote, 'carries'> & Pick<ChosenProps, 'chosen'>) {
  return (
    <Row label="Under a kick">
      <Choice
        label="Under a kick the note is"
        options={[
          { value: 'both', label: 'both' },
          { value: 'kick', label: 'kick only' },
          { value: 'bass', label: 'bass only' },
        ]}
        value={carries}
        onChange={(to) => {
          setNotes(
            'under a kick',
            changeNotes(presentNotes(), chosen, () => ({ carries: to })),
          );
        }}
      />
    </Row>
  );
});
