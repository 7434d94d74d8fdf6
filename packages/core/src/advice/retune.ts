import type { SoundDocument } from '../document/index.js';
import { isLock, soundingHz, type NoteLock } from '../figures/index.js';
import type { KickTail } from '../measure/index.js';
import { hzToNote, inScale, nearestNote, noteName, noteToHz } from '../music/index.js';
import { MOST_SEMITONES } from './tune-tail.js';

/** Retunings under this are not worth a click, in cents. */
const LEAST_CENTS = 3;
/** A tail this near to the octave or the fifth of the root, in semitones, is offered it by name. */
const NEAR_SEMITONES = 1.5;

/** A pitch to which the kick's tail may be tuned. */
export interface TailTarget {
  /**
   * `retune`: the pitch that most meetings of the line have; `near`: the nearest of its pitches; `scale`: the
   * nearest note of the scale; `fifth` and `tail-octave`: those of the root.
   */
  readonly step: 'retune' | 'near' | 'scale' | 'fifth' | 'tail-octave';
  readonly hz: number;
  /** What the pitch is, where a name says more than the note: "the fifth of F". */
  readonly what: string | null;
}

/**
 * The pitch that most meetings of a line have, by its fundamental in hertz; the one that sounds longest of
 * those that have as many; null for none.
 */
export function mostMetHz(document: SoundDocument, locks: readonly NoteLock[]): number | null {
  const counts = new Map<number, { meetings: number; ticks: number }>();
  for (const { note, meetings } of locks) {
    if (meetings.length === 0) continue;
    const { meetings: before, ticks } = counts.get(note.pitch) ?? { meetings: 0, ticks: 0 };
    counts.set(note.pitch, { meetings: before + meetings.length, ticks: ticks + note.ticks });
  }
  const [most] = [...counts].sort(
    ([pa, a], [pb, b]) => b.meetings - a.meetings || b.ticks - a.ticks || pa - pb,
  );
  return most ? soundingHz(document, most[0]) : null;
}

/** The note of the sound's scale nearest to a frequency, in hertz. */
export function nearestScaleHz({ ground: { key, scale, a4Hz } }: SoundDocument, hz: number): number {
  const exact = hzToNote(hz, a4Hz);
  const from = Math.round(exact);
  const near = Array.from({ length: 13 }, (_, i) => from - 6 + i).filter((note) => inScale(note, key, scale));
  return noteToHz(
    near.reduce((best, note) => (Math.abs(note - exact) < Math.abs(best - exact) ? note : best)),
    a4Hz,
  );
}

const nearestOctave = (hz: number, to: number) => hz * 2 ** Math.round(Math.log2(to / hz));
const semitones = (from: number, to: number) => 12 * Math.log2(to / from);

/**
 * Where the tail of a kick that stands still may be tuned to, at most seven semitones either way; each pitch
 * once, under the first of its names.
 */
export function tailTargets(
  document: SoundDocument,
  locks: readonly NoteLock[],
  tail: KickTail | null,
): TailTarget[] {
  const root = mostMetHz(document, locks);
  if (!tail?.steady || root === null) return [];
  const pitches = locks
    .filter(({ meetings }) => meetings.some(({ lock }) => isLock(lock)))
    .map(({ note }) => soundingHz(document, note.pitch));
  const near = pitches.reduce(
    (best, hz) => (Math.abs(semitones(hz, tail.hz)) < Math.abs(semitones(best, tail.hz)) ? hz : best),
    root,
  );
  const rootName = nearestNote(root, document.ground.a4Hz).note;
  const { octave, fifth } = {
    octave: nearestOctave(root, tail.hz),
    fifth: nearestOctave(root * 2 ** (7 / 12), tail.hz),
  };
  const called = (what: string) => `${what} of ${noteName(rootName).replace(/-?\d+$/, '')}`;
  const wanted: TailTarget[] = [
    { step: 'retune', hz: root, what: null },
    { step: 'near', hz: near, what: null },
    ...(Math.abs(semitones(octave, tail.hz)) < NEAR_SEMITONES
      ? [{ step: 'tail-octave' as const, hz: octave, what: called('the octave') }]
      : []),
    ...(Math.abs(semitones(fifth, tail.hz)) < NEAR_SEMITONES
      ? [{ step: 'fifth' as const, hz: fifth, what: called('the fifth') }]
      : []),
    { step: 'scale', hz: nearestScaleHz(document, tail.hz), what: null },
  ];
  return wanted.filter(
    ({ hz }, i) =>
      Math.abs(semitones(tail.hz, hz)) <= MOST_SEMITONES &&
      Math.abs(100 * semitones(tail.hz, hz)) >= LEAST_CENTS &&
      wanted.findIndex((other) => Math.abs(semitones(hz, other.hz)) < 0.02) === i,
  );
}

/** How far a tail is tuned, in words: "down 5 semitones", "up 23 ct". */
export function movedWords(fromHz: number, toHz: number): string {
  const cents = 1200 * Math.log2(toHz / fromHz);
  const size = Math.abs(cents);
  return `${cents < 0 ? 'down' : 'up'} ${size < 95 ? `${size.toFixed(0)} ct` : `${Number((size / 100).toFixed(size > 150 && Math.abs(size / 100 - Math.round(size / 100)) < 0.1 ? 0 : 1))} semitone${Math.abs(size - 100) < 5 ? '' : 's'}`}`;
}

/** What a retuning does to a kick, in words. */
export function retuneCostWords({ kick }: SoundDocument, fromHz: number, toHz: number): string {
  if (kick.source === 'made') return 'its drop, length and click stay';
  const longer = 100 * (fromHz / toHz - 1);
  const click = toHz < fromHz ? 'duller' : 'brighter';
  return Math.abs(longer) < 1
    ? 'its length and click stay'
    : `it gets ${Math.abs(longer).toFixed(0)} % ${longer > 0 ? 'longer' : 'shorter'} and its click ${click}`;
}
