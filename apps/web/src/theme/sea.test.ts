import { NIGHT_WATCH, PAPER, type SeaColours } from './sea';

/** Relative luminance and contrast ratio (WCAG 2.2, definitions of both). */
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5]
    .map((at) => parseInt(hex.slice(at, at + 2), 16) / 255)
    .map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4));
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
const contrast = (a: string, b: string) => {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x);
  return (light + 0.05) / (dark + 0.05);
};

describe.each([
  ['paper', PAPER],
  ['night watch', NIGHT_WATCH],
] as const)('%s', (_name, sea) => {
  // WCAG 2.2, 1.4.3 (AA): 4.5 to 1 for text.
  it.each<[keyof SeaColours, readonly (keyof SeaColours)[]]>([
    ['ink', ['paper', 'sheet', 'tint1', 'tint2']],
    ['ink2', ['paper', 'sheet', 'tint1']],
    ['onInk', ['ink']],
    ['note', ['sheet', 'tint1']],
    ['holds', ['sheet']],
    ['watch', ['sheet']],
    ['short', ['sheet']],
    ['tint5', ['sheet']],
  ])('%s can be read on %j', (text, grounds) => {
    for (const ground of grounds) expect(contrast(sea[text], sea[ground])).toBeGreaterThanOrEqual(4.5);
  });

  // 1.4.11 (AA): 3 to 1 for what a chart's lines say.
  it('has lines that stand out from their ground', () => {
    for (const line of ['kick', 'ink', 'tint6', 'note'] as const)
      expect(contrast(sea[line], sea.tint1)).toBeGreaterThanOrEqual(3);
  });
});

it("computes contrast as WCAG's own extremes", () => {
  expect(contrast('#000000', '#FFFFFF')).toBeCloseTo(21, 6);
  expect(contrast('#777777', '#777777')).toBe(1);
});
