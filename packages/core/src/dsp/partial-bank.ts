/** Partials above this share of the sample rate are silent; they fade out below it. */
const HIGHEST = 0.45;
const FADE_FROM = 0.42;

/** Where a bank of partials finds its numbers; places in a `Float64Array`. */
export const PARTIAL_HZ = 0;
/** Exponent by which the tuning is spread: partial n stands at f·n^(1 + stretch). */
export const PARTIAL_STRETCH = 1;
export const PARTIAL_NUMBERS = 2;

/**
 * Partials that stand by themselves, each a rotating vector: for tunings that no single cycle holds, and for partials that ring on by themselves after the
 * note. The vectors turn by one complex product a sample and are brought back to length 1 at each step.
 */
export class PartialBank {
  private readonly count: number;
  private readonly re: Float64Array;
  private readonly im: Float64Array;
  private readonly turnRe: Float64Array;
  private readonly turnIm: Float64Array;
  /** Gains at the end of the last step; sine and cosine amplitudes where they are to go. */
  private readonly gain: Float64Array;
  private readonly target: Float64Array;
  private readonly ring: Float64Array;
  private readonly decay: Float64Array;
  private readonly phase: Float64Array;
  /** Frequency and stretch for which the turns were computed. */
  private readonly last = Float64Array.of(NaN, NaN);

  constructor(count: number, private readonly sampleRateHz: number) {
    this.count = count;
    this.re = new Float64Array(count);
    this.im = new Float64Array(count);
    this.turnRe = new Float64Array(count).fill(1);
    this.turnIm = new Float64Array(count);
    this.gain = new Float64Array(count);
    this.target = new Float64Array(count);
    this.ring = new Float64Array(count).fill(1);
    this.decay = new Float64Array(count).fill(1);
    this.phase = new Float64Array(count);
  }

  copyFrom(other: PartialBank): void {
    if (other.count !== this.count) return;
    this.re.set(other.re);
    this.im.set(other.im);
    this.gain.set(other.gain);
    this.ring.set(other.ring);
    this.decay.set(other.decay);
  }

  /** Takes amplitudes and phases (radians) of the partials. */
  setPartials(amplitude: Float64Array, phase: Float64Array): void {
    this.target.set(amplitude);
    this.phase.set(phase);
  }

  /** Begins a note `cycles` into the cycle. */
  start(cycles: number): void {
    this.turnTo(cycles);
    this.gain.set(this.target);
    this.ring.fill(1);
    this.decay.fill(1);
  }

  /** Turns every partial to where it stands `cycles` into the cycle; gains go on. */
  turnTo(cycles: number): void {
    for (let n = 0; n < this.count; n++) {
      const angle = 2 * Math.PI * (cycles * (n + 1)) + this.phase[n];
      this.re[n] = Math.cos(angle);
      this.im[n] = Math.sin(angle);
    }
  }

  /** Lets partial n fall by 60 dB within `seconds`·n^(−tilt); with 0 seconds at once. */
  ringOut(seconds: number, tilt: number): void {
    for (let n = 0; n < this.count; n++) this.decay[n] = seconds > 0 ? Math.exp((-6.907755 * (n + 1) ** tilt) / (seconds * this.sampleRateHz)) : 0;
  }

  /** Greatest level that any partial still rings at, re where it was when it began to. */
  get ringing(): number {
    let most = 0;
    for (let n = 0; n < this.count; n++) if (this.ring[n] > most && this.target[n] > 0) most = this.ring[n];
    return most;
  }

  private tune(hz: number, stretch: number): void {
    const { last, turnRe, turnIm } = this;
    if (last[0] === hz && last[1] === stretch) return;
    last[0] = hz;
    last[1] = stretch;
    const unit = (2 * Math.PI) / this.sampleRateHz;
    for (let n = 0; n < this.count; n++) {
      const f = stretch === 0 ? hz * (n + 1) : hz * (n + 1) ** (1 + stretch);
      const angle = unit * f;
      turnRe[n] = Math.cos(angle);
      turnIm[n] = Math.sin(angle);
    }
  }

  private audible(n: number, hz: number, stretch: number): number {
    const share = (hz * (n + 1) ** (1 + stretch)) / this.sampleRateHz;
    return share >= HIGHEST ? 0 : share <= FADE_FROM ? 1 : (HIGHEST - share) / (HIGHEST - FADE_FROM);
  }

  /** Writes the samples from `from` up to `to`. */
  write(out: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const hz = numbers[PARTIAL_HZ];
    const stretch = numbers[PARTIAL_STRETCH];
    this.tune(hz, stretch);
    const { re, im, turnRe, turnIm, gain, target, ring, decay } = this;
    const frames = to - from;
    for (let i = from; i < to; i++) out[i] = 0;
    for (let n = 0; n < this.count; n++) {
      if (decay[n] < 1) ring[n] = ring[n] * decay[n] ** frames;
      const end = target[n] * ring[n] * this.audible(n, hz, stretch);
      let g = gain[n];
      if (g === 0 && end === 0) continue;
      const step = (end - g) / frames;
      const c = turnRe[n];
      const s = turnIm[n];
      let x = re[n];
      let y = im[n];
      for (let i = from; i < to; i++) {
        g += step;
        out[i] += g * y;
        const next = x * c - y * s;
        y = x * s + y * c;
        x = next;
      }
      const keep = 1.5 - 0.5 * (x * x + y * y);
      re[n] = x * keep;
      im[n] = y * keep;
      gain[n] = end;
    }
  }
}
