import {
  barBeat,
  beats,
  BEATS_PER_BAR,
  isLock,
  judgeMeeting,
  KEY_NAMES,
  loopTicks,
  missText,
  moverTraces,
  NO_LOCK_WORDS,
  noteName,
  shownGainDb,
  signed,
  TICKS_PER_BEAT,
  type Meeting,
  type NoteLock,
  type Targets,
} from '@abyssal/core';
import { Box } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { useDeferredValue, useId, useMemo, useRef, type KeyboardEvent } from 'react';
import { VERDICTS } from '../../controls/Mark';
import { PlayLine } from '../../controls/PlayLine';
import { useSize } from '../../controls/use-size';
import { useSounding } from '../../sounding/sounding-store';
import { edit, useDocument, useDocumentStore } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { NUMERALS } from '../../theme/theme';
import { viewOf } from '../motion/kinds';
import { changeNotes, drawNote, lengthenNotes, moveNotes, stepPitch } from './line-edits';
import { NoteShape } from './NoteShape';

const LEFT = 44;
const BOTTOM = 26;
const LEAST_HEIGHT = 372;
/** A row is no lower than this, so that a note is a target of its own. */
const LEAST_ROW = 24;
/** A note this wide, in pixels, has its figure beside the mark. */
const NUMBER_PX = 44;
/** Pixels at a note's end by which it is lengthened. */
const END_PX = 8;

interface NoteSheetProps {
  readonly rows: readonly number[];
  /** Of them, those outside the scale. */ readonly outside: ReadonlySet<number>;
  readonly gridTicks: number;
  readonly chosen: ReadonlySet<number>;
  readonly onChoose: (chosen: ReadonlySet<number>) => void;
}

