/**
 * Progress along a bent segment: t and the result run from 0 to 1; `bend` above 0 starts slowly, below 0
 * starts fast, 0 is
 * straight. (e^(kt) − 1)/(e^k − 1) with k = 6·bend.
 */
export function bent(t: number, bend: number): number {
  if (bend > -0.002 && bend < 0.002) return t;
  const k = 6 * bend;
  return (Math.exp(k * t) - 1) / (Math.exp(k) - 1);
}

/**
 * `bent` for the block path, where numbers travel in typed arrays: progress stands at a place of `numbers`
 * with the bend after it,
 * and the bent progress takes its place.
 */
export function bendInPlace(numbers: Float64Array, at: number): void {
  const t = numbers[at];
  const k = 6 * numbers[at + 1];
  if (k > -0.012 && k < 0.012) return;
  numbers[at] = (Math.exp(k * t) - 1) / (Math.exp(k) - 1);
}

/**
 * A drawn shape's value at x in [0, 1]: nodes rise in x from 0 to 1, each with the bend of the segment that
 * follows it.
 */
export function shapeAt(nodes: readonly { x: number; y: number; bend: number }[], x: number): number {
  let i = 0;
  while (i < nodes.length - 2 && x >= nodes[i + 1].x) i++;
  const from = nodes[i];
  const to = nodes[i + 1];
  const span = to.x - from.x;
  const t = span > 0 ? Math.min(1, Math.max(0, (x - from.x) / span)) : 1;
  return from.y + (to.y - from.y) * bent(t, from.bend);
}
