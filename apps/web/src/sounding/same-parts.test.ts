import { withSameParts } from './same-parts';

const found = () => ({
  wave: Float32Array.of(0, 0.5, 1),
  figures: [{ id: 'fit', value: -1 }],
  missing: null,
});
const before = found();

describe('what is measured anew', () => {
  it('keeps the parts that are as they were, waves too', () => {
    const kept = withSameParts(before, found());
    expect(kept.wave).toBe(before.wave);
    expect(kept.figures).toBe(before.figures);
  });

  it('takes the parts that differ, by one sample or one digit', () => {
    const now = { ...found(), wave: Float32Array.of(0, 0.5, 0.99) };
    now.figures[0].value = -1.1;
    const kept = withSameParts(before, now);
    expect(kept.wave).toBe(now.wave);
    expect(kept.figures).toBe(now.figures);
    expect(withSameParts(before, { ...before, wave: Float32Array.of(0, 0.5) }).wave).toHaveLength(2);
  });

  it('is all new where there was nothing', () => {
    expect(withSameParts(null, before)).toBe(before);
  });
});
