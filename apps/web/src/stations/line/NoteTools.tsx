import {
  clampValue,
  DIVISIONS,
  formatDivision,
  noteName,
  parameter,
  parseDivision,
  TICKS_PER_BEAT,
  type LineNote,
} from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { useState, type ReactNode } from 'react';
import { Choice } from '../../controls/Choice';
import { ListChoice } from '../../controls/ListChoice';
import { Panel } from '../../controls/Panel';
import { ParameterRow } from '../../controls/ParameterRow';
import { Row } from '../../controls/Row';
import { ToggleTitle } from '../../controls/ToggleTitle';
import { ValueField } from '../../controls/ValueField';
import { edit, useDocument } from '../../state/document-store';
import { tell } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { changeNotes, moveNotes } from './line-edits';
import {
  asPlayed,
  copied,
  duplicated,
  gapped,
  joined,
  legato,
  pasted,
  quantised,
  split,
  stretched,
  type Changed,
} from './note-tools';
import { useClipboard } from './clipboard';

const RATE = parameter('line.notes.*.wobbleBeats');
const GAP = { ...parameter('layers.*.loudness.delayMs'), label: 'Gap', min: 1, max: 200, default: 12 };
const GRIDS = ['1/4', '1/8', '1/8T', '1/16', '1/16T', '1/32'] as const;
const STRENGTHS = [
  { value: '0.5', label: '50 %' },
  { value: '0.75', label: '75 %' },
  { value: '1', label: '100 %' },
] as const;
const SWINGS = ['50', '54', '58', '62', '66'] as const;
const RATES = DIVISIONS.filter(
  (beats) => beats >= 1 / 12 && beats <= 4 && formatDivision(beats) !== null,
).reverse();

interface ToolsProps {
  readonly chosen: ReadonlySet<number>;
  readonly onChoose: (chosen: ReadonlySet<number>) => void;
}

function Tool({
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

/** All that is done with the chosen notes. */
export function NoteTools({ chosen, onChoose }: ToolsProps) {
  const document = useDocument();
  const { line, ground, drawStep } = document;
  const { notes } = line;
  const clipboard = useClipboard((state) => state.notes);
  const [gapMs, setGapMs] = useState<number>(GAP.default);
  const gridTicks = Math.round(parseDivision(drawStep)! * TICKS_PER_BEAT);
  const indices = [...chosen];
  const first = chosen.size > 0 ? notes[indices[0]] : null;
  const set = (label: string, next: LineNote[]) => {
    edit(label, (draft) => {
      draft.line.notes = next;
    });
  };
  const take = (label: string, changed: Changed) => {
    set(label, changed.notes);
    onChoose(changed.chosen);
  };
  const toggle = (field: 'accent' | 'tie') => {
    const to = !first?.[field];
    set(
      field,
      changeNotes(notes, chosen, () => ({ [field]: to })),
    );
  };
  const paste = () => {
    const last = chosen.size > 0 ? Math.max(...indices.map((i) => notes[i].tick + notes[i].ticks)) : 0;
    const changed = pasted(notes, clipboard, Math.ceil(last / gridTicks) * gridTicks, ground.bars);
    if (changed.chosen.size === 0)
      return tell(
        'There is no room behind the chosen notes: choose an earlier one, or make the loop longer.',
      );
    take('paste notes', changed);
  };
  const octave = (by: number) => {
    set(
      'octave',
      moveNotes(notes, chosen, 0, (pitch) => pitch + by * 12, ground.bars),
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
          {clipboard.length > 0 && (
            <Box sx={{ mt: '4px' }}>
              <Tool onClick={paste}>Paste {clipboard.length}</Tool>
            </Box>
          )}
        </Box>
      ) : (
        <>
          <ParameterRow path={['line', 'notes', indices[0], 'velocity']} of="Note" />
          <Row label="Wobble rate">
            <ListChoice
              label="Wobble rate of the note"
              options={[
                { value: '', label: 'the wobble’s own' },
                { value: '0', label: 'held' },
                ...RATES.map((beats) => ({ value: String(beats), label: formatDivision(beats)! })),
                ...(first.wobbleBeats !== null &&
                first.wobbleBeats !== 0 &&
                !RATES.includes(first.wobbleBeats)
                  ? [
                      {
                        value: String(first.wobbleBeats),
                        label: formatDivision(first.wobbleBeats) ?? `${first.wobbleBeats} beats`,
                      },
                    ]
                  : []),
              ]}
              value={first.wobbleBeats === null ? '' : String(first.wobbleBeats)}
              onChange={(value) => {
                set(
                  'wobble rate',
                  changeNotes(notes, chosen, () => ({ wobbleBeats: value === '' ? null : Number(value) })),
                );
              }}
            />
            {first.wobbleBeats !== null && (
              <ValueField
                row={RATE}
                label="Wobble rate of the note"
                value={first.wobbleBeats}
                a4Hz={440}
                onChange={(value) => {
                  set(
                    'wobble rate',
                    changeNotes(notes, chosen, () => ({ wobbleBeats: clampValue(RATE, value) })),
                  );
                }}
              />
            )}
          </Row>
          {document.kick.shared && (
            <Row label="Under a kick">
              <Choice
                label="Under a kick the note is"
                options={[
                  { value: 'both', label: 'both' },
                  { value: 'kick', label: 'kick only' },
                  { value: 'bass', label: 'bass only' },
                ]}
                value={first.carries}
                onChange={(carries) => {
                  set(
                    'under a kick',
                    changeNotes(notes, chosen, () => ({ carries })),
                  );
                }}
              />
            </Row>
          )}
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: '4px', mt: '4px', alignItems: 'center' }}>
            <Tool
              onClick={() => {
                useClipboard.setState({ notes: copied(notes, chosen) });
              }}
            >
              Copy
            </Tool>
            <Tool disabled={clipboard.length === 0} onClick={paste}>
              Paste
            </Tool>
            <Tool
              onClick={() => {
                take('duplicate notes', duplicated(notes, chosen, gridTicks, ground.bars));
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
                set('twice as slow', stretched(notes, chosen, 2, ground.bars));
                onChoose(new Set());
              }}
            >
              Twice as slow
            </Tool>
            <Tool
              onClick={() => {
                set('twice as fast', stretched(notes, chosen, 0.5, ground.bars));
              }}
            >
              Twice as fast
            </Tool>
            <Tool
              onClick={() => {
                set('legato', legato(notes, chosen));
              }}
            >
              Close gaps
            </Tool>
            <Tool
              onClick={() => {
                set('gaps', gapped(notes, chosen, gapMs, ground.tempoBpm));
              }}
            >
              Open gaps
            </Tool>
            <ValueField row={GAP} label="Gap" value={gapMs} a4Hz={440} width={54} onChange={setGapMs} />
            <Tool
              onClick={() => {
                take('split', split(notes, chosen, gridTicks));
              }}
            >
              Split
            </Tool>
            <Tool
              disabled={chosen.size < 2}
              onClick={() => {
                take('join', joined(notes, chosen));
              }}
            >
              Join
            </Tool>
            {chosen.size > 1 && (
              <Tool
                onClick={() => {
                  set(
                    'velocity',
                    changeNotes(notes, chosen, () => ({ velocity: first.velocity })),
                  );
                }}
              >
                The same velocity for all
              </Tool>
            )}
            <Tool
              onClick={() => {
                set(
                  'delete notes',
                  notes.filter((_note, i) => !chosen.has(i)),
                );
                onChoose(new Set());
              }}
            >
              Delete
            </Tool>
          </Box>
        </>
      )}
    </Panel>
  );
}

