import type { SoundDocument } from '../document/index.js';
import { renderKick, type Assets } from '../engine/index.js';
import { kickLengthS, kickTail, middle, type KickTail } from '../measure/index.js';

/** The kick's own figures. */
export interface KickFigures {
  readonly tail: KickTail | null;
  readonly lengthS: number | null;
}

/** The hit that was measured last, with what was found: while it stays as it is, it is not measured again. */
export interface KickMemory {
  last: {
    readonly hit: Float32Array;
    readonly sampleRateHz: number;
    readonly a4Hz: number;
    readonly found: KickFigures;
  } | null;
}

const alike = (a: Float32Array, b: Float32Array) =>
  a.length === b.length && a.every((sample, i) => sample === b[i]);

/** The kick's own figures, from one hit of it alone; one that `memory` holds is not measured again. */
export function kickFigures(
  document: SoundDocument,
  sampleRateHz: number,
  assets?: Assets,
  memory: KickMemory = { last: null },
): KickFigures {
  const { left, right } = renderKick(document, sampleRateHz, assets);
  const hit = middle([left, right]);
  const { a4Hz } = document.ground;
  const { last } = memory;
  if (last?.sampleRateHz === sampleRateHz && last.a4Hz === a4Hz && alike(last.hit, hit)) return last.found;
  const found =
    hit.length > 0
      ? { tail: kickTail(hit, sampleRateHz, a4Hz), lengthS: kickLengthS(hit, sampleRateHz) }
      : { tail: null, lengthS: null };
  memory.last = { hit, sampleRateHz, a4Hz, found };
  return found;
}
