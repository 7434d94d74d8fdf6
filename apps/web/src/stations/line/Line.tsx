import {
  fileNameOf,
  MOST_BARS,
  inScale,
  DRAW_STEPS,
  noteName,
  parseDivision,
  readMidi,
  scaleNotes,
  TICKS_PER_BEAT,
  writeMidi,
} from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { useRef, useState } from 'react';
import { Choice } from '../../controls/Choice';
import { Row } from '../../controls/Row';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { ToggleTitle } from '../../controls/ToggleTitle';
import { download } from '../../sounding/bounce';
import { edit, useDocument } from '../../state/document-store';
import { tell, tellError } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { changeNotes } from './line-edits';
import { PadStrip } from './PadStrip';
import { NoteSheet } from './NoteSheet';

const LOW = 24;
const HIGH = 48;
const MOST_MIDI_BYTES = 4 * 1024 * 1024;

/** What the sound plays. */
export function LineStation() {
  const document = useDocument();
  const { ground, line } = document;
  const [rowsOf, setRowsOf] = useState<'scale' | 'all'>('scale');
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const picker = useRef<HTMLInputElement>(null);
  const pitches = line.notes.map(({ pitch }) => pitch);
  const low = Math.min(LOW, ...pitches);
  const high = Math.max(HIGH - (rowsOf === 'all' ? 6 : 0), ...pitches);
  const inRows = scaleNotes(ground.key, rowsOf === 'scale' ? ground.scale : 'chromatic', low, high);
  // A note outside the scale keeps a row of its own: folding hides no note.
  const rows = [...new Set([...inRows, ...pitches])].sort((a, b) => a - b);
  const outside = new Set(rows.filter((pitch) => !inScale(pitch, ground.key, ground.scale)));
  const selection = new Set([...chosen].filter((i) => i < line.notes.length));

  const importMidi = async (file: File | undefined) => {
    if (!file) return;
    try {
      if (file.size > MOST_MIDI_BYTES) throw new Error('the MIDI file is larger than 4 MB');
      const found = readMidi(new Uint8Array(await file.arrayBuffer()));
      edit('MIDI line', (draft) => {
        draft.line.notes = found.notes;
        draft.ground.bars = Math.max(draft.ground.bars, found.bars);
      });
      setChosen(new Set());
      tell(
        `Imported ${found.notes.length} notes from ${file.name}${found.dropped > 0 ? `; ${found.dropped} past bar ${MOST_BARS} were left out` : ''}. Undo brings the old line back.`,
      );
    } catch (error) {
      tellError(new Error(`${file.name}: ${error instanceof Error ? error.message : String(error)}`));
    }
  };
  const first = selection.size > 0 ? line.notes[[...selection][0]] : null;
  const firstIndex = [...selection][0];
  const toggle = (field: 'accent' | 'tie') => {
    const to = !first?.[field];
    edit(field, (draft) => {
      draft.line.notes = changeNotes(line.notes, selection, () => ({ [field]: to }));
    });
  };
  return (
    <Box sx={{ display: 'grid', gap: '10px' }}>
      <Panel
        title="The line"
        aside={
          <>
            <Choice
              label="Rows"
              options={[
                { value: 'scale', label: 'scale rows' },
                { value: 'all', label: 'all rows' },
              ]}
              value={rowsOf}
              onChange={setRowsOf}
            />
            <Choice
              label="Grid"
              options={DRAW_STEPS}
              value={document.drawStep}
              onChange={(grid) => {
                edit('grid', (draft) => {
                  draft.drawStep = grid;
                });
              }}
            />
            <Button variant="outlined" onClick={() => picker.current?.click()}>
              MIDI in
            </Button>
            <Button
              variant="outlined"
              disabled={line.notes.length === 0}
              onClick={() => {
                download(
                  `${fileNameOf(document.name, 'line')}.mid`,
                  writeMidi(line.notes, ground.tempoBpm, document.name) as Uint8Array<ArrayBuffer>,
                  'audio/midi',
                );
              }}
            >
              MIDI out
            </Button>
            <input
              ref={picker}
              type="file"
              hidden
              accept=".mid,.midi,audio/midi"
              aria-label="MIDI file"
              onChange={(event) => {
                void importMidi(event.target.files?.[0]);
                event.target.value = '';
              }}
            />
          </>
        }
      >
        <NoteSheet
          rows={rows}
          outside={outside}
          gridTicks={Math.round(parseDivision(document.drawStep)! * TICKS_PER_BEAT)}
          chosen={selection}
          onChoose={setChosen}
        />
        <PadStrip />
        <Box sx={{ fontSize: TYPE.control, color: sea.ink2, mt: '6px' }}>
          Thickness is velocity and its ripple is the wobble on that note. Magenta notes are accents; a curved
          tie glides; hatched rows lie outside the scale. Red cones mark the kick; over a note that meets it
          stands their sum gain in dB: ● holds, ◐ watch, ✕ falls short.
        </Box>
      </Panel>
      <Panel
        title={
          first === null
            ? 'Note'
            : selection.size === 1
              ? `Note ${noteName(first.pitch)}`
              : `${selection.size} notes`
        }
        label="Note"
        aside={
          first ? (
            <>
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
            Click an empty place to draw a note; drag a note to move it, its end to lengthen it. With a note
            in focus: arrows move, Shift and arrows lengthen, plus and minus change the velocity, Q accents, T
            ties, Delete removes.
          </Box>
        ) : (
          <>
            <ParameterRow path={['line', 'notes', firstIndex, 'velocity']} of="Note" />
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
                    edit('under a kick', (draft) => {
                      draft.line.notes = changeNotes(line.notes, selection, () => ({ carries }));
                    });
                  }}
                />
              </Row>
            )}
            <Box sx={{ display: 'flex', gap: 1, mt: '4px' }}>
              {selection.size > 1 && (
                <Button
                  variant="outlined"
                  onClick={() => {
                    edit('velocity', (draft) => {
                      draft.line.notes = changeNotes(line.notes, selection, () => ({
                        velocity: first.velocity,
                      }));
                    });
                  }}
                >
                  The same velocity for all
                </Button>
              )}
              <Button
                variant="outlined"
                onClick={() => {
                  edit('delete notes', (draft) => {
                    draft.line.notes = line.notes.filter((_note, i) => !selection.has(i));
                  });
                  setChosen(new Set());
                }}
              >
                Delete
              </Button>
            </Box>
          </>
        )}
      </Panel>
    </Box>
  );
}