/** The notes over the loop, deep notes low; one row for each note of the scale. */
export function NoteSheet({ rows, outside, gridTicks, chosen, onChoose }: NoteSheetProps) {
  const document = useDocument();
  const {
    line: { notes },
    ground,
    kick,
    targets,
  } = document;
  const [ref, { width }] = useSize<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const hatch = useId();
  /** Length last set by hand; until one was, a note is a step of the grid. */
  const lastTicks = useRef<number | null>(null);
  const settled = useDeferredValue(document);
  const wobble = useMemo(() => {
    const mover = settled.movers.find((each) => each.on && viewOf(each).outlinesNotes);
    return mover ? (moverTraces(settled).find(({ id }) => id === mover.id)?.values ?? null) : null;
  }, [settled]);

  // How each note stands to the kick, as it was measured last; a note that has moved since has no figure
  // until it is measured.
  const measured = useSounding((state) => state.shown?.notes);
  const rateHz = useSounding((state) => state.shown?.low.rateHz ?? 1);
  const locks = useMemo(
    () =>
      new Map(
        measured?.map(
          (found) => [`${found.note.tick} ${found.note.ticks} ${found.note.pitch}`, found] as const,
        ),
      ),
    [measured],
  );
  const tickOf = (frame: number) => (frame / rateHz) * (ground.tempoBpm / 60) * TICKS_PER_BEAT;

  const total = loopTicks(ground.bars);
  const plot = width - LEFT;
  const HEIGHT = Math.max(LEAST_HEIGHT, BOTTOM + LEAST_ROW * rows.length);
  const rowHeight = (HEIGHT - BOTTOM) / rows.length;
  const xOf = (tick: number) => LEFT + (tick / total) * plot;
  const yOf = (pitch: number) => HEIGHT - BOTTOM - (rows.indexOf(pitch) + 1) * rowHeight;
  const place = (clientX: number, clientY: number) => {
    const box = svg.current!.getBoundingClientRect();
    const row = Math.floor((HEIGHT - BOTTOM - (clientY - box.top)) / rowHeight);
    return {
      tick: ((clientX - box.left - LEFT) / plot) * total,
      pitch: rows[Math.min(rows.length - 1, Math.max(0, row))],
    };
  };
  const snap = (tick: number) => Math.round(tick / gridTicks) * gridTicks;
  /** Length of a note that is drawn: the one last set, but it ends where the next one of its row begins. */
  const lengthAt = (tick: number, pitch: number) => {
    const next = Math.min(
      ...notes.filter((note) => note.pitch === pitch && note.tick > tick).map((note) => note.tick),
      total,
    );
    return Math.min(lastTicks.current ?? gridTicks, next - tick);
  };
  const perRow = (dy: number) => Math.round(-dy / rowHeight);
  const set = (label: string, next: typeof notes, group: string | null = null) => {
    edit(
      label,
      (draft) => {
        draft.line.notes = next;
      },
      group,
    );
  };

  const draw = useDrag(
    ({ first, last, initial, xy: [x], memo, event }) => {
      event.preventDefault();
      if (first) {
        const at = place(initial[0], initial[1]);
        const tick = Math.floor(at.tick / gridTicks) * gridTicks;
        if (at.tick < 0 || tick >= total) return null;
        const next = drawNote(notes, tick, at.pitch, lengthAt(tick, at.pitch), ground.bars);
        set('draw note', next, `draw ${next.length}`);
        onChoose(new Set([next.length - 1]));
        return { index: next.length - 1, tick, from: at.tick };
      }
      const drawn = memo as { index: number; tick: number; from: number } | null;
      if (!drawn) return null;
      const here = place(x, 0).tick;
      const present = useDocumentStore.getState().document!.line.notes;
      if (Math.abs(here - drawn.from) > gridTicks / 2) {
        const ticks = Math.max(gridTicks, snap(here) - drawn.tick);
        set(
          'draw note',
          lengthenNotes(
            present,
            new Set([drawn.index]),
            ticks - present[drawn.index].ticks,
            gridTicks,
            ground.bars,
          ),
          `draw ${present.length}`,
        );
        lastTicks.current = ticks;
      }
      if (last) (svg.current?.querySelector(`[data-note="${drawn.index}"]`) as SVGElement | null)?.focus();
      return drawn;
    },
    { pointer: { keys: false } },
  );

  const dragNote = useDrag(
    ({ first, args: [index], xy: [x], movement: [dx, dy], memo, event, tap }) => {
      event.preventDefault();
      event.stopPropagation();
      const i = index as number;
      if (first) {
        const mine = chosen.has(i) ? chosen : new Set(event.shiftKey ? [...chosen, i] : [i]);
        onChoose(mine);
        const end = xOf(notes[i].tick + notes[i].ticks);
        const atEnd =
          x - svg.current!.getBoundingClientRect().left >
          Math.max(end - END_PX, xOf(notes[i].tick) + (end - xOf(notes[i].tick)) * 0.6);
        return { notes, mine, atEnd };
      }
      const from = memo as { notes: typeof notes; mine: ReadonlySet<number>; atEnd: boolean };
      if (tap) return from;
      const ticks = snap((dx / plot) * total);
      if (from.atEnd) {
        set(
          'lengthen',
          lengthenNotes(from.notes, from.mine, ticks, gridTicks, ground.bars),
          'lengthen notes',
        );
        lastTicks.current = Math.max(gridTicks, from.notes[i].ticks + ticks);
      } else
        set(
          'move notes',
          moveNotes(from.notes, from.mine, ticks, (pitch) => stepPitch(rows, pitch, perRow(dy)), ground.bars),
          'move notes',
        );
      return from;
    },
    { pointer: { keys: false }, filterTaps: true },
  );

  const onKeyDown = (event: KeyboardEvent, index: number) => {
    const mine = chosen.has(index) ? chosen : new Set([index]);
    const command = event.ctrlKey || event.metaKey;
    const horizontal = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const vertical = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (command && event.code === 'KeyA') onChoose(new Set(notes.keys()));
    else if (command || event.altKey) return;
    else if (horizontal !== undefined && event.shiftKey)
      set(
        'lengthen',
        lengthenNotes(notes, mine, horizontal * gridTicks, gridTicks, ground.bars),
        'lengthen notes',
      );
    else if (horizontal !== undefined)
      set(
        'move notes',
        moveNotes(notes, mine, horizontal * gridTicks, (pitch) => pitch, ground.bars),
        'move notes',
      );
    else if (vertical !== undefined)
      set(
        'move notes',
        moveNotes(
          notes,
          mine,
          0,
          (pitch) => (event.shiftKey ? pitch + 12 * vertical : stepPitch(rows, pitch, vertical)),
          ground.bars,
        ),
        'move notes',
      );
    else if (event.key === 'Delete' || event.key === 'Backspace') {
      set(
        'delete notes',
        notes.filter((_note, i) => !mine.has(i)),
      );
      onChoose(new Set());
    } else if (event.key === '+' || event.key === '=')
      set(
        'velocity',
        changeNotes(notes, mine, ({ velocity }) => ({ velocity: Math.min(127, velocity + 4) })),
        'velocity',
      );
    else if (event.key === '-')
      set(
        'velocity',
        changeNotes(notes, mine, ({ velocity }) => ({ velocity: Math.max(1, velocity - 4) })),
        'velocity',
      );
    else if (event.code === 'KeyQ')
      set(
        'accent',
        changeNotes(notes, mine, () => ({ accent: !notes[index].accent })),
      );
    else if (event.code === 'KeyT')
      set(
        'tie',
        changeNotes(notes, mine, () => ({ tie: !notes[index].tie })),
      );
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const root = KEY_NAMES.indexOf(ground.key);
  const steps = total / gridTicks;
  const order = notes
    .map((note, index) => ({ note, index }))
    .sort((a, b) => a.note.tick - b.note.tick || a.note.pitch - b.note.pitch);
  return (
    <Box ref={ref} sx={{ height: HEIGHT }}>
      {width > 0 && (
        <svg
          ref={svg}
          width={width}
          height={HEIGHT}
          role="group"
          aria-label={`The line: ${notes.length} ${notes.length === 1 ? 'note' : 'notes'} over ${ground.bars} bars. Enter on the grid adds a note.`}
        >
          <defs>
            <pattern
              id={hatch}
              width={6}
              height={6}
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <line y2={6} stroke={sea.rule} strokeWidth={1.5} />
            </pattern>
          </defs>
          <g
            {...draw()}
            tabIndex={0}
            role="button"
            aria-label="Add a note at the root"
            onKeyDown={(event) => {
              if (event.key !== 'Enter') return;
              event.preventDefault();
              const end = Math.max(0, ...notes.map((note) => note.tick + note.ticks));
              const pitch = rows.find((row) => row % 12 === root && row >= 28) ?? rows[0];
              const next = drawNote(
                notes,
                end < total ? snap(end) % total : 0,
                pitch,
                lastTicks.current ?? gridTicks,
                ground.bars,
              );
              set('draw note', next);
              onChoose(new Set([next.length - 1]));
            }}
            style={{ cursor: 'crosshair', touchAction: 'none' }}
          >
            {rows.map((pitch, row) => (
              <rect
                key={pitch}
                x={LEFT}
                y={yOf(pitch)}
                width={plot}
                height={rowHeight}
                fill={row / rows.length < 0.34 ? sea.tint2 : row / rows.length < 0.7 ? sea.tint1 : sea.paper}
                stroke={sea.sheet}
                strokeWidth={0.6}
              />
            ))}
            {Array.from({ length: steps }, (_, step) => {
              const tick = step * gridTicks;
              const wide =
                tick % (BEATS_PER_BAR * TICKS_PER_BEAT) === 0 ? 2.4 : tick % TICKS_PER_BEAT === 0 ? 1.6 : 0.5;
              return (
                <line
                  key={step}
                  x1={xOf(tick)}
                  x2={xOf(tick)}
                  y2={HEIGHT - BOTTOM}
                  stroke={sea.sheet}
                  strokeWidth={wide}
                />
              );
            })}
          </g>
          {rows
            .filter((pitch) => outside.has(pitch))
            .map((pitch) => (
              <rect
                key={pitch}
                x={LEFT}
                y={yOf(pitch)}
                width={plot}
                height={rowHeight}
                fill={`url(#${hatch})`}
                pointerEvents="none"
              />
            ))}
          {rows.map(
            (pitch) =>
              (rowHeight >= 12 || pitch % 12 === root) && (
                <text
                  key={pitch}
                  x={LEFT - 8}
                  y={yOf(pitch) + rowHeight / 2 + 4}
                  textAnchor="end"
                  fontSize={12.5}
                  fontFamily={NUMERALS}
                  fontStyle="italic"
                  fontWeight={pitch % 12 === root ? 600 : 400}
                  fill={sea.ink2}
                >
                  {noteName(pitch)}
                </text>
              ),
          )}
          {Array.from(
            { length: ground.bars * BEATS_PER_BAR },
            (_, beat) =>
              (ground.bars <= 4 || beat % BEATS_PER_BAR === 0) && (
                <text
                  key={beat}
                  x={xOf(beat * TICKS_PER_BEAT) + 2}
                  y={HEIGHT - 8}
                  fontSize={12}
                  fill={sea.ink2}
                >
                  {barBeat(beat * TICKS_PER_BEAT)}
                </text>
              ),
          )}
          {kick.on &&
            kick.hits.map(({ tick }) => (
              <path
                key={tick}
                d={`M${xOf(tick)} ${HEIGHT - BOTTOM + 1}l5 -10l5 10z`}
                fill={sea.kick}
                pointerEvents="none"
              />
            ))}
          {order.map(({ note, index }, k) => {
            const before = k > 0 ? order[k - 1].note : null;
            const lock = locks.get(`${note.tick} ${note.ticks} ${note.pitch}`);
            const across = xOf(note.tick + note.ticks) - xOf(note.tick);
            return (
              <g
                key={index}
                {...dragNote(index)}
                data-note={index}
                tabIndex={0}
                role="button"
                aria-pressed={chosen.has(index)}
                aria-label={`${noteName(note.pitch)} at ${describePlace(note.tick)}, ${(note.ticks / TICKS_PER_BEAT).toFixed(2)} beats, velocity ${note.velocity}${outside.has(note.pitch) ? ', outside the scale' : ''}${note.accent ? ', accent' : ''}${note.tie ? ', tied' : ''}${lock ? lockWords(lock, targets) : ''}`}
                onKeyDown={(event) => {
                  onKeyDown(event, index);
                }}
                onFocus={() => {
                  useView.setState({ hereTick: note.tick });
                  if (!chosen.has(index)) onChoose(new Set([index]));
                }}
                style={{ cursor: 'move', touchAction: 'none', outlineOffset: 1 }}
              >
                {note.tie && before && (
                  <path
                    d={`M${xOf(before.tick + before.ticks) - 4} ${yOf(before.pitch) + rowHeight / 2}C${xOf(note.tick) + 3} ${yOf(before.pitch) + rowHeight / 2} ${xOf(note.tick) - 3} ${yOf(note.pitch) + rowHeight / 2} ${xOf(note.tick) + 4} ${yOf(note.pitch) + rowHeight / 2}`}
                    fill="none"
                    stroke={sea.note}
                    strokeWidth={2}
                    pointerEvents="none"
                  />
                )}
                <NoteShape
                  note={note}
                  x={xOf(note.tick)}
                  width={across}
                  y={yOf(note.pitch)}
                  height={rowHeight}
                  wobble={wobble}
                  total={total}
                  chosen={chosen.has(index)}
                />
                {lock?.meetings.map((meeting) => (
                  <LockMark
                    key={`${meeting.hit} ${meeting.from}`}
                    meeting={meeting}
                    targets={targets}
                    x={xOf(Math.max(note.tick, tickOf(meeting.from))) + 1}
                    y={yOf(note.pitch) - 3}
                    wide={across / lock.meetings.length >= NUMBER_PX}
                  />
                ))}
              </g>
            );
          })}
          <PlayLine left={LEFT} width={plot} height={HEIGHT - BOTTOM} />
        </svg>
      )}
    </Box>
  );
}

/** By how much a sum gain misses its target where its number does not show it. */
function missed(gain: number, { sumGainDb }: Targets): string {
  const miss = missText(gain, { least: sumGainDb });
  return miss ? `, ${miss}` : '';
}

/** How a note stands to the kick, in words: by the worst hit that meets it. */
function lockWords({ meetings, lock }: NoteLock, targets: Targets): string {
  if (meetings.length === 0) return '';
  const over = meetings.length > 1 ? ` at the worst of ${meetings.length} hits` : '';
  const gain = shownGainDb(lock);
  return gain !== null
    ? `, sum gain with the kick ${gain.toFixed(1)} dB${missed(gain, targets)}${over}`
    : isLock(lock)
      ? `, ${beats(lock) ? 'beats against the kick' : 'no common phase with the kick'}${over}`
      : `, ${NO_LOCK_WORDS[lock.reason]}`;
}

/**
 * How a note stands to one hit of the kick, over the place where they begin to sound together: by mark and,
 * where there is room, by number.
 */
function LockMark({
  meeting,
  targets,
  x,
  y,
  wide,
}: {
  readonly meeting: Meeting;
  readonly targets: Targets;
  readonly x: number;
  readonly y: number;
  readonly wide: boolean;
}) {
  const { mark, colour } = VERDICTS[judgeMeeting(meeting, targets)];
  const gain = shownGainDb(meeting.lock);
  return (
    <text x={x} y={y} fontSize={12} fill={colour} pointerEvents="none">
      {mark}
      {wide && gain !== null ? ` ${signed(gain)}${missed(gain, targets)}` : ''}
    </text>
  );
}

function describePlace(tick: number): string {
  const rest = tick % TICKS_PER_BEAT;
  return `${barBeat(tick)}${rest === 0 ? '' : ` and ${(rest / TICKS_PER_BEAT).toFixed(2)} beats`}`;
}
