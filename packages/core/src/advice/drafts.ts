import { HIGHEST_NOTE, LOWEST_NOTE, type SoundDocument } from '../document/index.js';
import { wrapDegrees } from '../lock/index.js';
import { signed } from '../units/index.js';
import type { Nudge } from './common-nudge.js';
import type { Draft } from './proposal.js';
import { withKickLength } from './shorten.js';
import type { Turn } from './rose.js';

const tidy = (value: number, digits: number) => Number(value.toFixed(digits));

/** Turns under this are not worth a click; nor are nudges. */
const LEAST_TURN_DEG = 2;
const LEAST_NUDGE_MS = 0.1;

/** A change of a sound as one of several that are made together. */
export interface Change extends Omit<Draft, 'steps' | 'title' | 'document'> {
  readonly step: Draft['steps'][number];
  /** What is done, to stand within a sentence: "turn it by +40°", where `it` is the bass. */
  readonly phrase: string;
  readonly apply: (document: SoundDocument) => SoundDocument;
}

/** Phrases as one sentence without its stop; the kick is "it" once it was named. */
function sentence(phrases: readonly string[]): string {
  const named = phrases.findIndex((phrase) => phrase.includes('the kick '));
  const said = phrases.map((phrase, i) =>
    named >= 0 && i > named ? phrase.replace(/with the kick$/, 'with it') : phrase,
  );
  const text =
    said.length < 2 ? said.join('') : `${said.slice(0, -1).join(', ')} and ${said[said.length - 1]}`;
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** Changes made one after the other, as one. */
export function draftOf(document: SoundDocument, changes: readonly Change[]): Draft {
  return {
    steps: changes.map(({ step }) => step),
    title: sentence(changes.map(({ phrase }) => phrase)),
    costs: changes.flatMap(({ costs }) => costs),
    document: changes.reduce((changed, { apply }) => apply(changed), document),
  };
}

/** The bass turned by one angle; null where that is next to nothing. */
export function turnChange(turn: Turn | null): Change | null {
  if (!turn || Math.abs(turn.turnDeg) < LEAST_TURN_DEG) return null;
  return {
    step: 'turn',
    phrase: `turn the bass by ${signed(turn.turnDeg, 0)}°`,
    costs: [],
    apply: (document) => ({
      ...document,
      lock: { ...document.lock, turnDeg: wrapDegrees(document.lock.turnDeg + turn.turnDeg) },
    }),
  };
}

/** Every pitch with the start phase that suits it; null where there is none. */
export function turnsChange(turns: ReadonlyMap<number, Turn>): Change | null {
  if ([...turns.values()].every(({ turnDeg }) => Math.abs(turnDeg) < LEAST_TURN_DEG)) return null;
  const apply = (document: SoundDocument): SoundDocument => {
    const own = new Map(document.lock.turns.map(({ pitch, turnDeg }) => [pitch, turnDeg]));
    for (const [pitch, { turnDeg }] of turns) own.set(pitch, wrapDegrees((own.get(pitch) ?? 0) + turnDeg));
    return {
      ...document,
      lock: {
        ...document.lock,
        turns: [...own]
          .sort(([a], [b]) => a - b)
          .filter(([, turnDeg]) => turnDeg !== 0)
          .map(([pitch, turnDeg]) => ({ pitch, turnDeg })),
      },
    };
  };
  return { step: 'turns', phrase: 'give each note pitch its own start phase', costs: [], apply };
}

/** The bass turned about. */
export const INVERT: Change = {
  step: 'invert',
  phrase: 'flip the polarity of the bass',
  costs: [],
  apply: (document) => ({ ...document, lock: { ...document.lock, invert: !document.lock.invert } }),
};

/** The whole bass moved in time. */
export function nudgeChange({ kick }: SoundDocument, nudge: Nudge | null): Change | null {
  if (!nudge || Math.abs(nudge.nudgeMs) < LEAST_NUDGE_MS || kick.shared) return null;
  return {
    step: 'nudge',
    phrase: `nudge the bass by ${signed(nudge.nudgeMs, 2)} ms`,
    costs: [],
    apply: (document) => ({
      ...document,
      lock: {
        ...document.lock,
        nudgeMs: tidy(Math.max(-20, Math.min(20, document.lock.nudgeMs + nudge.nudgeMs)), 2),
      },
    }),
  };
}

/**
 * Low layers begin their phase anew at each hit: those that sound below the clean path, which is Sub; without
 * one all that sound.
 */
export const RESTART_CHANGE: Change = {
  step: 'restart',
  phrase: 'restart the bass with the kick',
  costs: [],
  apply: (document) => {
    const subs = document.grit.cleanPath.on && document.layers.some(({ on, role }) => on && role === 'sub');
    return {
      ...document,
      layers: document.layers.map((layer) =>
        layer.on && (!subs || layer.role === 'sub')
          ? { ...layer, voice: { ...layer.voice, restart: 'note and kick' as const } }
          : layer,
      ),
    };
  },
};

/** The line moved by semitones; null where it would leave what can be played. */
export function lineChange({ line: { notes } }: SoundDocument, semitones: number, to: string): Change | null {
  if (
    semitones === 0 ||
    notes.some(({ pitch }) => pitch + semitones < LOWEST_NOTE || pitch + semitones > HIGHEST_NOTE)
  )
    return null;
  return {
    step: 'line',
    phrase: `move the line by ${signed(semitones, 0)} semitone${Math.abs(semitones) === 1 ? '' : 's'} to ${to}`,
    costs: [],
    apply: (document) => ({
      ...document,
      line: { notes: document.line.notes.map((note) => ({ ...note, pitch: note.pitch + semitones })) },
    }),
  };
}

/** A kick that is over sooner: it then meets the notes whose phase it does not share for less long. */
export function shortenChange(document: SoundDocument, lengthS: number | null, toMs: number): Change | null {
  const changed = withKickLength(document, lengthS, toMs);
  if (!changed) return null;
  return {
    step: 'shorten',
    phrase: 'shorten the kick’s tail',
    costs: [`the kick ends after ${Math.round(toMs)} ms instead of ${Math.round(1000 * lengthS!)}`],
    apply: (sound) => withKickLength(sound, lengthS, toMs) ?? sound,
  };
}

/** The bass's own oscillator carries the kick's drop: one wave, one phase. */
export const SHARED: Change = {
  step: 'shared',
  phrase: 'play kick and bass from one oscillator',
  costs: ['the bass plays the kick’s drop, and the kick adds only its highs'],
  apply: (document) => ({ ...document, kick: { ...document.kick, shared: true } }),
};

/** Ducking as it was found, in words. */
export function duckChange({ duck }: SoundDocument): Change {
  const way =
    duck.by === 'level'
      ? 'while the kick is loud'
      : `for ${Math.round(duck.attackMs + duck.holdMs)} ms from each hit`;
  return {
    step: duck.by === 'level' ? 'duck' : 'duck-beats',
    phrase: `duck the lows of the bass by ${duck.amountDb.toFixed(0)} dB ${way}`,
    costs: [],
    apply: (document) => ({ ...document, duck }),
  };
}

/** Nothing of the bass below 120 Hz while the kick sounds. */
export const DUCK_HARD: Change = {
  step: 'duck-hard',
  phrase: 'duck the lows of the bass hard under the kick',
  costs: ['while the kick sounds there is no bass below 120 Hz'],
  apply: (document) => ({
    ...document,
    duck: { ...document.duck, on: true, hard: true, by: 'beats', from: 'kick' },
  }),
};

/** Sub an octave up: its weight lies at the second harmonic of what it was, over a kick that is all sub. */
export function octaveChange({ layers }: SoundDocument): Change | null {
  if (!layers.some(({ role, on }) => role === 'sub' && on)) return null;
  return {
    step: 'octave',
    phrase: 'move the weight of the bass to its second harmonic',
    costs: ['Sub plays an octave higher'],
    apply: (document) => ({
      ...document,
      layers: document.layers.map((layer) =>
        layer.role === 'sub' && layer.on
          ? {
              ...layer,
              tones: layer.tones.map((tone) =>
                tone.on && tone.octave < 4 ? { ...tone, octave: tone.octave + 1 } : tone,
              ),
            }
          : layer,
      ),
    }),
  };
}

/** The bass brought to the middle of where it is to stand against the kick. */
export function levelChange({ targets }: SoundDocument, bassToKickDb: number | null): Change | null {
  const { bassToKickMinDb: min, bassToKickMaxDb: max } = targets;
  if (bassToKickDb === null || (bassToKickDb >= min && bassToKickDb <= max)) return null;
  const by = Math.round(10 * ((min + max) / 2 - bassToKickDb)) / 10;
  return {
    step: 'level',
    phrase: `${by > 0 ? 'raise' : 'lower'} the bass by ${Math.abs(by).toFixed(1)} dB`,
    costs: [`it was ${Math.abs(bassToKickDb).toFixed(1)} dB ${bassToKickDb < 0 ? 'under' : 'over'} the kick`],
    apply: (document) => ({
      ...document,
      output: {
        ...document.output,
        levelDb: Math.max(-24, Math.min(12, tidy(document.output.levelDb + by, 1))),
      },
    }),
  };
}
