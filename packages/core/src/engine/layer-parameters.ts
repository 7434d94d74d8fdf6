import { parameter, type Layer } from '../document/index.js';

/** The numbers of a layer that movers may reach or a slider may move while it sounds; places in its parameter bank. */
export const LAYER_FIELDS = [
  'levelDb', 'panPct', 'tone.widthPct', 'tone.cents', 'tone.detuneCents', 'tone.spreadPct', 'filter.cutoffHz', 'filter.resonanceQ', 'filter.driveDb',
] as const;

export const LEVEL = 0;
export const PAN = 1;
export const WIDTH = 2;
export const CENTS = 3;
export const DETUNE = 4;
export const SPREAD = 5;
export const CUTOFF = 6;
export const RESONANCE = 7;
export const DRIVE = 8;

export const LAYER_ROWS = LAYER_FIELDS.map((field) => parameter(`layers.*.${field}`));

export function layerValues({ levelDb, panPct, tone, filter }: Layer): number[] {
  return [levelDb, panPct, tone.widthPct, tone.cents, tone.detuneCents, tone.spreadPct, filter.cutoffHz, filter.resonanceQ, filter.driveDb];
}
