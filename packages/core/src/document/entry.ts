import { hzToNote, noteName, noteToHz, parseNote } from '../music/index.js';
import { formatDivision, parseDivision } from '../units/index.js';
import { clampValue } from './parameters.js';
import type { NumberNode, Unit } from '../schema/schema.js';

/** What a typed entry became: a value within the row's bounds, or a sentence that says what is wanted. */
export type Entry =
  | { readonly ok: true; readonly value: number; readonly held: boolean }
  | { readonly ok: false; readonly message: string };

const MINUS = /[−–]/g;
/** Silence in decibels; a place from left to right. */
const SILENCE = /^-(?:inf|infinity|∞)(?:\s*db)?$/i;
const PAN = /\bpan$/i;
const SIDE = /^(?:(l|r)\s*(\d+(?:\.\d+)?)%?|c|centre|center)$/i;
/** A comma between digits stands for a point. */
const COMMA = /(\d),(\d)/g;
const PLAIN = /^([+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[+-]?\d+)?)\s*([a-z%°/:]*)$/i;

/** Factors to a row's unit from the units that may be typed for it, lower case. */
const SPELLINGS: Partial<Record<Unit, Record<string, number>>> = {
  Hz: { hz: 1, khz: 1000, k: 1000 },
  ms: { ms: 1, s: 1000, sec: 1000 },
  s: { s: 1, sec: 1, ms: 0.001 },
  dB: { db: 1, dbfs: 1 },
  dBTP: { dbtp: 1, db: 1 },
  LUFS: { lufs: 1 },
  LU: { lu: 1, db: 1 },
  '%': { '%': 1 },
  st: { st: 1, semitones: 1, oct: 12, ct: 0.01 },
  ct: { ct: 1, cents: 1, st: 100 },
  '°': { '°': 1, deg: 1 },
  bpm: { bpm: 1 },
  Q: { q: 1 },
  oct: { oct: 1, octave: 1, octaves: 1 },
  beats: { beats: 1, beat: 1 },
  ticks: { ticks: 1 },
  frames: { frames: 1 },
};

const WANTED: Partial<Record<Unit, string>> = {
  Hz: 'a frequency such as 420, 1.2k or G#4',
  ms: 'a time such as 60ms or 0.2s',
  s: 'a time such as 1.2s or 800ms',
  dB: 'a level such as -3dB',
  beats: 'a division such as 1/4, 1/8T or 1/8.',
  note: 'a note such as F1',
  '%': 'a share such as 40%',
  st: 'semitones such as 12 st',
  ct: 'cents such as 9 ct',
  '°': 'degrees such as 65°',
  bpm: 'a tempo such as 140',
};

function parse({ label, unit, min, amplitude }: NumberNode, text: string, a4Hz: number): number | null {
  if (unit === 'beats') {
    const division = parseDivision(text);
    if (division !== null) return division;
  }
  if (unit === 'Hz' || unit === 'note') {
    const note = parseNote(text);
    if (note !== null) return unit === 'note' ? note : noteToHz(note, a4Hz);
  }
  if ((unit === 'dB' || unit === 'dBTP') && SILENCE.test(text)) return min;
  const side = PAN.test(label) ? SIDE.exec(text) : null;
  if (side) return side[1] ? (side[1].toLowerCase() === 'l' ? -1 : 1) * Number(side[2]) : 0;
  const match = PLAIN.exec(text);
  if (!match) return null;
  const suffix = match[2].toLowerCase();
  if (amplitude && suffix === 'db') return 100 * 10 ** (Number(match[1]) / 20);
  const factor = suffix === '' ? 1 : SPELLINGS[unit]?.[suffix];
  return factor === undefined ? null : Number(match[1]) * factor;
}

/**
 * Reads what a person typed for a row: a bare number in the row's unit, a number with a unit, a note name for
 * hertz, a
 * division for beats. A value out of bounds is held to the nearest bound (`held` says so); text that means
 * nothing is
 * refused with a sentence that says what is wanted.
 */
export function parseEntry(row: NumberNode, typed: string, a4Hz = 440): Entry {
  const text = typed.trim().replace(MINUS, '-').replace(COMMA, '$1.$2');
  const value = text === '' ? null : parse(row, text, a4Hz);
  if (value === null || !Number.isFinite(value)) {
    return {
      ok: false,
      message: `${row.label} takes ${WANTED[row.unit] ?? 'a number'}, from ${formatValue(row, row.min)} to ${formatValue(row, row.max)}`,
    };
  }
  const kept = clampValue(row, value);
  return { ok: true, value: kept, held: kept !== (row.whole ? Math.round(value) : value) };
}

const minus = (text: string) => text.replace('-', '−');

/** A number with as many decimals as its size asks for: 0.71, 9.5, 420. */
function plain(value: number): string {
  const size = Math.abs(value);
  const digits = size >= 100 ? 0 : size >= 10 ? 1 : 2;
  return minus(String(Number(value.toFixed(digits))));
}

/**
 * Writes a value as its row shows it, with its unit and a true minus sign: `420 Hz`, `1.2 kHz`, `−3.0 dB`,
 * `1/8T`, `F1`.
 */
export function formatValue(row: NumberNode, value: number): string {
  switch (row.unit) {
    case 'Hz':
      return value >= 1000 ? `${plain(value / 1000)} kHz` : `${plain(value)} Hz`;
    case 'dB':
    case 'dBTP':
    case 'LUFS':
    case 'LU':
      return `${minus(value.toFixed(1))} ${row.unit}`;
    case 'ms':
      return value >= 1000 ? `${plain(value / 1000)} s` : `${plain(value)} ms`;
    case 'beats':
      return formatDivision(value) ?? `${plain(value)} beats`;
    case 'note':
      return noteName(value);
    case '°':
      return `${plain(value)}°`;
    case '':
      return plain(value);
    default:
      return `${plain(value)} ${row.unit}`;
  }
}

/** The note that a frequency lies nearest to, for a row's help: `G♯4 +3 ct`. */
export function frequencyAsNote(hz: number, a4Hz = 440): string {
  const exact = hzToNote(hz, a4Hz);
  const cents = Math.round(100 * (exact - Math.round(exact)));
  return `${noteName(exact)}${cents === 0 ? '' : ` ${cents > 0 ? '+' : '−'}${Math.abs(cents)} ct`}`;
}
