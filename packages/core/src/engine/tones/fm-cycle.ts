import type { SourceOf } from '../../document/index.js';

const COUNT = 4;
/** Steps of the picture, and how finely each is worked out: feedback goes by the step before. */
const POINTS = 240;
const FINE = 8;

type Wave = SourceOf<'fm'>['oscillators'][number]['wave'];

/** One cycle of a wave, x in cycles. */
function waveAt(wave: Wave, x: number): number {
  const place = x - Math.floor(x);
  switch (wave) {
    case 'sine':
      return Math.sin(2 * Math.PI * place);
    case 'triangle':
      return place < 0.25 ? 4 * place : place < 0.75 ? 2 - 4 * place : 4 * place - 4;
    case 'saw':
      return place === 0 ? 0 : 1 - 2 * place;
    case 'square':
      return place < 0.5 ? 1 : -1;
  }
}

/**
 * Two cycles of the note of an FM tone while its envelopes stand at full, as 241 values between −1 and 1: for
 * a picture, without the band limit that the tone itself keeps to. Chowning (1973): the phase of each
 * oscillator is displaced by the sum of those that steer it, each times its amount in radians; what steers
 * against the order, and itself, does so by its value a moment before.
 */
export function fmCycle({
  oscillators,
  matrix,
  scale,
}: Pick<SourceOf<'fm'>, 'oscillators' | 'matrix' | 'scale'>): Float64Array {
  const value = new Float64Array(COUNT);
  const before = new Float64Array(COUNT);
  const out = new Float64Array(POINTS + 1);
  for (let i = 0; i <= POINTS * FINE; i++) {
    const cycles = (2 * i) / (POINTS * FINE);
    let sum = 0;
    for (let o = COUNT - 1; o >= 0; o--) {
      const { on, wave, ratio, fineCents, levelPct } = oscillators[o];
      let displaced = 0;
      for (let from = 0; from < COUNT; from++)
        displaced += matrix[from * COUNT + o] * (from === o ? 0.5 * (value[o] + before[o]) : value[from]);
      before[o] = value[o];
      value[o] = on
        ? waveAt(wave, cycles * ratio * scale * 2 ** (fineCents / 1200) + displaced / (2 * Math.PI))
        : 0;
      sum += (levelPct / 100) * value[o];
    }
    if (i % FINE === 0) out[i / FINE] = sum;
  }
  const top = out.reduce((most, x) => Math.max(most, Math.abs(x)), 1e-9);
  return out.map((x) => x / top);
}
