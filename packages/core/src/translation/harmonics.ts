import { decimate } from '../dsp/index.js';
import { fundamental, rms } from '../measure/index.js';

/** Amplitudes of a note's harmonics, the fundamental first; of the sides each by itself, and of (L+R)/2. */
export interface Harmonics {
  readonly f0Hz: number;
  readonly left: Float64Array;
  readonly right: Float64Array;
  readonly middle: Float64Array;
}

/** Harmonics, or why there are none. */
export type FoundHarmonics =
  | { readonly harmonics: Harmonics; readonly reason: null }
  | { readonly harmonics: null; readonly reason: string };

/** Harmonics that are looked for. */
export const HARMONIC_COUNT = 24;
/** The stretch of a note that is looked at, in seconds. */
const STRETCH_S = 0.2;
/** A found pitch counts within so many cents of the written one. */
const NEAR_CENTS = 50;
/** Harmonics are looked for below this share of the sample rate; `decimate` is flat up to 0.31. */
const HIGHEST = 0.45;
const KEPT = 0.3;
/** Fewer cycles leave the harmonics apart by nothing. */
const LEAST_CYCLES = 2;
/** Among these the strongest tells how the pitch moves. */
const LEADERS = 6;
/** Rounds in which the way of the pitch is found. */
const ROUNDS = 2;
/** A leader so much weaker than at its strongest tells nothing of its phase. */
const WEAK = 0.25;
/** Most turn of the leader in half a period, in radians: beyond it lies the next harmonic. */
const MOST_TURN = Math.PI / 2;
/** Frames of a period in which its pitch is looked for: enough for a part of a cent. */
const PITCH_FRAMES = 27;
/** An RMS under this is silence, −100 dBFS. */
const SILENT = 1e-5;

/**
 * A Hann window's sum over a turn of so many of its own bins is nothing, −115 dB: harmonics that far apart do not
 * disturb each other.
 */
const FAR_BINS = 40;

/** Windows by their length: the notes of a line share a few. */
const windows = new Map<number, Float64Array>();

function hann(length: number): Float64Array {
  let window = windows.get(length);
  if (!window) {
    if (windows.size > 64) windows.clear();
    window = new Float64Array(length);
    for (let i = 0; i < length; i++) window[i] = 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / length);
    windows.set(length, window);
  }
  return window;
}

/** The loudest stretch of a note in both sides, as frames [from, to): all of one that is shorter. */
export function loudestStretch(
  left: ArrayLike<number>,
  right: ArrayLike<number>,
  from: number,
  to: number,
  sampleRateHz: number,
): readonly [number, number] {
  const length = Math.round(STRETCH_S * sampleRateHz);
  if (to - from <= length) return [from, to];
  const power = (i: number) => left[i] * left[i] + right[i] * right[i];
  let now = 0;
  for (let i = from; i < from + length; i++) now += power(i);
  let most = now;
  let best = from;
  for (let start = from + 1; start + length <= to; start++) {
    now += power(start + length - 1) - power(start - 1);
    if (now > most) {
      most = now;
      best = start;
    }
  }
  return [best, best + length];
}

/**
 * Moves a phase to where the leading harmonic has it: its turn is found in Hann windows of two periods, in which all
 * other harmonics are zero, every half period. Says whether the pitch could be followed.
 */
function follow(signal: Float64Array, phase: Float64Array, leader: number, periodFrames: number): boolean {
  const reach = Math.round(periodFrames);
  const count = Math.floor((2 * signal.length) / periodFrames) - 3;
  if (count < 2) return true;
  const re = new Float64Array(signal.length);
  const im = new Float64Array(signal.length);
  for (let i = 0; i < signal.length; i++) {
    re[i] = signal[i] * Math.cos(leader * phase[i]);
    im[i] = -signal[i] * Math.sin(leader * phase[i]);
  }
  const window = hann(2 * reach);
  const centres = Array.from({ length: count }, (_, j) => Math.round(periodFrames * (1 + j / 2)));
  const weighed = (part: Float64Array, centre: number) => {
    const last = Math.min(centre + reach, part.length);
    let sum = 0;
    for (let i = Math.max(0, centre - reach); i < last; i++) sum += window[i - centre + reach] * part[i];
    return sum;
  };
  const sums = centres.map((centre) => [weighed(re, centre), weighed(im, centre)] as const);
  const sizes = sums.map(([x, y]) => Math.hypot(x, y));
  const strong = WEAK * Math.max(...sizes);
  const turns = new Float64Array(count);
  for (let j = 1; j < count; j++) {
    const [a, b] = [sums[j - 1], sums[j]];
    const step = Math.atan2(b[1] * a[0] - b[0] * a[1], a[0] * b[0] + a[1] * b[1]);
    const told = sizes[j] > strong && sizes[j - 1] > strong;
    if (told && Math.abs(step) > MOST_TURN) return false;
    turns[j] = turns[j - 1] + (told ? step : 0);
  }
  for (let i = 0, j = 0; i < phase.length; i++) {
    while (j < count - 2 && centres[j + 1] < i) j++;
    // Before the first centre and after the last the line goes on.
    const share = (i - centres[j]) / (centres[j + 1] - centres[j]);
    phase[i] += (turns[j] + share * (turns[j + 1] - turns[j])) / leader;
  }
  return true;
}

