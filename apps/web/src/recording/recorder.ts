import {
  loopTicks,
  MOST_LANES,
  recorded,
  resolveTarget,
  toPosition,
  type Move,
  type RecordWay,
  type SoundDocument,
} from '@abyssal/core';
import { create } from 'zustand';
import { audio } from '../audio/audio-host';
import { PLACE } from '../audio/protocol';
import { linkTarget, valueAt, type Path } from '../state/path';
import { edit, useDocumentStore } from '../state/document-store';
import { beginRound, endRound } from '../state/round';
import { tell, useView } from '../state/view-store';

interface RecorderState {
  /** Whether moves by hand are written as lanes while the loop plays. */
  readonly armed: boolean;
  readonly way: RecordWay;
  /** What has been moved in this round, by targets. */
  readonly moving: ReadonlySet<string>;
}

export const useRecorder = create<RecorderState>(() => ({ armed: false, way: 'replace', moving: new Set() }));

/** What was moved of one number in this round: as it stood before, and its moves as they were heard. */
interface Taken {
  readonly stood: number;
  readonly moves: Move[];
}

/** Ticks to this many places: a move stands at the frame at which it was heard. */
const PLACES = 3;

let taken = new Map<string, Taken>();
/** Moves that the audio thread has not told the place of yet, by their mark. */
const waiting = new Map<number, { readonly target: string; readonly value: number }[]>();
let frame = 0;
let last = 0;
let committing = false;
let leave: (() => void) | null = null;
let forget: (() => void) | null = null;
let unmark: (() => void) | null = null;

/** The number that a changed place of the document means, where movers may reach it; null for all else. */
function movedAt(document: SoundDocument, path: Path): string | null {
  if (typeof valueAt(document, path) !== 'number') return null;
  const target = linkTarget(document, path);
  const found = resolveTarget(document, target);
  return found && found.part !== 'link' ? target : null;
}

/** Takes down what an edit by hand has moved. */
function take(document: SoundDocument, before: SoundDocument): void {
  const { changed } = useDocumentStore.getState();
  const found: { target: string; value: number }[] = [];
  for (const { path } of changed) {
    const target = movedAt(document, path);
    const row = target === null ? null : resolveTarget(document, target)!.row;
    if (target === null || !row) continue;
    if (!taken.has(target))
      taken.set(target, { stood: toPosition(row, valueAt(before, path) as number), moves: [] });
    found.push({ target, value: toPosition(row, valueAt(document, path) as number) });
  }
  if (found.length === 0) return;
  // The change is told under the mark before the next one: the audio thread says where it was heard.
  waiting.set(audio.nextMark - 1, found);
  if (found.some(({ target }) => !useRecorder.getState().moving.has(target))) {
    const moving = new Set(taken.keys());
    useRecorder.setState({ moving });
    audio.hold(moving);
  }
}

function heard(mark: number, place: number): void {
  const found = waiting.get(mark);
  if (!found) return;
  waiting.delete(mark);
  const { document } = useDocumentStore.getState();
  if (!document) return;
  const tick = Number((place * loopTicks(document.ground.bars)).toFixed(PLACES));
  for (const { target, value } of found) taken.get(target)?.moves.push({ tick, value });
}

/** Writes what was moved in the round as lanes: one step of undo with the moves themselves. */
function commit(): void {
  const done = [...taken].filter(([, { moves }]) => moves.length > 0);
  taken = new Map();
  waiting.clear();
  useRecorder.setState({ moving: new Set() });
  if (done.length === 0) return;
  const { way } = useRecorder.getState();
  committing = true;
  edit('recorded moves', (draft) => {
    for (const [target, { stood, moves }] of done) {
      const at = draft.lanes.findIndex((lane) => lane.target === target);
      const before = at < 0 ? [] : draft.lanes[at].points;
      const sorted = [...moves].sort((a, b) => a.tick - b.tick);
      const until = Math.min(loopTicks(draft.ground.bars), sorted[sorted.length - 1].tick + 1);
      const points = recorded(before, sorted, way, { until, stood });
      if (at >= 0) draft.lanes[at] = { target, on: true, points };
      else if (draft.lanes.length < MOST_LANES) draft.lanes.push({ target, on: true, points });
    }
  });
  committing = false;
  audio.hold(new Set());
}

function begin(): void {
  last = audio.shared.state[PLACE];
  beginRound();
  unmark = audio.mark(heard);
  // Here, and not as it is armed: the audio thread is told of a change before it is taken down.
  forget = useDocumentStore.subscribe((state, before) => {
    if (!state.document || !before.document || state.document === before.document || committing) return;
    take(state.document, before.document);
  });
  const watch = () => {
    const place = audio.shared.state[PLACE];
    if (place < last - 0.5) {
      commit();
      beginRound();
    }
    last = place;
    frame = requestAnimationFrame(watch);
  };
  frame = requestAnimationFrame(watch);
}

function end(): void {
  cancelAnimationFrame(frame);
  forget?.();
  forget = null;
  commit();
  endRound();
  unmark?.();
  unmark = null;
}

/** Arms or disarms: while armed, every round of the loop that plays writes what was moved in it. */
export function arm(armed: boolean): void {
  if (armed === useRecorder.getState().armed) return;
  useRecorder.setState({ armed });
  if (!armed) {
    leave?.();
    leave = null;
    return;
  }
  const ofView = useView.subscribe(({ playing }, before) => {
    if (playing && !before.playing) begin();
    else if (!playing && before.playing) end();
  });
  if (useView.getState().playing) begin();
  leave = () => {
    ofView();
    if (useView.getState().playing) end();
  };
  tell('Armed: while the loop plays, what you move is written over it.');
}
