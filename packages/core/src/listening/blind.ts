/** n over k. */
function choose(n: number, k: number): number {
  let ways = 1;
  for (let i = 1; i <= k; i++) ways = (ways * (n - k + i)) / i;
  return ways;
}

/**
 * How likely it is to be right so often or more often by guessing between two: the upper tail of the binomial distribution with
 * one half.
 *
 * @example chanceOfRight(9, 10) is 11/1024, or 0.0107.
 */
export function chanceOfRight(right: number, of: number): number {
  let ways = 0;
  for (let k = right; k <= of; k++) ways += choose(of, k);
  return ways / 2 ** of;
}
