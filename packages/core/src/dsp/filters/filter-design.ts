/** 1/Q of a second-order section without a peak. */
export const FLAT = Math.SQRT2;
/**
 * The least 1/Q of a section, at which what goes through is 34 dB up at its peak; and by how much it rises
 * again as the filter comes to sound by itself, so that what a note sets ringing dies away beside it.
 */
const LEAST_DAMPING = 0.02;
const DAMPED_BESIDE = 0.08;
/**
 * Resonance from which what goes through a section is held by its own loudness, so that a loud harmonic at
 * the peak does not burst out.
 */
const HELD_FROM = 0.88;
/** By how much the mean square of the band damps at full resonance. */
const HELD_BY = 1.2;
/** Resonance from which a filter sounds by itself, and its amplitude at full. */
const SOUNDS_FROM = 0.9;
const SOUNDS_AT = 0.5;
/** What a band is multiplied by, at the least, where it does not sound by itself. */
const LEAST_SCALE = 0.05;
/**
 * Feedback of the ladder at 98 % of the resonance, were it not lessened as it comes to sound by itself (which
 * it would at 4), and by how much it is at full.
 */
const LADDER_TO = 4.08;
const LADDER_BESIDE = 0.58;
/** Greatest gain of a widened peak in dB. */
const MOST_PEAK_DB = 36;

/** How far a resonance is past where a filter begins to sound by itself, 0 to 1. */
const past = (resonance: number) => Math.min(1, Math.max(0, (resonance - SOUNDS_FROM) / (1 - SOUNDS_FROM)));

/**
 * 1/Q of a section for a resonance from −1 (a dip) over 0 (flat) to 1: √2·(1 − r)², bounded, and a little
 * more again where the filter sounds by itself.
 */
export function damping(resonance: number): number {
  return Math.max(LEAST_DAMPING, FLAT * (1 - resonance) ** 2) + DAMPED_BESIDE * past(resonance);
}

/** How strongly the mean square of its band damps a section at a resonance; 0 in all but the last part. */
export function holdOf(resonance: number): number {
  return resonance <= HELD_FROM ? 0 : HELD_BY * Math.min(1, (resonance - HELD_FROM) / (1 - HELD_FROM)) ** 2;
}

/** Amplitude of what a filter sounds by itself at a resonance: 0 up to 0.9, 0.5 at full. */
export function oscillation(resonance: number): number {
  return SOUNDS_AT * Math.sqrt(past(resonance));
}

/**
 * What the band of damping k is multiplied by: its k, so that it is 1 at its peak, but by no less than a
 * twentieth; where it sounds by itself by up to 1, so that it is as loud as the other ways.
 */
export function bandScale(k: number, resonance: number): number {
  return Math.max(k, LEAST_SCALE + (1 - LEAST_SCALE) * past(resonance));
}

/** Feedback of the ladder: −0.9 (a dip) over 0 to 3.7, and 3.5 at full resonance. */
export function ladderFeedback(resonance: number): number {
  return resonance < 0 ? 0.9 * resonance : LADDER_TO * resonance - LADDER_BESIDE * past(resonance);
}

/**
 * Amplitude of what a ladder sounds by itself, as its mix takes it from the stages: against the last stage,
 * which has that of `oscillation`, those before it stand 45° ahead and √2 as high each, the input four times
 * as high and opposed.
 */
export function ladderOscillation(mix: readonly number[], resonance: number): number {
  let re = -4 * mix[0];
  let im = 0;
  for (let stage = 1; stage <= 4; stage++) {
    const size = mix[stage] * Math.SQRT2 ** (4 - stage);
    re += size * Math.cos(((4 - stage) * Math.PI) / 4);
    im += size * Math.sin(((4 - stage) * Math.PI) / 4);
  }
  return oscillation(resonance) * Math.hypot(re, im);
}

/**
 * Steps of feedback for which the tuning of a ladder is tabled, and the feedback up to which it comes in: 25
 * % of the resonance.
 */
const TUNED_STEPS = 80;
const TUNED_FROM = 0.25 * LADDER_TO;
const tunings = new Map<string, Float64Array>();

/**
 * Where the magnitude of a ladder peaks, its stages set to 1: the highest peak within two octaves of its
 * ringing pole, which lies at (k/4)^¼ (from the roots of (1 + s)⁴ + k); null where there is none.
 */
function ladderPeak(mix: readonly number[], k: number): number | null {
  const power = (w: number) => {
    // Powers of a stage, 1/(1 + jw), as an angle and a length.
    const length = 1 / Math.hypot(1, w);
    const angle = -Math.atan(w);
    let re = 0;
    let im = 0;
    for (let i = 0; i < 5; i++) {
      re += mix[i] * length ** i * Math.cos(i * angle);
      im += mix[i] * length ** i * Math.sin(i * angle);
    }
    return (
      (re * re + im * im) /
      ((1 + k * length ** 4 * Math.cos(4 * angle)) ** 2 + (k * length ** 4 * Math.sin(4 * angle)) ** 2)
    );
  };
  const pole = (k / 4) ** 0.25;
  const frequency = (cents: number) => pole * 2 ** (cents / 1200);
  // By forty cents, then by two about the highest that stands over its neighbours: a table of tunings is made
  // while a sound plays.
  const coarse = highest(-2400, 2400, 40, (cents) => power(frequency(cents)));
  if (coarse === null) return null;
  return frequency(highest(coarse - 40, coarse + 40, 2, (cents) => power(frequency(cents))) ?? coarse);
}