/** Quantising: how, and back to as it was played. */
export function QuantisePanel({ chosen }: { readonly chosen: ReadonlySet<number> }) {
  const { line, ground } = useDocument();
  const { notes } = line;
  const [grid, setGrid] = useState<(typeof GRIDS)[number]>('1/16');
  const [strength, setStrength] = useState<'0.5' | '0.75' | '1'>('1');
  const [swing, setSwing] = useState<(typeof SWINGS)[number]>('50');
  const [ends, setEnds] = useState(false);
  const mine = chosen.size > 0 ? chosen : new Set(notes.keys());
  const played = [...mine].some((i) => notes[i].played !== null);
  return (
    <Panel title="Quantise" aside={chosen.size > 0 ? 'the chosen notes' : 'all notes'}>
      <Row label="Grid">
        <Choice label="Quantise to" options={GRIDS} value={grid} onChange={setGrid} />
      </Row>
      <Row label="Strength">
        <Choice label="Strength" options={STRENGTHS} value={strength} onChange={setStrength} />
      </Row>
      <Row label="Swing">
        <Choice
          label="Swing"
          options={SWINGS.map((value) => ({ value, label: `${value} %` }))}
          value={swing}
          onChange={setSwing}
        />
        <ToggleTitle
          label="ends as well"
          on={ends}
          onToggle={() => {
            setEnds(!ends);
          }}
        />
      </Row>
      <Box sx={{ display: 'flex', gap: 1, mt: '4px' }}>
        <Button
          variant="contained"
          disabled={notes.length === 0}
          onClick={() => {
            const how = {
              gridTicks: Math.round(parseDivision(grid)! * TICKS_PER_BEAT),
              strength: Number(strength),
              swing: Number(swing) / 100,
              ends,
            };
            edit('quantise', (draft) => {
              draft.line.notes = quantised(notes, mine, how, ground.bars);
            });
          }}
        >
          Quantise
        </Button>
        <Button
          variant="outlined"
          disabled={!played}
          onClick={() => {
            edit('as played', (draft) => {
              draft.line.notes = asPlayed(notes, mine);
            });
          }}
        >
          As played
        </Button>
      </Box>
    </Panel>
  );
}
