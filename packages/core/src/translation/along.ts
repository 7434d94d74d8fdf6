/** A table's value at a frequency, evenly over its logarithm; what lies outside reads as the nearest end. */
export function along(hzs: readonly number[], values: readonly number[], hz: number): number {
  if (hz <= hzs[0]) return values[0];
  const above = hzs.findIndex((each) => each >= hz);
  if (above < 0) return values[values.length - 1];
  const share = Math.log(hz / hzs[above - 1]) / Math.log(hzs[above] / hzs[above - 1]);
  return values[above - 1] + share * (values[above] - values[above - 1]);
}
