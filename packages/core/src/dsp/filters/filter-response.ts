import {
  bellOf,
  combGain,
  damping,
  dampingOf,
  FLAT,
  LADDER_MIX,
  ladderFeedback,
  ladderTuning,
  ladderTunings,
  octavesOf,
  VOWEL_AT_HZ,
  VOWEL_LEVELS,
  vowelQ,
} from './filter-design.js';
import { FORMANTS, type Vowel } from '../waves/formants.js';
import type { LadderMode, Slope } from './ladder.js';
import { BUTTERWORTH_4, prewarp, type SectionMode } from './state-variable.js';

/** What a layer's filter is set to; see the parameter table for ranges. */
export interface FilterSetting {
  readonly form: 'state' | 'ladder';
  readonly slope: Slope;
  readonly cutoffHz: number;
  readonly resonancePct: number;
  readonly widthOct: number;
  readonly vowelPct: number;
}

/** Vowels of the vowel filter, from its least setting to its greatest. */
export const FILTER_VOWELS: readonly Vowel[] = ['i', 'ɪ', 'ɛ', 'æ', 'ɑ', 'ɔ', 'ʊ', 'u'];

/** Frequency of a formant (0 to 2) of the vowel filter, between its vowels by equal ratios. */
export function filterFormantHz(formant: number, vowelPct: number): number {
  const place = (vowelPct / 100) * (FILTER_VOWELS.length - 1);
  const i = Math.min(FILTER_VOWELS.length - 2, Math.floor(place));
  const from = FORMANTS.men[FILTER_VOWELS[i]][formant];
  return from * (FORMANTS.men[FILTER_VOWELS[i + 1]][formant] / from) ** (place - i);
}

type Complex = readonly [number, number];
const times = ([a, b]: Complex, [c, d]: Complex): Complex => [a * c - b * d, a * d + b * c];
const over = (a: Complex, [c, d]: Complex): Complex => {
  const m = c * c + d * d;
  return times(a, [c / m, -d / m]);
};
const plus = ([a, b]: Complex, [c, d]: Complex): Complex => [a + c, b + d];
const scaled = ([a, b]: Complex, k: number): Complex => [a * k, b * k];

/** Transfer of a section on the warped axis: w is the frequency over the cutoff. */
export function sectionTransfer(mode: SectionMode, w: number, k: number): Complex {
  const below: Complex = [1 - w * w, k * w];
  const above: Complex =
    mode === 'low' ? [1, 0] : mode === 'high' ? [-w * w, 0] : mode === 'band' ? [0, k * w] : [1 - w * w, 0];
  return over(above, below);
}

function bellTransfer(w: number, resonance: number, widthOct: number): Complex {
  const { amplitude, k } = bellOf(resonance, widthOct);
  return over([1 - w * w, k * amplitude * w], [1 - w * w, (k / amplitude) * w]);
}

/**
 * Damping of each second-order section, and whether a one-pole stands before them, for a form of state
 * variables.
 */
export function sectionsOf(
  mode: SectionMode,
  slope: Slope,
  resonance: number,
  widthOct: number,
): { onePole: boolean; ks: number[]; bell: boolean } {
  const corner = mode === 'low' || mode === 'high';
  const k = damping(resonance);
  if (corner) {
    const bell = resonance !== 0 && (slope === '6' || widthOct > 0);
    const share = bell ? 1 : k / FLAT;
    if (slope === '6') return { onePole: true, ks: [], bell };
    if (slope === '12') return { onePole: false, ks: [FLAT * share], bell };
    if (slope === '18') return { onePole: true, ks: [share], bell };
    return { onePole: false, ks: [1 / BUTTERWORTH_4[0], share / BUTTERWORTH_4[1]], bell };
  }
  const wide = widthOct > 0 ? dampingOf(octavesOf(k) + widthOct) : k;
  const dull = Math.max(2, wide);
  if (slope === '6') return { onePole: false, ks: [dull], bell: false };
  if (slope === '12') return { onePole: false, ks: [wide], bell: false };
  return { onePole: false, ks: [slope === '18' ? dull : wide, wide], bell: false };
}