/** Solves A·x = b for a symmetric positive matrix, each of several right sides, in place: Cholesky. */
function solve(A: Float64Array[], sides: readonly Float64Array[]): void {
  const n = A.length;
  for (let j = 0; j < n; j++) {
    for (let k = 0; k < j; k++) A[j][j] -= A[j][k] * A[j][k];
    A[j][j] = Math.sqrt(A[j][j]);
    for (let i = j + 1; i < n; i++) {
      for (let k = 0; k < j; k++) A[i][j] -= A[i][k] * A[j][k];
      A[i][j] /= A[j][j];
    }
  }
  for (const b of sides) {
    for (let i = 0; i < n; i++) {
      for (let k = 0; k < i; k++) b[i] -= A[i][k] * b[k];
      b[i] /= A[i][i];
    }
    for (let i = n - 1; i >= 0; i--) {
      for (let k = i + 1; k < n; k++) b[i] -= A[k][i] * b[k];
      b[i] /= A[i][i];
    }
  }
}

/**
 * Cosine and sine shares of the first `count` harmonics of a phase in each signal, by least squares under a Hann window,
 * a constant beside them: first the constant, then cosine and sine of each.
 */
function fit(signals: readonly Float64Array[], phase: Float64Array, count: number): Float64Array[] {
  const n = phase.length;
  const re = hann(n).slice();
  const im = new Float64Array(n);
  const stepRe = phase.map(Math.cos);
  const stepIm = phase.map(Math.sin);
  // The window's own sums over e^(ikφ) are all that the basis' products are made of.
  const windowRe = new Float64Array(2 * count + 1);
  const windowIm = new Float64Array(2 * count + 1);
  const far = Math.ceil((FAR_BINS * 2 * Math.PI) / (phase[n - 1] - phase[0]));
  const sides = signals.map(() => new Float64Array(2 * count + 1));
  for (let k = 0; k <= Math.min(2 * count, Math.max(count, far)); k++) {
    if (k > 0)
      for (let i = 0; i < n; i++) {
        const x = re[i];
        re[i] = x * stepRe[i] - im[i] * stepIm[i];
        im[i] = x * stepIm[i] + im[i] * stepRe[i];
      }
    if (k <= far)
      for (let i = 0; i < n; i++) {
        windowRe[k] += re[i];
        windowIm[k] += im[i];
      }
    if (k > count) continue;
    for (let s = 0; s < signals.length; s++) {
      const signal = signals[s];
      let cosine = 0;
      let sine = 0;
      for (let i = 0; i < n; i++) {
        cosine += signal[i] * re[i];
        sine += signal[i] * im[i];
      }
      if (k > 0) sides[s][2 * k] = sine;
      sides[s][Math.max(0, 2 * k - 1)] = cosine;
    }
  }
  const at = (k: number) => [windowRe[Math.abs(k)], Math.sign(k) * windowIm[Math.abs(k)]] as const;
  const A = Array.from({ length: 2 * count + 1 }, () => new Float64Array(2 * count + 1));
  A[0][0] = windowRe[0];
  for (let a = 1; a <= count; a++) {
    A[2 * a - 1][0] = A[0][2 * a - 1] = windowRe[a];
    A[2 * a][0] = A[0][2 * a] = windowIm[a];
    for (let b = 1; b <= count; b++) {
      const [sumRe, sumIm] = at(a + b);
      const [apartRe, apartIm] = at(a - b);
      A[2 * a - 1][2 * b - 1] = 0.5 * (apartRe + sumRe);
      A[2 * a][2 * b] = 0.5 * (apartRe - sumRe);
      A[2 * a][2 * b - 1] = 0.5 * (sumIm + apartIm);
      A[2 * a - 1][2 * b] = 0.5 * (sumIm - apartIm);
    }
  }
  for (let i = 0; i < A.length; i++) A[i][i] += 1e-9 * windowRe[0];
  solve(A, sides);
  return sides;
}

