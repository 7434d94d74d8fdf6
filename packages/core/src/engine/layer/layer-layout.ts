import { movableValues, type Layer } from '../../document/index.js';
import type { NumberNode } from '../../document/index.js';

/** Places of a filter's numbers from its first; of the acts' from theirs; of a feedback's. */
export const F_CUTOFF = 0;
export const F_RESONANCE = 1;
export const F_WIDTH = 2;
export const F_VOWEL = 3;
export const F_DRIVE = 4;
export const F_LEVEL = 5;
export const FB_AMOUNT = 0;
export const FB_DELAY = 1;
export const LEVEL = 0;
export const PAN = 1;

/**
 * Where the numbers of a layer that movers may reach stand in its bank: in the order of the document, those of each tone, filter and so on one after
 * the other. Tones and filters that are off have none (−1).
 */
export class LayerLayout {
  readonly fields: readonly string[];
  readonly rows: readonly NumberNode[];
  readonly tones: Int32Array;
  readonly filters: Int32Array;
  readonly acts: number;
  readonly feedback: number;

  constructor(layer: Layer) {
    const values = movableValues(layer, true);
    this.fields = values.map(({ field }) => field);
    this.rows = values.map(({ row }) => row);
    const at = (field: string) => this.fields.indexOf(field);
    this.tones = Int32Array.from(layer.tones, (_, t) => at(`tones.${t}.cents`));
    this.filters = Int32Array.from(layer.filters, (_, f) => at(`filters.${f}.cutoffHz`));
    this.acts = at('acts.two.amountPct');
    this.feedback = at('feedback.amountPct');
  }
}

/** The numbers themselves, in the layout's order. */
export function layerValues(layer: Layer): number[] {
  return movableValues(layer, true).map(({ value }) => value);
}
