/**
 * Writes a number even in [0, 1) to `out[0]`: always the same for a seed, a stream and a place, and unlike
 * that of any other place. Mixed as the finish of MurmurHash3 (Appleby, public domain) does it.
 */
export function chanceOf(seed: number, stream: number, place: number, out: Float64Array): void {
  let x = (seed ^ Math.imul(stream + 1, 0x9e3779b9) ^ Math.imul((place | 0) + 1, 0x85ebca6b)) >>> 0;
  for (let round = 0; round < 2; round++) {
    x = Math.imul(x ^ (x >>> 16), 0x85ebca6b);
    x = Math.imul(x ^ (x >>> 13), 0xc2b2ae35);
    x = (x ^ (x >>> 16)) >>> 0;
  }
  out[0] = x / 4294967296;
}
