import { fileNameOf, MOST_BARS, inScale, DRAW_STEPS, readMidi, scaleNotes, writeMidi } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { memo, useCallback, useMemo, useRef, useState } from 'react';
import { Choice } from '../../controls/Choice';
import { Columns } from '../../controls/Columns';
import { FileInput } from '../../controls/FileButton';
import { ListChoice } from '../../controls/ListChoice';
import { Panel } from '../../controls/Panel';
import { AddLane, LaneList } from '../../lanes/LaneList';
import { download } from '../../sounding/bounce';
import { useControls } from '../../midi/bindings';
import { lanesIn, lanesOut } from '../../midi/midi-files';
import { drawTicks } from '../../state/draw-ticks';
import { edit, presentSound, useSound } from '../../state/document-store';
import { tell, tellError } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { PadStrip } from './PadStrip';
import { NoteSheet } from './NoteSheet';
import { START_LINES, startLine } from './note-tools';
import { NoteTools } from './NoteTools';
import { QuantisePanel } from './QuantisePanel';
import { RecordPanel } from './RecordPanel';

const LOW = 24;
const HIGH = 48;
const MOST_MIDI_BYTES = 4 * 1024 * 1024;

type RowsOf = 'scale' | 'all';
type Zoom = '1' | '2' | '4';

interface SheetChoicesProps {
  readonly rowsOf: RowsOf;
  readonly onRowsOf: (rowsOf: RowsOf) => void;
  readonly zoom: Zoom;
  readonly onZoom: (zoom: Zoom) => void;
}

/** How the sheet is shown: which rows, which grid, how wide. */
const SheetChoices = memo(function SheetChoices({ rowsOf, onRowsOf, zoom, onZoom }: SheetChoicesProps) {
  const grid = useSound((sound) => sound.drawStep);
  return (
    <>
      <Choice
        label="Rows"
        options={[
          { value: 'scale', label: 'scale rows' },
          { value: 'all', label: 'all rows' },
        ]}
        value={rowsOf}
        onChange={onRowsOf}
      />
      <Choice
        label="Grid"
        options={DRAW_STEPS}
        value={grid}
        onChange={(to) => {
          edit('grid', (draft) => {
            draft.drawStep = to;
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
        onChange={onZoom}
      />
    </>
  );
});

/** Saves the line, and the lanes that a controller has, as a MIDI file. */
function exportMidi(): void {
  const sound = presentSound();
  download(
    `${fileNameOf(sound.name, 'line')}.mid`,
    writeMidi(
      sound.line.notes,
      sound.ground.tempoBpm,
      sound.name,
      lanesOut(sound, useControls.getState().ofBrowser),
    ) as Uint8Array<ArrayBuffer>,
    'audio/midi',
  );
}

interface SheetFootProps {
  readonly onChoose: (chosen: ReadonlySet<number>) => void;
  readonly onMidi: () => void;
}

/** What stands under the sheet: lanes and lines to begin with, MIDI files, pads, and how to read the sheet. */
const SheetFoot = memo(function SheetFoot({ onChoose, onMidi }: SheetFootProps) {
  const none = useSound(({ line }) => line.notes.length === 0);
  return (
    <>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: '6px', my: '6px' }}>
        <AddLane />
        <ListChoice
          label="Start with"
          options={[{ value: '', label: 'Start with…' }, ...START_LINES]}
          value=""
          onChange={(which) => {
            if (which === '') return;
            edit(which, (draft) => {
              draft.line.notes = startLine(which, draft.ground.key, draft.ground.bars);
            });
            onChoose(new Set());
          }}
        />
        <Button variant="outlined" onClick={onMidi}>
          MIDI in
        </Button>
        <Button variant="outlined" disabled={none} onClick={exportMidi}>
          MIDI out
        </Button>
      </Box>
      <PadStrip />
      <Box sx={{ fontSize: TYPE.control, color: sea.ink2, mt: '6px' }}>
        Thickness is velocity and its ripple is the wobble on that note. Magenta notes are accents; a curved
        tie glides; hatched rows lie outside the scale. Red cones mark the kick; over a note that meets it
        stands their sum gain in dB: ● holds, ◐ watch, ✕ falls short.
      </Box>
    </>
  );
});

/** What the sound plays. */
export function LineStation() {
  const ground = useSound((sound) => sound.ground);
  const notes = useSound(({ line }) => line.notes);
  const gridTicks = useSound(drawTicks);
  const [rowsOf, setRowsOf] = useState<RowsOf>('scale');
  const [zoom, setZoom] = useState<Zoom>('1');
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const picker = useRef<HTMLInputElement>(null);
  const pitches = notes.map(({ pitch }) => pitch);
  const low = Math.min(LOW, ...pitches);
  const high = Math.max(HIGH - (rowsOf === 'all' ? 6 : 0), ...pitches);
  const inRows = scaleNotes(ground.key, rowsOf === 'scale' ? ground.scale : 'chromatic', low, high);
  // A note outside the scale keeps a row of its own: folding hides no note.
  const rowWords = [...new Set([...inRows, ...pitches])].sort((a, b) => a - b).join(' ');
  const rows = useMemo(() => rowWords.split(' ').map(Number), [rowWords]);
  const { key, scale } = ground;
  const outside = useMemo(
    () => new Set(rows.filter((pitch) => !inScale(pitch, key, scale))),
    [rows, key, scale],
  );
  const count = notes.length;
  const selection = useMemo(() => new Set([...chosen].filter((i) => i < count)), [chosen, count]);

  const importMidi = async (file: File) => {
    try {
      if (file.size > MOST_MIDI_BYTES) throw new Error('the MIDI file is larger than 4 MB');
      const found = readMidi(new Uint8Array(await file.arrayBuffer()));
      const { ground } = presentSound();
      const taken = lanesIn(presentSound(), found.lanes, useControls.getState().ofBrowser);
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
  const openMidi = useCallback(() => picker.current?.click(), []);
  return (
    <Box sx={{ display: 'grid', gap: '10px' }}>
      <Panel
        title="The line"
        aside={
          <>
            <SheetChoices rowsOf={rowsOf} onRowsOf={setRowsOf} zoom={zoom} onZoom={setZoom} />
            <FileInput
              picker={picker}
              label="MIDI file"
              accept=".mid,.midi,audio/midi"
              onFiles={([file]) => {
                void importMidi(file);
              }}
            />
          </>
        }
      >
        <NoteSheet
          rows={rows}
          outside={outside}
          gridTicks={gridTicks}
          chosen={selection}
          zoom={Number(zoom)}
          onChoose={setChosen}
        />
        <LaneList left={44} />
        <SheetFoot onChoose={setChosen} onMidi={openMidi} />
      </Panel>
      <NoteTools chosen={selection} onChoose={setChosen} />
      <Columns>
        <QuantisePanel chosen={selection} />
        <RecordPanel />
      </Columns>
    </Box>
  );
}