const amplitudes = (shares: Float64Array, length = (shares.length - 1) / 2) =>
  Float64Array.from({ length }, (_, k) => Math.hypot(shares[2 * k + 1], shares[2 * k + 2]) || 0);

/** The written pitch, or the found one where that is within 50 cents of it. */
function pitchOf(middle: Float64Array, sampleRateHz: number, writtenHz: number): number {
  const near = 2 ** (NEAR_CENTS / 1200);
  const range = { minHz: writtenHz / near, maxHz: writtenHz * near, deepest: true };
  const factor = Math.max(1, 2 ** Math.floor(Math.log2(sampleRateHz / (PITCH_FRAMES * writtenHz))));
  const found = fundamental(decimate(middle, factor), sampleRateHz / factor, range).value;
  return found !== null && Math.abs(1200 * Math.log2(found / writtenHz)) <= NEAR_CENTS ? found : writtenHz;
}

/**
 * Amplitudes of the first 24 harmonics of a note in a stretch of both sides, by least squares under a Hann window over
 * the whole of it; a pitch that moves is followed by its strongest low harmonic, so that a glide or a vibrato takes
 * nothing from the high ones.
 *
 * @param writtenHz the fundamental that is asked for; the one that is found is taken where it is within 50 cents of it.
 */
export function harmonicsOf(
  left: Float32Array,
  right: Float32Array,
  sampleRateHz: number,
  writtenHz: number,
): FoundHarmonics {
  const none = (reason: string): FoundHarmonics => ({ harmonics: null, reason });
  if ((left.length * writtenHz) / sampleRateHz < LEAST_CYCLES) return none('shorter than two cycles');
  const room = (KEPT * sampleRateHz) / (HARMONIC_COUNT * writtenHz);
  const factor = room >= 4 ? 4 : room >= 2 ? 2 : 1;
  const rate = sampleRateHz / factor;
  const sides = right === left ? [decimate(left, factor)] : [decimate(left, factor), decimate(right, factor)];
  const [a, b = a] = sides;
  if (rms(sides) < SILENT) return none('there is only silence');
  const middle = new Float64Array(a.length);
  for (let i = 0; i < a.length; i++) middle[i] = 0.5 * (a[i] + b[i]);
  const f0Hz = pitchOf(middle, rate, writtenHz);
  const count = Math.min(HARMONIC_COUNT, Math.floor((HIGHEST * rate) / f0Hz));
  const phase = Float64Array.from(a, (_, i) => (2 * Math.PI * f0Hz * i) / rate);
  // The side that sounds most, or the middle, leads.
  const lead = [middle, ...sides].reduce((most, each) => (rms([each]) > rms([most]) ? each : most));
  const first = amplitudes(fit([lead], phase, Math.min(LEADERS, count))[0]);
  const leader = 1 + first.indexOf(Math.max(...first));
  for (let round = 0; round < ROUNDS; round++)
    if (!follow(lead, phase, leader, rate / f0Hz)) return none('its pitch moves too fast');
  const shares = fit(sides, phase, count);
  const [l, r = l] = shares.map((found) => amplitudes(found, HARMONIC_COUNT));
  const [own, other = own] = shares;
  const m = amplitudes(
    own.map((x, i) => 0.5 * (x + other[i])),
    HARMONIC_COUNT,
  );
  return { harmonics: { f0Hz, left: l, right: r, middle: m }, reason: null };
}

/** Harmonics of a note that stands in the frames [from, to) of both sides, at its loudest; see `harmonicsOf`. */
export function harmonicsOfNote(
  left: Float32Array,
  right: Float32Array,
  from: number,
  to: number,
  sampleRateHz: number,
  writtenHz: number,
): FoundHarmonics {
  const [start, end] = loudestStretch(left, right, from, to, sampleRateHz);
  const part = left.subarray(start, end);
  return harmonicsOf(part, right === left ? part : right.subarray(start, end), sampleRateHz, writtenHz);
}
