import type { Duck, SoundDocument } from '../../document/index.js';
import { DUCK, KICK, NOTE_ON, sourcesAt, type EventList } from './events.js';

/** Shortest run before the round that is kept, in seconds. */
const BRIEF_S = 0.3;

/**
 * How long ducking lasts that began by a beat, in seconds; endless where it follows a recording that may last
 * as long as the loop.
 */
function duckingS({ on, by, from, attackMs, holdMs, returnMs }: Duck): number {
  if (!on) return 0;
  return by === 'level' && from !== 'kick' ? Infinity : (attackMs + holdMs + returnMs) / 1000;
}

/**
 * The latest frame from which a brief run may begin: no note sounds there, and what began before has ended by
 * the loop's end: notes with their release, hits of the kick
 * with the ducking that follows them. 0 where there is none.
 */
export function briefStart(
  document: SoundDocument,
  events: EventList,
  kickLength: number,
  sampleRateHz: number,
): number {
  const releaseS = Math.max(...document.layers.map(({ loudness }) => loudness.releaseMs)) / 1000;
  let latest = events.loopFrames - Math.round((BRIEF_S + releaseS) * sampleRateHz);
  const hangs = events.loopFrames - kickLength - duckingS(document.duck) * sampleRateHz;
  for (let i = 0; i < events.frame.length; i++)
    if ((events.type[i] === KICK || events.type[i] === DUCK) && events.frame[i] > hangs)
      latest = Math.min(latest, events.frame[i]);
  for (let i = events.frame.length - 1; i >= 0; i--) {
    if (
      events.type[i] === NOTE_ON &&
      events.frame[i] <= latest &&
      sourcesAt(events, events.frame[i] - 1).size === 0
    )
      return events.frame[i];
  }
  return 0;
}
