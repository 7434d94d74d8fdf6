import {
  fileNameOf,
  MOST_BARS,
  inScale,
  DRAW_STEPS,
  parseDivision,
  readMidi,
  scaleNotes,
  TICKS_PER_BEAT,
  writeMidi,
} from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { useRef, useState } from 'react';
import { Choice } from '../../controls/Choice';
import { Columns } from '../../controls/Columns';
import { ListChoice } from '../../controls/ListChoice';
import { Panel } from '../../controls/Panel';
import { AddLane, LaneList } from '../../lanes/LaneList';
import { download } from '../../sounding/bounce';
import { useControls } from '../../midi/bindings';
import { lanesIn, lanesOut } from '../../midi/midi-files';
import { edit, useDocument } from '../../state/document-store';
import { tell, tellError } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { PadStrip } from './PadStrip';
import { NoteSheet } from './NoteSheet';
import { START_LINES, startLine } from './note-tools';
import { NoteTools, QuantisePanel } from './NoteTools';
import { RecordPanel } from './RecordPanel';

const LOW = 24;
const HIGH = 48;
const MOST_MIDI_BYTES = 4 * 1024 * 1024;

/** What the sound plays. */
export function LineStation() {
  const document = useDocument();
  const { ground, line } = document;
  const [rowsOf, setRowsOf] = useState<'scale' | 'all'>('scale');
  const [zoom, setZoom] = useState<'1' | '2' | '4'>('1');
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
      const taken = lanesIn(document, found.lanes, useControls.getState().ofBrowser);
      const differs = [
        ...(found.tempoBpm !== null && Math.abs(found.tempoBpm - ground.tempoBpm) > 0.05
          ? [`It is at ${Number(found.tempoBpm.toFixed(1))} bpm; the sound stays at ${ground.tempoBpm}.`]
          : []),
        ...(found.timeSignature !== null && found.timeSignature !== '4/4'
          ? [`It is in ${found.timeSignature}; lines are in 4/4.`]
          : []),
        ...(taken.left.length > 0
          ? [`Nothing is bound to ${taken.left.join(', ')}: bind it in Motion to take it as a lane.`]
          : []),
      ];
      edit('MIDI line', (draft) => {
        draft.line.notes = found.notes;
        draft.ground.bars = Math.max(draft.ground.bars, found.bars);
        draft.lanes = taken.lanes;
      });
      setChosen(new Set());
      tell(
        `Imported ${found.notes.length} notes from ${file.name}${found.dropped > 0 ? `; ${found.dropped} past bar ${MOST_BARS} were left out` : ''}. Undo brings the old line back.${differs.map((each) => ` ${each}`).join('')}`,
      );
    } catch (error) {
      tellError(new Error(`${file.name}: ${error instanceof Error ? error.message : String(error)}`));
    }
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
            <Choice
              label="Zoom"
              options={[
                { value: '1', label: 'all' },
                { value: '2', label: '2×' },
                { value: '4', label: '4×' },
              ]}
              value={zoom}
              onChange={setZoom}
            />
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
          zoom={Number(zoom)}
          onChoose={setChosen}
        />
        <LaneList left={44} />
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: '6px', my: '6px' }}>
          <AddLane />
          <ListChoice
            label="Start with"
            options={[{ value: '', label: 'Start with…' }, ...START_LINES]}
            value=""
            onChange={(which) => {
              if (which === '') return;
              edit(which, (draft) => {
                draft.line.notes = startLine(which, ground.key, ground.bars);
              });
              setChosen(new Set());
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
                writeMidi(
                  line.notes,
                  ground.tempoBpm,
                  document.name,
                  lanesOut(document, useControls.getState().ofBrowser),
                ) as Uint8Array<ArrayBuffer>,
                'audio/midi',
              );
            }}
          >
            MIDI out
          </Button>
        </Box>
        <PadStrip />
        <Box sx={{ fontSize: TYPE.control, color: sea.ink2, mt: '6px' }}>
          Thickness is velocity and its ripple is the wobble on that note. Magenta notes are accents; a curved
          tie glides; hatched rows lie outside the scale. Red cones mark the kick; over a note that meets it
          stands their sum gain in dB: ● holds, ◐ watch, ✕ falls short.
        </Box>
      </Panel>
      <NoteTools chosen={selection} onChoose={setChosen} />
      <Columns>
        <QuantisePanel chosen={selection} />
        <RecordPanel />
      </Columns>
    </Box>
  );
}
