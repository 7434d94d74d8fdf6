import { movableValues, type Layer } from '../../document/index.js';
import type { NumberNode } from '../../document/index.js';

/**
 * Where the numbers of a layer that movers may reach stand in its bank: in the order of the document, those
 * of each tone, filter and so on one after
 * the other. Tones and filters that are off have none (−1).
 */
export class LayerLayout {
  readonly fields: readonly string[];
  readonly rows: readonly NumberNode[];
  readonly level: number;
  readonly pan: number;
  readonly tones: Int32Array;
  readonly filters: Int32Array;
  readonly acts: number;
  readonly feedback: number;
  /** The first number of its own units. */
  readonly units: number;

  constructor(layer: Layer) {
    const values = movableValues(layer, true);
    this.fields = values.map(({ field }) => field);
    this.rows = values.map(({ row }) => row);
    /** Place of a number, or of the first of a part whose fields begin so. */
    const at = (start: string) =>
      this.fields.findIndex((field) => field === start || field.startsWith(`${start}.`));
    this.level = at('levelDb');
    this.pan = at('panPct');
    this.tones = Int32Array.from(layer.tones, (_, t) => at(`tones.${t}`));
    this.filters = Int32Array.from(layer.filters, (_, f) => at(`filters.${f}`));
    this.acts = at('acts');
    this.feedback = at('feedback');
    // They come last.
    const units = this.fields.findIndex((field) => field.startsWith('units.'));
    this.units = units < 0 ? this.fields.length : units;
  }
}

/** The numbers themselves, in the layout's order. */
export function layerValues(layer: Layer): number[] {
  return movableValues(layer, true).map(({ value }) => value);
}
