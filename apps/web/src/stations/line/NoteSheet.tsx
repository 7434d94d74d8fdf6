import { KEY_NAMES, TICKS_PER_BEAT, type LineNote, type NoteLock, type Targets } from '@abyssal/core';
import { Box } from '@mui/material';
import { memo, useMemo, useRef } from 'react';
import { PlayLine } from '../../controls/PlayLine';
import { useSize } from '../../controls/use-size';
import { useSounding } from '../../sounding/sounding-store';
import { useSound } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { viewOf } from '../motion/kinds';
import { LockMark } from './LockMark';
import { setNotes } from './set-notes';
import { SheetRows } from './SheetRows';
import { NoteShape } from './NoteShape';
import { noteWords } from './note-words';
import { sheetGeometry, type SheetGeometry } from './sheet-geometry';
import { TieCurve } from './TieCurve';
import { useFollow } from './use-follow';
import { VelocityLane } from './VelocityLane';
import { noteOf, useNoteDrag } from './use-note-drag';
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

/** The notes over the loop, deep notes low; one row for each note of the scale. */
export function NoteSheet({ rows, outside, gridTicks, chosen, zoom, onChoose }: NoteSheetProps) {
  const notes = useSound(({ line }) => line.notes);
  const ground = useSound((sound) => sound.ground);
  const kick = useSound((sound) => sound.kick);
  const targets = useSound((sound) => sound.targets);
  const [ref, { width: room }] = useSize<HTMLDivElement>();
  const width = room * zoom;
  const svg = useRef<SVGSVGElement>(null);
  const outline = useOutline();
  const locks = useLocks();
  const rateHz = useSounding((state) => state.shown?.low.rateHz ?? 1);
  const ticksPerFrame = ((ground.tempoBpm / 60) * TICKS_PER_BEAT) / rateHz;

  const geometry = useMemo(() => sheetGeometry(rows, ground.bars, width), [rows, ground.bars, width]);
  const gestures = { svg, geometry, notes, bars: ground.bars, gridTicks, chosen, onChoose, set: setNotes };
  const { draw, dragNotes, addAfter, marquee } = useNoteDrag(gestures);
  const scroll = useFollow(geometry, zoom);
  const onKeyDown = useNoteKeys(gestures);

  const { height, floor } = geometry;
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
              <g
                {...dragNotes()}
                style={{ touchAction: 'none' }}
                onKeyDown={(event) => {
                  onKeyDown(event, noteOf(event.target));
                }}
                onFocus={({ target }) => {
                  const index = noteOf(target);
                  useView.setState({ hereTick: notes[index].tick });
                  if (!chosen.has(index)) onChoose(new Set([index]));
                }}
              >
                {order.map(({ note, index }, k) => (
                  <Note
                    key={index}
                    note={note}
                    index={index}
                    before={note.tie && k > 0 ? order[k - 1].note : null}
                    geometry={geometry}
                    outside={outside.has(note.pitch)}
                    lock={locks.get(keyOf(note))}
                    targets={targets}
                    ticksPerFrame={ticksPerFrame}
                    wobble={outline}
                    chosen={chosen.has(index)}
                  />
                ))}
              </g>
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

interface NoteProps {
  readonly note: LineNote;
  readonly index: number;
  /** The note that it is tied to. */
  readonly before: LineNote | null;
  readonly geometry: SheetGeometry;
  readonly outside: boolean;
  readonly lock: NoteLock | undefined;
  readonly targets: Targets;
  readonly ticksPerFrame: number;
  readonly wobble: Float32Array | null;
  readonly chosen: boolean;
}

/** One note: drawn anew only when it changes itself, for there may be 512 of them. */
const Note = memo(function Note({
  note,
  index,
  before,
  geometry,
  outside,
  lock,
  targets,
  ticksPerFrame,
  wobble,
  chosen,
}: NoteProps) {
  const { xOf, yOf, rowHeight, total } = geometry;
  const x = xOf(note.tick);
  const y = yOf(note.pitch);
  const across = xOf(note.tick + note.ticks) - x;
  return (
    <g
      data-note={index}
      tabIndex={0}
      role="button"
      aria-pressed={chosen}
      aria-label={noteWords(note, outside, lock, targets)}
      style={{ cursor: 'move', touchAction: 'none', outlineOffset: 1 }}
    >
      {before && <TieCurve geometry={geometry} from={before} to={note} />}
      <NoteShape
        note={note}
        x={x}
        width={across}
        y={y}
        height={rowHeight}
        wobble={wobble}
        total={total}
        chosen={chosen}
      />
      {lock?.meetings.map((meeting) => (
        <LockMark
          key={`${meeting.hit} ${meeting.from}`}
          meeting={meeting}
          targets={targets}
          x={xOf(Math.max(note.tick, meeting.from * ticksPerFrame)) + 1}
          y={y - 3}
          wide={across / lock.meetings.length >= NUMBER_PX}
        />
      ))}
    </g>
  );
});
