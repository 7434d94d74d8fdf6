/**
 * Coefficients c0 to c3 of the cubic through four evenly spaced values `v[0]` to `v[3]` (Lagrange), t = 0 at
 * the second and 1 at the third; written to `out`.
 */
export function cubicThrough(v: Float64Array, out: Float64Array): void {
  const a = v[0],
    b = v[1],
    c = v[2],
    d = v[3];
  out[0] = b;
  out[1] = c - a / 3 - b / 2 - d / 6;
  out[2] = (a + c) / 2 - b;
  out[3] = (b - c) / 2 + (d - a) / 6;
}
