import {
  cleanNote,
  HIGHEST_NOTE,
  KEY_NAMES,
  loopTicks,
  MOST_NOTES,
  TICKS_PER_BEAT,
  type KeyName,
  type LineNote,
} from '@abyssal/core';
import { LOWEST_PITCH, type Notes } from './line-edits';

const clamp = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));
type Chosen = ReadonlySet<number>;

/** What came of an edit that adds or takes away notes: the notes, and which are chosen then. */
export interface Changed {
  readonly notes: LineNote[];
  readonly chosen: ReadonlySet<number>;
}

const inOrder = (notes: Notes, chosen: Chosen) =>
  [...chosen]
    .filter((i) => i < notes.length)
    .sort((a, b) => notes[a].tick - notes[b].tick || notes[a].pitch - notes[b].pitch);
const spanOf = (notes: Notes, chosen: Chosen) => {
  const mine = [...chosen].map((i) => notes[i]);
  return {
    from: Math.min(...mine.map(({ tick }) => tick)),
    to: Math.max(...mine.map((note) => note.tick + note.ticks)),
  };
};

export interface Quantise {
  readonly gridTicks: number;
  /** How far notes go towards the grid, 0 to 1. */
  readonly strength: number;
  /** How much of each pair of steps the first one takes, 0.5 to 0.75. */
  readonly swing: number;
  /** Whether ends go to the grid as well. */
  readonly ends: boolean;
}

/** The nearest place of a grid with swing to a tick. */
export function nearestOnGrid(
  tick: number,
  { gridTicks, swing }: Pick<Quantise, 'gridTicks' | 'swing'>,
): number {
  const pair = 2 * gridTicks;
  const start = Math.floor(tick / pair) * pair;
  const places = [start, start + pair * swing, start + pair];
  return places.reduce((best, place) => (Math.abs(place - tick) < Math.abs(best - tick) ? place : best));
}

/** Moves notes to the grid; where each was played is kept beside it. */
export function quantised(notes: Notes, chosen: Chosen, how: Quantise, bars: number): LineNote[] {
  const end = loopTicks(bars);
  return notes.map((note, i) => {
    if (!chosen.has(i)) return note;
    const played = note.played ?? { tick: note.tick, ticks: note.ticks };
    const go = (from: number) => Math.round(from + how.strength * (nearestOnGrid(from, how) - from));
    const last = played.tick + played.ticks;
    let tick = go(played.tick);
    // What was played a hair before the loop's end belongs to its start.
    if (tick >= end) tick = 0;
    const length = how.ends ? Math.max(how.gridTicks / 2, go(last) - go(played.tick)) : played.ticks;
    return { ...note, tick, ticks: Math.round(clamp(length, 1, end - tick)), played };
  });
}

/** Puts notes back to where they were played. */
export function asPlayed(notes: Notes, chosen: Chosen): LineNote[] {
  return notes.map((note, i) =>
    chosen.has(i) && note.played ? { ...note, ...note.played, played: null } : note,
  );
}

/** Notes from a clipboard, their ticks from its start: put in from a tick on, as many as fit. */
export function pasted(notes: Notes, what: Notes, at: number, bars: number): Changed {
  const end = loopTicks(bars);
  const room = MOST_NOTES - notes.length;
  const added = what
    .map((note) => ({ ...note, tick: note.tick + at }))
    .filter((note) => note.tick < end)
    .slice(0, Math.max(0, room))
    .map((note) => ({ ...note, ticks: Math.min(note.ticks, end - note.tick) }));
  return {
    notes: [...notes, ...added],
    chosen: new Set(added.map((_, i) => notes.length + i)),
  };
}

/** The chosen notes, their ticks from the first of them on. */
export function copied(notes: Notes, chosen: Chosen): LineNote[] {
  const { from } = spanOf(notes, chosen);
  return inOrder(notes, chosen).map((i) => ({ ...notes[i], tick: notes[i].tick - from, played: null }));
}

/** The chosen notes once more, behind themselves, from the next step of the grid on. */
export function duplicated(notes: Notes, chosen: Chosen, gridTicks: number, bars: number): Changed {
  const { from, to } = spanOf(notes, chosen);
  const length = Math.max(gridTicks, Math.ceil((to - from) / gridTicks) * gridTicks);
  return pasted(notes, copied(notes, chosen), from + length, bars);
}

/** Stretches the time of the chosen notes from the first of them on; what would leave the loop is cut. */
export function stretched(notes: Notes, chosen: Chosen, factor: number, bars: number): LineNote[] {
  const end = loopTicks(bars);
  const { from } = spanOf(notes, chosen);
  return notes.flatMap((note, i) => {
    if (!chosen.has(i)) return [note];
    const tick = Math.round(from + (note.tick - from) * factor);
    if (tick >= end) return [];
    return [{ ...note, tick, ticks: clamp(Math.round(note.ticks * factor), 1, end - tick), played: null }];
  });
}

