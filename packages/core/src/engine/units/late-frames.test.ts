import { cleanUnit, type GritUnit } from '../../document/index.js';
import { UNIT_NAMES, unitKindOf } from '../../kinds/units/index.js';
import { aloneWith } from '../../testing/chain.js';
import { chainLate } from './late-frames.js';
import { UnitChain } from './unit-chain.js';

/** What looks ahead, as far as it may. */
const AHEAD: Partial<Record<GritUnit['kind'], object>> = {
  compressor: { lookAheadMs: 10 },
  limiter: { lookAheadMs: 10 },
};

describe('by how much a chain comes late', () => {
  // The mix asks before anything runs; what runs must come as late as was said.
  it.each(UNIT_NAMES.flatMap((kind) => [24000, 44100, 48000, 96000].map((rate) => [kind, rate] as const)))(
    '%s at %i Hz: as late as it says beforehand',
    (kind, sampleRateHz) => {
      for (const settings of [{}, AHEAD[kind] ?? {}]) {
        const unit = cleanUnit(kind, { id: 'one', ...settings }) as GritUnit;
        const start = { ...aloneWith(), sampleRateHz };
        const said = unitKindOf(kind).lateFrames?.(unit, sampleRateHz) ?? 0;
        expect(new UnitChain([unit], start, 0).lateFrames).toBe(said);
        expect(chainLate([unit], sampleRateHz)).toBe(said);
      }
    },
  );

  it('is the sum of its units, without those that are off', () => {
    const units: GritUnit[] = [
      cleanUnit('hard clip', { id: 'a' }),
      cleanUnit('limiter', { id: 'b', lookAheadMs: 5 }),
      cleanUnit('limiter', { id: 'c', lookAheadMs: 10, on: false }),
      cleanUnit('pan', { id: 'd' }),
    ];
    const each = units.slice(0, 2).map((unit) => chainLate([unit], 48000));
    expect(each.every((frames) => frames > 0)).toBe(true);
    expect(chainLate(units, 48000)).toBe(each[0] + each[1]);
    expect(new UnitChain(units, aloneWith(), 0).lateFrames).toBe(each[0] + each[1]);
  });
});
