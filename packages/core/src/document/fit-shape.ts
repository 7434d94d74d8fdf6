import { rebuilds, switched } from '../schema/rebuild.js';
import { since } from '../schema/since.js';
import { choice, flag, list, number, object, text, type Infer } from '../schema/schema.js';
import { bend, ID, log, loopTick, notePitch } from '../schema/shape-parts.js';
import { ASSET } from './tone-shape.js';
import { HIGHEST_NOTE, LOWEST_NOTE } from '../schema/bounds.js';

/** A recording that the bass must leave room for. */
export const backingShape = object({
  id: rebuilds(['events', 'instrument'], text(40, 'part-1', ID)),
  name: text(80, 'Part'),
  on: rebuilds(['events', 'instrument'], flag(true)),
  asset: rebuilds('instrument', text(64, '', ASSET)),
  fileName: text(200),
  /** The sound of the library that it was rendered from; empty for a recording that was brought in. */
  sound: since(4, text(40, '', /^[0-9a-f-]*$/)),
  startTick: rebuilds('events', loopTick('Start', 'Where in the loop the part starts; 480 ticks a beat.')),
  gainDb: number('Part gain', 'dB', -60, 12, 0, 'Gain of the part; all the way down is silent.', {
    step: 0.1,
  }),
});

/** Ducking of the bass. */
export const duckShape = switched(
  object({
    on: rebuilds(['events', 'instrument'], flag(false)),
    by: since(3, rebuilds('instrument', choice(['beats', 'level'], 'beats'))),
    from: since(3, rebuilds(['events', 'instrument'], text(40, 'kick', ID))),
    acts: since(3, rebuilds('instrument', choice(['level', 'low', 'filter'], 'level'))),
    curve: since(3, choice(['exponential', 'linear'], 'exponential')),
    hard: since(3, rebuilds(['events', 'instrument'], flag(false))),
    amountDb: number('Amount', 'dB', 0, 60, 9, 'How far the bass is turned down at most.', { step: 0.1 }),
    belowHz: since(
      3,
      number(
        'Duck below',
        'Hz',
        40,
        500,
        120,
        'Only what lies below this is ducked; with the filter, how far it closes.',
        log,
      ),
    ),
    attackMs: number('Attack', 'ms', 0.5, 50, 3, 'How long the bass takes to duck.', log),
    holdMs: number('Hold', 'ms', 0, 500, 30, 'How long it stays down.', { step: 1 }),
    returnMs: number('Release', 'ms', 5, 1000, 160, 'How long it takes to come back.', log),
    bend: bend('Release'),
    lookAheadMs: since(
      3,
      rebuilds(
        'events',
        number('Look-ahead', 'ms', 0, 20, 0, 'How long before the beat the ducking starts.', { step: 0.1 }),
      ),
    ),
    thresholdDb: since(
      3,
      number(
        'Threshold',
        'dB',
        -60,
        0,
        -24,
        'The bass ducks while the level of what it follows is above this.',
        { step: 0.5 },
      ),
    ),
    ratio: since(
      3,
      number(
        'Ratio',
        '',
        1,
        20,
        4,
        'How much of the level above the threshold is taken off; 4 leaves a quarter.',
        log,
      ),
    ),
  }),
);

export const lockShape = object({
  belowHz: number(
    'Compare below',
    'Hz',
    60,
    250,
    120,
    'Kick and bass are compared below this frequency.',
    log,
  ),
  turnDeg: rebuilds(
    'layers',
    number('Turn', '°', -180, 180, 0, 'Shifts the phase of the bass at the start of every note.', {
      step: 1,
    }),
  ),
  nudgeMs: rebuilds(
    ['events', 'layers'],
    number('Nudge', 'ms', -20, 20, 0, 'Moves the bass in time against the kick; positive is later.', {
      step: 0.01,
    }),
  ),
  invert: since(3, flag(false)),
  /** Turns of single pitches, beside the turn of all. */
  turns: since(
    3,
    rebuilds(
      'layers',
      list(
        object({
          pitch: notePitch(),
          turnDeg: number(
            'Turn of the note',
            '°',
            -180,
            180,
            0,
            'Shifts the phase of notes of this pitch, on top of the turn of all notes.',
            { step: 1 },
          ),
        }),
        0,
        HIGHEST_NOTE - LOWEST_NOTE + 1,
        'pitch',
      ),
    ),
  ),
});

export type BackingPart = Infer<typeof backingShape>;
export type Duck = Infer<typeof duckShape>;
export type LockSettings = Infer<typeof lockShape>;