function stateTransfer(
  mode: SectionMode,
  slope: Slope,
  w: number,
  resonance: number,
  widthOct: number,
): Complex {
  const { onePole, ks, bell } = sectionsOf(mode, slope, resonance, widthOct);
  let h: Complex = onePole ? over(mode === 'high' ? [0, w] : [1, 0], [1, w]) : [1, 0];
  for (const k of ks) h = times(h, sectionTransfer(mode, w, k));
  return bell ? times(h, bellTransfer(w, resonance, widthOct)) : h;
}

function ladderTransfer(
  mode: LadderMode,
  slope: Slope,
  w: number,
  resonance: number,
  widthOct: number,
): Complex {
  const wide = widthOct > 0 && resonance !== 0;
  const k = wide ? 0 : ladderFeedback(resonance);
  const stage = over([1, 0], [1, w / ladderTuning(ladderTunings(mode, slope), k)]);
  const powers: Complex[] = [[1, 0]];
  for (let i = 0; i < 4; i++) powers.push(times(powers[i], stage));
  const mix: readonly number[] = LADDER_MIX[mode][slope];
  const sum = powers.reduce<Complex>((all, power, i) => plus(all, scaled(power, mix[i])), [0, 0]);
  const h = over(scaled(sum, 1 + k), plus([1, 0], scaled(powers[4], k)));
  return wide ? times(h, bellTransfer(w, resonance, widthOct)) : h;
}

/** Frequency over cutoff on the warped axis. */
const warped = (hz: number, cutoffHz: number, sampleRateHz: number) =>
  prewarp(hz, sampleRateHz) / prewarp(cutoffHz, sampleRateHz);

/** Magnitude at a frequency of a filter of state variables, digital by the bilinear transform. */
export function stateMagnitude(
  mode: SectionMode,
  { slope, cutoffHz, resonancePct, widthOct }: FilterSetting,
  hz: number,
  sampleRateHz: number,
): number {
  return Math.hypot(
    ...stateTransfer(mode, slope, warped(hz, cutoffHz, sampleRateHz), resonancePct / 100, widthOct),
  );
}

/** The same of a ladder. */
export function ladderMagnitude(
  mode: LadderMode,
  { slope, cutoffHz, resonancePct, widthOct }: FilterSetting,
  hz: number,
  sampleRateHz: number,
): number {
  return Math.hypot(
    ...ladderTransfer(mode, slope, warped(hz, cutoffHz, sampleRateHz), resonancePct / 100, widthOct),
  );
}

/** The same of a comb; negative resonance makes its peaks dips. */
export function combMagnitude(
  negative: boolean,
  { cutoffHz, resonancePct, widthOct }: FilterSetting,
  hz: number,
): number {
  const gain = combGain(resonancePct / 100, widthOct);
  const turn = -2 * Math.PI * (hz / cutoffHz) * (negative ? 0.5 : 1);
  const signed = (negative ? -1 : 1) * gain;
  const late: Complex = [signed * Math.cos(turn), signed * Math.sin(turn)];
  const through: Complex = [1 - late[0], -late[1]];
  return Math.hypot(
    ...(resonancePct < 0 ? scaled(through, 1 / (1 + gain)) : over([Math.sqrt(1 - 0.9 * gain), 0], through)),
  );
}

/** The same of the vowel filter: three bands in parallel, the middle one turned about. */
export function vowelMagnitude(
  { cutoffHz, resonancePct, widthOct, vowelPct }: FilterSetting,
  hz: number,
  sampleRateHz: number,
): number {
  const k = dampingOf(octavesOf(1 / vowelQ(resonancePct / 100)) + widthOct);
  const h = VOWEL_LEVELS.reduce<Complex>(
    (sum, level, i) => {
      const centre = filterFormantHz(i, vowelPct) * (cutoffHz / VOWEL_AT_HZ);
      return plus(
        sum,
        scaled(sectionTransfer('band', warped(hz, centre, sampleRateHz), k), level * (i === 1 ? -1 : 1)),
      );
    },
    [0, 0],
  );
  return Math.hypot(...h);
}
