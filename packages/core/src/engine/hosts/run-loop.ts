import { BLOCK } from '../../dsp/index.js';
import type { EventList } from './events.js';

/** Seconds of sound between two yields of a render: a few milliseconds of work, for others wait for what it makes. */
export const STRETCH_S = 0.25;

/** Frames that are run between two of them at most: a stretch, and the step that goes beyond it. */
export const mostBetween = (sampleRateHz: number) => Math.ceil(STRETCH_S * sampleRateHz) + BLOCK;

/**
 * Frames until the next event or the next mark of the grid, whichever comes first. Marks stand every `BLOCK`
 * from the loop's start on, so that every round is cut into the same steps, whatever was played before it and
 * however long the loop is.
 */
export function framesToGo(place: number, nextEvent: number): number {
  const grid = BLOCK - (place % BLOCK);
  const event = nextEvent - place;
  return event < grid ? event : grid;
}

/** What is done as a loop is run. */
export interface Run {
  event(index: number): void;
  /** Moves on by so many frames, the first of them `at` frames after the start, at `place` in the loop. */
  step(at: number, frames: number, place: number): void;
  /** The loop has come round. */
  round?(): void;
}

/**
 * Runs the loop's events and blocks over `total` frames, round and round from a place in the loop; yields the
 * share done now and then.
 */
export function* runLoop(
  events: EventList,
  sampleRateHz: number,
  start: number,
  total: number,
  run: Run,
): Generator<number, void> {
  let place = start;
  let index = 0;
  while (index < events.frame.length && events.frame[index] < start) index++;
  let at = 0;
  let rest = STRETCH_S * sampleRateHz;
  while (at < total) {
    if (place >= events.loopFrames) {
      place = index = 0;
      run.round?.();
    }
    while (index < events.frame.length && events.frame[index] <= place) run.event(index++);
    const until = index < events.frame.length ? events.frame[index] : events.loopFrames;
    const go = Math.min(total - at, framesToGo(place, until));
    run.step(at, go, place);
    place += go;
    at += go;
    if (at < rest) continue;
    rest += STRETCH_S * sampleRateHz;
    yield at / total;
  }
}
