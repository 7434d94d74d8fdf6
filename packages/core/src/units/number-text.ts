/**
 * A number with its sign, and without one where it rounds to nothing. The minus is the typographic one, as
 * wide as the plus.
 */
export function signed(value: number, digits = 1): string {
  const size = Math.abs(value).toFixed(digits);
  return Number(size) === 0 ? size : `${value < 0 ? '−' : '+'}${size}`;
}

/** The same without a plus. */
export function plain(value: number, digits = 1): string {
  return signed(value, digits).replace('+', '');
}

/**
 * By how much a value misses its bounds where the text of both is the same: "0.02 under" of −0.02 against
 * 0.0. Null where it does not miss, or where the text shows it. `digits` are those of the text.
 */
export function missText(
  value: number | null,
  { least = -Infinity, most = Infinity }: { readonly least?: number; readonly most?: number },
  digits = 1,
): string | null {
  if (value === null) return null;
  const bound = value < least ? least : value > most ? most : null;
  if (bound === null || signed(value, digits) !== signed(bound, digits)) return null;
  const by = Math.abs(value - bound);
  // As many places as it takes to be more than nothing.
  const places = Math.min(6, Math.max(digits + 1, Math.ceil(-Math.log10(by))));
  return `${by.toFixed(places)} ${value < least ? 'under' : 'over'}`;
}

/**
 * How a value stands to its bounds, in words: "1.3 dB to spare" within them, "just" where that rounds to
 * nothing, and `missText` outside. Null where there is no value, no bound, or where the texts of value and
 * bound show the miss.
 */
export function marginText(
  value: number | null,
  bounds: { readonly least?: number; readonly most?: number },
  unit = 'dB',
  digits = 1,
): string | null {
  if (value === null) return null;
  const spare = Math.min(value - (bounds.least ?? -Infinity), (bounds.most ?? Infinity) - value);
  if (spare < 0) return missText(value, bounds, digits);
  if (!Number.isFinite(spare)) return null;
  const text = spare.toFixed(digits);
  return Number(text) === 0 ? 'just' : `${text} ${unit} to spare`;
}

/** A frequency as it is read: “436 Hz”, “1.5 kHz”. */
export const hertzText = (hz: number): string =>
  hz >= 1000 ? `${(hz / 1000).toFixed(1)} kHz` : `${Math.round(hz)} Hz`;
