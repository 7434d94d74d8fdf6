import type { NumberNode, Unit } from '../schema/schema.js';
import { signed } from '../units/index.js';

/** The unit in which a reach on a row is told, and how much of it all of the row's range is. */
function spanOf(row: NumberNode): { readonly unit: Unit; readonly span: number } {
  if (row.scale === 'log') return { unit: 'oct', span: Math.log2(row.max / row.min) };
  return { unit: row.unit === '' ? '%' : row.unit, span: row.unit === '' ? 100 : row.max - row.min };
}

/** A reach in % of a row's range in the row's own unit: octaves, dB, semitones, …: `+2.5 oct`. */
export function formatReach(row: NumberNode, reachPct: number): string {
  const { unit, span } = spanOf(row);
  const value = (reachPct / 100) * span;
  const digits = Math.abs(value) < 10 ? 2 : Math.abs(value) < 100 ? 1 : 0;
  return `${signed(value, digits)}${unit === '°' ? '' : ' '}${unit}`;
}

/** Spellings of units, and how much of the unit each is. */
const FACTORS: Readonly<Record<string, readonly [Unit, number]>> = {
  oct: ['oct', 1],
  octave: ['oct', 1],
  octaves: ['oct', 1],
  st: ['oct', 1 / 12],
  semitones: ['oct', 1 / 12],
  ct: ['oct', 1 / 1200],
  db: ['dB', 1],
  hz: ['Hz', 1],
  khz: ['Hz', 1000],
  ms: ['ms', 1],
  s: ['ms', 1000],
  beats: ['beats', 1],
  '°': ['°', 1],
};

type Read =
  | { readonly ok: true; readonly pct: number; readonly held: boolean }
  | { readonly ok: false; readonly message: string };

/**
 * A reach that was typed, in % of a row's range: in per cent (`40%`), in the row's own unit (`2 oct`, `-6 dB`,
 * `7 st`), or as a bare number in that unit. A sentence where it means nothing.
 */
export function parseReach(row: NumberNode, text: string): Read {
  const { unit, span } = spanOf(row);
  const match = /^([+-]?(?:\d+(?:\.\d*)?|\.\d+))\s*([a-z%°]*)$/i.exec(
    text
      .trim()
      .replace(/[−–]/g, '-')
      .replace(/(\d),(\d)/g, '$1.$2'),
  );
  const nothing: Read = { ok: false, message: `Type a reach such as 25% or ${formatReach(row, 25)}.` };
  if (!match) return nothing;
  const value = Number(match[1]);
  const typed = match[2].toLowerCase();
  let pct: number;
  if (typed === '' || (typed === '%' && unit === '%')) pct = (100 * value) / span;
  else if (typed === '%') pct = value;
  else {
    const [known, factor] = FACTORS[typed] ?? [null, 1];
    // Rows in semitones or cents take both, whatever their scale.
    const perOctave = unit === 'st' ? 12 : unit === 'ct' ? 1200 : null;
    if (known === unit) pct = (100 * value * factor) / span;
    else if (known === 'oct' && perOctave !== null) pct = (100 * value * factor * perOctave) / span;
    else return nothing;
  }
  const held = Math.min(100, Math.max(-100, pct));
  return { ok: true, pct: Number(held.toFixed(3)), held: held !== pct };
}

/** Where a link carries a place of a row's range to, with its mover all the way down and all the way up. */
export function endsOf(link: {
  readonly reachPct: number;
  readonly fromPct: number;
  readonly way: 'one way' | 'both ways';
}): readonly [number, number] {
  const reach = link.reachPct / 100;
  return link.way === 'both ways' ? [-reach, reach] : [link.fromPct / 100, reach];
}
