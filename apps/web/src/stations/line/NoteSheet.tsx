import { KEY_NAMES, TICKS_PER_BEAT, type LineNote } from '@abyssal/core';
import { Box } from '@mui/material';
import { useMemo, useRef } from 'react';
import { PlayLine } from '../../controls/PlayLine';
import { useSize } from '../../controls/use-size';
import { useSounding } from '../../sounding/sounding-store';
import { edit, useDocument, useSound } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { viewOf } from '../motion/kinds';
import { LockMark } from './LockMark';
import { SheetRows } from './SheetRows';
import { NoteShape } from './NoteShape';
import { noteWords } from './note-words';
import { sheetGeometry } from './sheet-geometry';
import { TieCurve } from './TieCurve';
import { useFollow } from './use-follow';
import { VelocityLane } from './VelocityLane';
import { useNoteDrag } from './use-note-drag';
import { useNoteKeys } from './use-note-keys';

/** A note this wide, in pixels, has its figure beside the mark. */
const NUMBER_PX = 44;
/** The lowest pitch at which Enter adds a note: the root from E1 up. */
const ENTER_FROM = 28;
/** Room for the velocities under the notes. */
const LANE_PX = 54;

interface NoteSheetProps {
  readonly rows: readonly number[];
  /** Of them, those outside the scale. */
  readonly outside: ReadonlySet<number>;
  readonly gridTicks: number;
  readonly chosen: ReadonlySet<number>;
  /** How many times wider than the room it is. */
  readonly zoom: number;
  readonly onChoose: (chosen: ReadonlySet<number>) => void;
}

const keyOf = ({ tick, ticks, pitch }: LineNote) => `${tick} ${ticks} ${pitch}`;

/** How notes stand to the kick, as it was measured last; one that has moved since has no figure until it is measured. */
function useLocks() {
  const measured = useSounding((state) => state.shown?.notes);
  return useMemo(() => new Map(measured?.map((found) => [keyOf(found.note), found] as const)), [measured]);
}

/** What outlines the notes over the loop, 0 to 1: the first mover that does; null where none is on. */
function useOutline(): Float32Array | null {
  const mover = useSound((sound) => sound.movers.find((each) => each.on && viewOf(each).outlinesNotes)?.id);
  const moved = useSounding((state) => state.shown?.moved);
  return moved?.find(({ id }) => id === mover)?.values ?? null;
}

function setNotes(label: string, next: LineNote[], group: string | null = null): void {
  edit(
    label,
    (draft) => {
      draft.line.notes = next;
    },
    group,
  );
}

/** The notes over the loop, deep notes low; one row for each note of the scale. */
export function NoteSheet({ rows, outside, gridTicks, chosen, zoom, onChoose }: NoteSheetProps) {
  const { line, ground, kick, targets } = useDocument();
  const { notes } = line;
  const [ref, { width: room }] = useSize<HTMLDivElement>();
  const width = room * zoom;
  const svg = useRef<SVGSVGElement>(null);
  const outline = useOutline();
  const locks = useLocks();
  const rateHz = useSounding((state) => state.shown?.low.rateHz ?? 1);
  const tickOf = (frame: number) => (frame / rateHz) * (ground.tempoBpm / 60) * TICKS_PER_BEAT;

  const geometry = sheetGeometry(rows, ground.bars, width);
  const gestures = { svg, geometry, notes, bars: ground.bars, gridTicks, chosen, onChoose, set: setNotes };
  const { draw, dragNote, addAfter, marquee } = useNoteDrag(gestures);
  const scroll = useFollow(geometry, zoom);
  const onKeyDown = useNoteKeys(gestures);

  const { xOf, yOf, height, floor, rowHeight, total } = geometry;
  const root = KEY_NAMES.indexOf(ground.key);
  const order = notes
    .map((note, index) => ({ note, index }))
    .sort((a, b) => a.note.tick - b.note.tick || a.note.pitch - b.note.pitch);
  const count = `${notes.length} ${notes.length === 1 ? 'note' : 'notes'}`;
  return (
    <Box ref={ref}>
      <Box
        ref={scroll}
        sx={{ minHeight: height + LANE_PX, overflowX: zoom > 1 ? 'auto' : 'hidden', overflowY: 'hidden' }}
      >
        {width > 0 && (
          <>
            <svg
              ref={svg}
              width={width}
              height={height}
              role="group"
              aria-label={`The line: ${count} over ${ground.bars} bars. Enter on the grid adds a note.`}
            >
              <SheetRows
                geometry={geometry}
                gridTicks={gridTicks}
                outside={outside}
                keyName={ground.key}
                bars={ground.bars}
                hits={kick.on ? kick.hits.map(({ tick }) => tick) : []}
                draw={draw()}
                onEnter={() => {
                  addAfter(rows.find((row) => row % 12 === root && row >= ENTER_FROM) ?? rows[0]);
                }}
              />
              {order.map(({ note, index }, k) => {
                const lock = locks.get(keyOf(note));
                const x = xOf(note.tick);
                const y = yOf(note.pitch);
                const across = xOf(note.tick + note.ticks) - x;
                return (
                  <g
                    key={index}
                    {...dragNote(index)}
                    data-note={index}
                    tabIndex={0}
                    role="button"
                    aria-pressed={chosen.has(index)}
                    aria-label={noteWords(note, outside.has(note.pitch), lock, targets)}
                    onKeyDown={(event) => {
                      onKeyDown(event, index);
                    }}
                    onFocus={() => {
                      useView.setState({ hereTick: note.tick });
                      if (!chosen.has(index)) onChoose(new Set([index]));
                    }}
                    style={{ cursor: 'move', touchAction: 'none', outlineOffset: 1 }}
                  >
                    {note.tie && k > 0 && <TieCurve geometry={geometry} from={order[k - 1].note} to={note} />}
                    <NoteShape
                      note={note}
                      x={x}
                      width={across}
                      y={y}
                      height={rowHeight}
                      wobble={outline}
                      total={total}
                      chosen={chosen.has(index)}
                    />
                    {lock?.meetings.map((meeting) => (
                      <LockMark
                        key={`${meeting.hit} ${meeting.from}`}
                        meeting={meeting}
                        targets={targets}
                        x={xOf(Math.max(note.tick, tickOf(meeting.from))) + 1}
                        y={y - 3}
                        wide={across / lock.meetings.length >= NUMBER_PX}
                      />
                    ))}
                  </g>
                );
              })}
              {marquee && (
                <rect
                  x={marquee.x0}
                  y={marquee.y0}
                  width={marquee.x1 - marquee.x0}
                  height={marquee.y1 - marquee.y0}
                  fill={sea.note}
                  fillOpacity={0.08}
                  stroke={sea.note}
                  strokeDasharray="4 3"
                  pointerEvents="none"
                />
              )}
              <PlayLine left={geometry.left} width={geometry.plot} height={floor} />
            </svg>
            <VelocityLane
              geometry={geometry}
              width={width}
              notes={notes}
              chosen={chosen}
              onChange={(next, group) => {
                setNotes('velocity', next, group);
              }}
            />
          </>
        )}
      </Box>
    </Box>
  );
}