/** Closes gaps: each of the chosen notes lasts until the next of them begins. */
export function legato(notes: Notes, chosen: Chosen): LineNote[] {
  const order = inOrder(notes, chosen);
  const ends = new Map(
    order.map((i) => {
      const next = order.find((k) => notes[k].tick > notes[i].tick);
      return [i, next === undefined ? notes[i].tick + notes[i].ticks : notes[next].tick] as const;
    }),
  );
  return notes.map((note, i) => (ends.has(i) ? { ...note, ticks: ends.get(i)! - note.tick } : note));
}

/** Opens gaps: each of the chosen notes ends at least so many ms before the next note begins. */
export function gapped(notes: Notes, chosen: Chosen, ms: number, tempoBpm: number): LineNote[] {
  const gap = Math.round((ms / 60000) * tempoBpm * TICKS_PER_BEAT);
  const starts = notes.map(({ tick }) => tick).sort((a, b) => a - b);
  return notes.map((note, i) => {
    const next = chosen.has(i) ? starts.find((tick) => tick > note.tick) : undefined;
    if (next === undefined || note.tick + note.ticks <= next - gap) return note;
    return { ...note, ticks: Math.max(1, next - gap - note.tick), tie: note.tie };
  });
}

/** Splits each of the chosen notes in two at the middle, or where the grid is nearest to it. */
export function split(notes: Notes, chosen: Chosen, gridTicks: number): Changed {
  const out: LineNote[] = [];
  const mine = new Set<number>();
  notes.forEach((note, i) => {
    const middle = note.tick + note.ticks / 2;
    const onGrid = Math.round(middle / gridTicks) * gridTicks;
    const at = Math.round(onGrid > note.tick && onGrid < note.tick + note.ticks ? onGrid : middle);
    if (!chosen.has(i) || at <= note.tick || at >= note.tick + note.ticks || out.length + 1 >= MOST_NOTES) {
      if (chosen.has(i)) mine.add(out.length);
      out.push(note);
      return;
    }
    mine.add(out.length).add(out.length + 1);
    out.push({ ...note, ticks: at - note.tick, played: null });
    out.push({ ...note, tick: at, ticks: note.tick + note.ticks - at, tie: false, played: null });
  });
  return { notes: out, chosen: mine };
}

/** Joins the chosen notes of one pitch that follow each other into one, from the first start to the last end. */
export function joined(notes: Notes, chosen: Chosen): Changed {
  const gone = new Set<number>();
  const grown = new Map<number, number>();
  const heads = new Map<number, number>();
  for (const i of inOrder(notes, chosen)) {
    const head = heads.get(notes[i].pitch);
    if (head === undefined) {
      heads.set(notes[i].pitch, i);
      continue;
    }
    gone.add(i);
    grown.set(head, Math.max(grown.get(head) ?? 0, notes[i].tick + notes[i].ticks));
  }
  const out: LineNote[] = [];
  const mine = new Set<number>();
  notes.forEach((note, i) => {
    if (gone.has(i)) return;
    if (chosen.has(i)) mine.add(out.length);
    const end = grown.get(i);
    out.push(
      end === undefined ? note : { ...note, ticks: Math.max(note.ticks, end - note.tick), played: null },
    );
  });
  return { notes: out, chosen: mine };
}

/** Lines to begin from, in the key of a sound: a held root, eighths, rolling sixteenths, off-beat, call and answer. */
export const START_LINES = [
  'held root',
  'eighths',
  'rolling sixteenths',
  'off-beat',
  'call and answer',
] as const;

export function startLine(which: (typeof START_LINES)[number], key: KeyName, bars: number): LineNote[] {
  const root = 24 + KEY_NAMES.indexOf(key) + (KEY_NAMES.indexOf(key) < 4 ? 12 : 0);
  const beats = 4 * bars;
  const note = (beat: number, length: number, more: Partial<LineNote> = {}) =>
    cleanNote({
      tick: Math.round(beat * TICKS_PER_BEAT),
      ticks: Math.round(length * TICKS_PER_BEAT),
      pitch: clamp(root, LOWEST_PITCH, HIGHEST_NOTE),
      ...more,
    });
  const each = (step: number, length: number, more: (k: number) => Partial<LineNote> | null = () => ({})) =>
    Array.from({ length: beats / step }, (_, k) => {
      const own = more(k);
      return own === null ? [] : [note(k * step, length, own)];
    }).flat();
  switch (which) {
    case 'held root':
      return each(4, 4);
    case 'eighths':
      return each(0.5, 0.4, (k) => ({ velocity: k % 2 === 0 ? 104 : 88 }));
    case 'rolling sixteenths':
      // The kick has the first of each four.
      return each(0.25, 0.2, (k) => (k % 4 === 0 ? null : { velocity: k % 4 === 2 ? 104 : 90 }));
    case 'off-beat':
      return each(1, 0.45).map((off) => ({ ...off, tick: off.tick + TICKS_PER_BEAT / 2 }));
    case 'call and answer':
      return Array.from({ length: bars }, (_, bar) =>
        bar % 2 === 0
          ? [note(4 * bar, 1.5), note(4 * bar + 1.5, 0.5, { velocity: 88 }), note(4 * bar + 2.5, 1)]
          : [
              note(4 * bar, 0.5, { pitch: root + 7 }),
              note(4 * bar + 1, 0.5),
              note(4 * bar + 2, 1.75, { tie: false, accent: true }),
            ],
      ).flat();
  }
}