/** The place of the highest value that stands over both of its neighbours; null where none does. */
function highest(from: number, to: number, step: number, value: (at: number) => number): number | null {
  let best: number | null = null;
  let most = 0;
  let [before, here] = [value(from), value(from + step)];
  for (let at = from + step; at < to; at += step) {
    const after = value(at + step);
    if (here > before && here > after && here > most) {
      most = here;
      best = at;
    }
    [before, here] = [here, after];
  }
  return best;
}

/** Tunings of a kind of ladder for feedbacks from 25 % of the resonance up to 4; made once. */
export function ladderTunings(mode: keyof typeof LADDER_MIX, slope: '6' | '12' | '18' | '24'): Float64Array {
  const key = `${mode} ${slope}`;
  let table = tunings.get(key);
  if (!table) {
    table = new Float64Array(TUNED_STEPS + 1).fill(1);
    // Downward from 4; a ladder that loses its peak on the way (a high-pass has none at little resonance)
    // keeps the tuning that it had there.
    for (let i = TUNED_STEPS - 1; i >= 0; i--) {
      const peak = ladderPeak(LADDER_MIX[mode][slope], TUNED_FROM + ((4 - TUNED_FROM) * i) / TUNED_STEPS);
      table[i] = peak === null ? table[i + 1] : 1 / peak;
    }
    tunings.set(key, table);
  }
  return table;
}

/**
 * How much higher the stages of a ladder are set, by its tunings, so that its peak stands at the cutoff, from
 * 25 % of the resonance up; under that it comes in evenly, for without resonance there is no peak, and each
 * stage is 3 dB
 * down at the cutoff. Found on the magnitude itself.
 */
export function ladderTuning(table: Float64Array, k: number): number {
  if (k <= 0 || k >= 4) return 1;
  if (k < TUNED_FROM) return table[0] ** (k / TUNED_FROM);
  const place = ((k - TUNED_FROM) * TUNED_STEPS) / (4 - TUNED_FROM);
  const i = place >= TUNED_STEPS - 1 ? TUNED_STEPS - 1 : place | 0;
  return table[i] + (place - i) * (table[i + 1] - table[i]);
}

/**
 * Width in octaves between the −3 dB points of a band with damping k, and back (Bristow-Johnson's cookbook).
 */
export function octavesOf(k: number): number {
  return (2 / Math.LN2) * Math.asinh(Math.max(0, k) / 2);
}
export function dampingOf(octaves: number): number {
  return 2 * Math.sinh((Math.LN2 / 2) * octaves);
}

/** A widened peak (or dip) by itself: amplitude A (its gain is A²) and damping of the bell that makes it. */
export function bellOf(resonance: number, widthOct: number): { amplitude: number; k: number } {
  const k = Math.max(0.02, damping(resonance));
  const gainDb = Math.min(MOST_PEAK_DB, 20 * Math.log10(FLAT / k));
  return { amplitude: 10 ** (gainDb / 40), k: dampingOf(octavesOf(Math.min(k, FLAT)) + widthOct) };
}

/**
 * Feedback of a comb: 0 at no resonance, 1 at full, less as its peaks are widened. Below 0 it is the depth of
 * its dips.
 */
export function combGain(resonance: number, widthOct: number): number {
  const r = resonance < 0 ? -resonance : resonance;
  return (1 - (1 - r) ** 2) * 2 ** (-0.5 * widthOct);
}

/** Q of the vowel filter's formants. */
export function vowelQ(resonance: number): number {
  return 8 * 4 ** resonance;
}
/** Cutoff at which the vowel filter's formants stand where they were measured, in hertz. */
export const VOWEL_AT_HZ = 800;
/** Levels of its three formants. */
export const VOWEL_LEVELS = [1, 0.63, 0.35] as const;

/**
 * Outputs of a ladder of four one-poles as weights of its input and its four stages: pole mixing, as in
 * Välimäki and Huovilainen, Oscillator and filter
 * algorithms for virtual analog synthesis (2006).
 */
export const LADDER_MIX = {
  low: { 6: [0, 1, 0, 0, 0], 12: [0, 0, 1, 0, 0], 18: [0, 0, 0, 1, 0], 24: [0, 0, 0, 0, 1] },
  high: { 6: [1, -1, 0, 0, 0], 12: [1, -2, 1, 0, 0], 18: [1, -3, 3, -1, 0], 24: [1, -4, 6, -4, 1] },
  band: { 6: [0, 2, -2, 0, 0], 12: [0, 2, -2, 0, 0], 18: [0, 0, 4, -4, 0], 24: [0, 0, 4, -8, 4] },
  notch: { 6: [1, -2, 2, 0, 0], 12: [1, -2, 2, 0, 0], 18: [1, -2, 2, 0, 0], 24: [1, -4, 8, -8, 4] },
} as const;
