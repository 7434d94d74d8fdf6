/** A number with its sign, and without one where it rounds to nothing. The minus is the typographic one, as wide as the plus. */
export function signed(value: number, digits = 1): string {
  const size = Math.abs(value).toFixed(digits);
  return Number(size) === 0 ? size : `${value < 0 ? '−' : '+'}${size}`;
}

/** The same without a plus. */
export function plain(value: number, digits = 1): string {
  return signed(value, digits).replace('+', '');
}
