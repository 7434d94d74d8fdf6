/** Partials above this share of the sample rate are silent; they fade out below it. */
const HIGHEST = 0.45;
const FADE_FROM = 0.42;
/** Frames of a whole step: what a partial turns and falls by in one is kept. */
const STEP = 16;
/** A pitch that strays by less than this is taken as it is: 0.05 cents. */
const TUNED_TO = 3e-5;
/** Steps after which those that ring on are looked through for silent ones. */
const LOOKS_EVERY = 4;
/**
 * Steps for which the recurrence runs on before it is set anew from the vectors, and after which (2.7 ms at
 * 48 kHz) a moving pitch is followed where many partials sound; how many are many.
 */
const SETS_EVERY = 8;
const FOLLOWS_EVERY = 8;
const MANY = 128;
/**
 * A small change of the stretch is followed by a series, so many times before it is found anew by the power
 * itself.
 */
const SMALL = 0.05;
const SERIES_TIMES = 64;
/** Under this gain a partial that goes on falling is silent. */
const SILENT = 1e-7;

/** Where a bank of partials finds its numbers; places in a `Float64Array`. */
export const PARTIAL_HZ = 0;
/** Exponent by which the tuning is spread: partial n stands at f·n^(1 + stretch). */
export const PARTIAL_STRETCH = 1;
export const PARTIAL_NUMBERS = 2;

/**
 * Partials that stand by themselves: for tunings that no single cycle holds, and for partials that ring on by
 * themselves after the note. Each is a rotating vector; the
 * samples are made by the second-order recurrence sin((i+1)φ) = 2·cos φ·sin iφ − sin((i−1)φ) (Smith, Physical
 * audio signal processing, 2010, on digital sinusoid generators), four partials at a
 * time so that none waits for its own last product, and set anew from the vectors every few steps. Silent
 * ones cost nothing.
 */
export class PartialBank {
  private readonly count: number;
  /** The vectors at the start of the step; what they turn by in a sample and in a step. */
  private readonly re: Float64Array;
  private readonly im: Float64Array;
  private readonly turnRe: Float64Array;
  private readonly turnIm: Float64Array;
  private readonly stepRe: Float64Array;
  private readonly stepIm: Float64Array;
  /**
   * Frequency of each over the first's, and its logarithm at no stretch; how much of it is let through so
   * near half the rate.
   */
  private readonly ratio: Float64Array;
  private readonly log: Float64Array;
  private readonly open: Float64Array;
  /** Gains at the end of the last step; amplitudes where they are to go. */
  private readonly gain: Float64Array;
  private readonly target: Float64Array;
  private readonly ring: Float64Array;
  /** What is left of a partial that rings on after a frame, and after a step. */
  private readonly decay: Float64Array;
  private readonly decayStep: Float64Array;
  private readonly phase: Float64Array;
  /** Gains to which the partials go in this step. */
  private readonly end: Float64Array;
  /**
   * Those that sound: the ones that only turn and fall, and the ones whose gain is on its way; each kind
   * filled up to fours with one that is silent.
   */
  private readonly even: Int32Array;
  private readonly ramps: Int32Array;
  /**
   * How many there are of each, the steps since they were chosen (below 0 where they have to be), the steps
   * by which the vectors of the first kind lie behind, and the steps since the pitch was followed.
   */
  private readonly counts = Int32Array.of(0, 0, -1, 0, 0);
  /**
   * Where the recurrence of each of them stands: its value, and the one before it times what is left after
   * two samples.
   */
  private readonly value: Float64Array;
  private readonly before: Float64Array;
  /**
   * Frequency and stretch for which the turns were computed, the stretch for which the ratios were, the
   * greatest level that still rings, and how often the ratios were moved by the series.
   */
  private readonly last = Float64Array.of(NaN, NaN, NaN, 1, 0);
  private falls = false;

  constructor(
    count: number,
    private readonly sampleRateHz: number,
  ) {
    this.count = count;
    // One place more than there are partials: it is always silent.
    const made = () => new Float64Array(count + 1);
    this.re = made();
    this.im = made();
    this.turnRe = made().fill(1);
    this.turnIm = made();
    this.stepRe = made().fill(1);
    this.stepIm = made();
    this.ratio = Float64Array.from({ length: count + 1 }, (_, n) => n + 1);
    this.log = Float64Array.from({ length: count + 1 }, (_, n) => Math.log(n + 1));
    this.open = made();
    this.gain = made();
    this.target = made();
    this.ring = made().fill(1);
    this.decay = made().fill(1);
    this.decayStep = made().fill(1);
    this.phase = made();
    this.end = made();
    this.value = made();
    this.before = made();
    this.even = new Int32Array(count + 4);
    this.ramps = new Int32Array(count + 4);
  }

  copyFrom(other: PartialBank): void {
    if (other.count !== this.count) return;
    other.catchUp();
    this.re.set(other.re);
    this.im.set(other.im);
    this.gain.set(other.gain);
    this.ring.set(other.ring);
    this.decay.set(other.decay);
    this.decayStep.set(other.decayStep);
    this.falls = other.falls;
    this.last[3] = other.last[3];
    this.counts.set([0, 0, -1, 0, 0]);
  }

  /** Takes amplitudes and phases (radians) of the partials. */
  setPartials(amplitude: Float64Array, phase: Float64Array): void {
    this.catchUp();
    for (let n = 0; n < this.count; n++) {
      this.target[n] = amplitude[n];
      this.phase[n] = phase[n];
    }
    // One that was silent has no turn yet.
    this.last[0] = NaN;
    this.counts[2] = -1;
  }

  /** Begins a note `cycles` into the cycle. */
  start(cycles: number): void {
    this.counts[3] = 0;
    this.turnTo(cycles);
    this.gain.set(this.target);
    this.ring.fill(1);
    this.decay.fill(1);
    this.decayStep.fill(1);
    this.falls = false;
    this.last[3] = 1;
    this.counts[2] = -1;
  }

  /** Turns every partial to where it stands `cycles` into the cycle; gains go on. */
  turnTo(cycles: number): void {
    this.catchUp();
    for (let n = 0; n < this.count; n++) {
      const angle = 2 * Math.PI * (cycles * (n + 1)) + this.phase[n];
      this.re[n] = Math.cos(angle);
      this.im[n] = Math.sin(angle);
    }
  }

  /** Lets partial n fall by 60 dB within `seconds`·n^(−tilt); with 0 seconds at once. */
  ringOut(seconds: number, tilt: number): void {
    this.catchUp();
    this.falls = true;
    this.counts[2] = -1;
    for (let n = 0; n < this.count; n++) {
      this.decay[n] =
        seconds > 0 ? Math.exp((-6.907755 * (n + 1) ** tilt) / (seconds * this.sampleRateHz)) : 0;
      this.decayStep[n] = this.decay[n] ** STEP;
    }
  }

  /** Greatest level that any partial still rings at, re where it was when it began to. */
  get ringing(): number {
    return this.last[3];
  }

  /** Finds what each partial that may sound turns by. */
  private tune(hz: number, stretch: number): void {
    const { last, turnRe, turnIm, stepRe, stepIm, ratio, log, open, target, gain } = this;
    if (last[1] === stretch && hz > last[0] * (1 - TUNED_TO) && hz < last[0] * (1 + TUNED_TO)) return;
    this.catchUp();
    last[0] = hz;
    last[1] = stretch;
    if (last[2] !== stretch) {
      const more = stretch - last[2];
      const small =
        more * log[this.count - 1] < SMALL &&
        more * log[this.count - 1] > -SMALL &&
        stretch !== 0 &&
        last[4] < SERIES_TIMES;
      last[2] = stretch;
      last[4] = small ? last[4] + 1 : 0;
      for (let n = 0; n < this.count; n++) {
        const x = more * log[n];
        ratio[n] = small
          ? ratio[n] * (1 + x * (1 + x * (1 / 2 + x * (1 / 6 + x * (1 / 24)))))
          : stretch === 0
            ? n + 1
            : Math.exp((1 + stretch) * log[n]);
      }
    }
    const unit = 1 / this.sampleRateHz;
    for (let n = 0; n < this.count; n++) {
      if (target[n] === 0 && gain[n] === 0) continue;
      const share = unit * hz * ratio[n];
      const opens = share >= HIGHEST ? 0 : share <= FADE_FROM ? 1 : (HIGHEST - share) / (HIGHEST - FADE_FROM);
      if (opens !== open[n]) {
        open[n] = opens;
        this.counts[2] = -1;
      }
      if (share >= HIGHEST) continue;
      // Sine and cosine by their series at half the angle, which is at most 0.45 π: true to 1e-10, and
      // several times as fast as the functions.
      const h = Math.PI * share;
      const hh = h * h;
      const sine =
        h *
        (1 -
          hh *
            (1 / 6) *
            (1 -
              hh *
                (1 / 20) *
                (1 -
                  hh *
                    (1 / 42) *
                    (1 -
                      hh * (1 / 72) * (1 - hh * (1 / 110) * (1 - hh * (1 / 156) * (1 - hh * (1 / 210))))))));
      const cosine =
        1 -
        hh *
          (1 / 2) *
          (1 -
            hh *
              (1 / 12) *
              (1 -
                hh *
                  (1 / 30) *
                  (1 - hh * (1 / 56) * (1 - hh * (1 / 90) * (1 - hh * (1 / 132) * (1 - hh * (1 / 182)))))));
      let c = 1 - 2 * sine * sine;
      let s = 2 * sine * cosine;
      turnRe[n] = c;
      turnIm[n] = s;
      // Four squarings are sixteen turns.
      for (let k = 0; k < 4; k++) {
        const twice = c * c - s * s;
        s = 2 * c * s;
        c = twice;
      }
      stepRe[n] = c;
      stepIm[n] = s;
    }
  }

  /** Lists those that sound from this step on, and finds the gains they go to. */
  private choose(frames: number): void {
    const { gain, target, ring, decay, decayStep, open, end, even, ramps, counts } = this;
    let evens = 0;
    let ramping = 0;
    let most = 0;
    for (let n = 0; n < this.count; n++) {
      const g = gain[n];
      if (target[n] === 0 && g === 0) continue;
      if (target[n] > 0 && ring[n] > most) most = ring[n];
      const falls = !this.falls ? 1 : frames === STEP ? decayStep[n] : decay[n] ** frames;
      const wanted = target[n] * ring[n] * falls * open[n];
      const to = wanted < SILENT ? 0 : wanted;
      if (g === 0 && to === 0) continue;
      if (to > 0 && to < g * falls * (1 + 1e-9) && to > g * falls * (1 - 1e-9)) even[evens++] = n;
      else {
        end[n] = to;
        ramps[ramping++] = n;
      }
    }
    for (let k = 0; k < 3; k++) even[evens + k] = ramps[ramping + k] = this.count;
    counts[0] = evens;
    counts[1] = ramping;
    counts[2] = 0;
    this.last[3] = this.falls ? most : 1;
  }

  /** Turns the vectors of those that go on to where the recurrence stands. */
  private catchUp(): void {
    const { even, counts, re, im, stepRe, stepIm, decayStep, ring, gain, falls } = this;
    const steps = counts[3];
    if (steps === 0) return;
    counts[3] = 0;
    for (let k = 0; k < counts[0]; k++) {
      const n = even[k];
      let c = stepRe[n];
      let s = stepIm[n];
      let left = decayStep[n];
      let x = re[n];
      let y = im[n];
      let fallen = 1;
      // By squares: as many turns as there are bits in the number of steps.
      for (let bits = steps; bits > 0; bits >>= 1) {
        if ((bits & 1) === 1) {
          const next = x * c - y * s;
          y = x * s + y * c;
          x = next;
          fallen *= left;
        }
        const twice = c * c - s * s;
        s = 2 * c * s;
        c = twice;
        left *= left;
      }
      const keep = 1.5 - 0.5 * (x * x + y * y);
      re[n] = x * keep;
      im[n] = y * keep;
      if (falls) {
        ring[n] *= fallen;
        gain[n] *= fallen;
      }
    }
  }

  /** Writes the samples from `from` up to `to`. */
  write(out: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const { even, ramps, counts } = this;
    const frames = to - from;
    const looks = counts[2] < 0 || counts[1] > 0 || (this.falls && counts[2] >= LOOKS_EVERY);
    if (looks || frames !== STEP || counts[3] >= SETS_EVERY) this.catchUp();
    // With many partials a moving pitch is followed every few steps.
    if (counts[0] + counts[1] < MANY || ++counts[4] >= FOLLOWS_EVERY || Number.isNaN(this.last[0])) {
      this.tune(numbers[PARTIAL_HZ], numbers[PARTIAL_STRETCH]);
      counts[4] = 0;
    }
    for (let i = from; i < to; i++) out[i] = 0;
    if (looks || counts[2] < 0) this.choose(frames);
    counts[2]++;
    if (counts[3] === 0) for (let k = 0; k < counts[0]; k++) this.set(even[k]);
    if (this.falls)
      for (let k = 0; k < counts[0]; k += 4)
        this.fall(out, from, to, even[k], even[k + 1], even[k + 2], even[k + 3]);
    else
      for (let k = 0; k < counts[0]; k += 4)
        this.goOn(out, from, to, even[k], even[k + 1], even[k + 2], even[k + 3]);
    if (frames === STEP) counts[3]++;
    else for (let k = 0; k < counts[0]; k++) this.turn(even[k], frames, this.falls ? 1 : 0);
    for (let k = 0; k < counts[1]; k += 4)
      this.ramp(out, from, to, ramps[k], ramps[k + 1], ramps[k + 2], ramps[k + 3]);
    for (let k = 0; k < counts[1]; k++) {
      this.gain[ramps[k]] = this.end[ramps[k]];
      this.turn(ramps[k], frames, this.falls ? 2 : 0);
    }
  }

  /** Sets the recurrence of a partial from its vector. */
  private set(n: number): void {
    const { re, im, turnRe, turnIm, gain, decay } = this;
    this.value[n] = gain[n] * im[n];
    this.before[n] = decay[n] * gain[n] * (im[n] * turnRe[n] - re[n] * turnIm[n]);
  }

  /** Four that go on as they are: their gains are in the recurrence itself. */
  private goOn(
    out: Float64Array,
    from: number,
    to: number,
    a: number,
    b: number,
    c: number,
    d: number,
  ): void {
    const { turnRe, value, before } = this;
    let ya = value[a],
      yb = value[b],
      yc = value[c],
      yd = value[d];
    let za = before[a],
      zb = before[b],
      zc = before[c],
      zd = before[d];
    const ka = 2 * turnRe[a],
      kb = 2 * turnRe[b],
      kc = 2 * turnRe[c],
      kd = 2 * turnRe[d];
    for (let i = from; i < to; i++) {
      out[i] += ya + yb + (yc + yd);
      const na = ka * ya - za;
      za = ya;
      ya = na;
      const nb = kb * yb - zb;
      zb = yb;
      yb = nb;
      const nc = kc * yc - zc;
      zc = yc;
      yc = nc;
      const nd = kd * yd - zd;
      zd = yd;
      yd = nd;
    }
    value[a] = ya;
    value[b] = yb;
    value[c] = yc;
    value[d] = yd;
    before[a] = za;
    before[b] = zb;
    before[c] = zc;
    before[d] = zd;
  }

  /** Four that ring on: their fall is in the recurrence as well. */
  private fall(
    out: Float64Array,
    from: number,
    to: number,
    a: number,
    b: number,
    c: number,
    d: number,
  ): void {
    const { turnRe, decay, value, before } = this;
    const ra = decay[a],
      rb = decay[b],
      rc = decay[c],
      rd = decay[d];
    let ya = value[a],
      yb = value[b],
      yc = value[c],
      yd = value[d];
    let za = before[a],
      zb = before[b],
      zc = before[c],
      zd = before[d];
    const ka = 2 * ra * turnRe[a],
      kb = 2 * rb * turnRe[b],
      kc = 2 * rc * turnRe[c],
      kd = 2 * rd * turnRe[d];
    const qa = ra * ra,
      qb = rb * rb,
      qc = rc * rc,
      qd = rd * rd;
    for (let i = from; i < to; i++) {
      out[i] += ya + yb + (yc + yd);
      const na = ka * ya - za;
      za = qa * ya;
      ya = na;
      const nb = kb * yb - zb;
      zb = qb * yb;
      yb = nb;
      const nc = kc * yc - zc;
      zc = qc * yc;
      yc = nc;
      const nd = kd * yd - zd;
      zd = qd * yd;
      yd = nd;
    }
    value[a] = ya;
    value[b] = yb;
    value[c] = yc;
    value[d] = yd;
    before[a] = za;
    before[b] = zb;
    before[c] = zc;
    before[d] = zd;
  }

  /** Four whose gains run evenly to others. */
  private ramp(
    out: Float64Array,
    from: number,
    to: number,
    a: number,
    b: number,
    c: number,
    d: number,
  ): void {
    const { re, im, turnRe, turnIm, gain, end } = this;
    const each = 1 / (to - from);
    const ka = 2 * turnRe[a],
      kb = 2 * turnRe[b],
      kc = 2 * turnRe[c],
      kd = 2 * turnRe[d];
    let ya = im[a],
      yb = im[b],
      yc = im[c],
      yd = im[d];
    // Each as it was a sample before.
    let za = ya * turnRe[a] - re[a] * turnIm[a];
    let zb = yb * turnRe[b] - re[b] * turnIm[b];
    let zc = yc * turnRe[c] - re[c] * turnIm[c];
    let zd = yd * turnRe[d] - re[d] * turnIm[d];
    let ga = gain[a],
      gb = gain[b],
      gc = gain[c],
      gd = gain[d];
    const sa = (end[a] - ga) * each,
      sb = (end[b] - gb) * each,
      sc = (end[c] - gc) * each,
      sd = (end[d] - gd) * each;
    for (let i = from; i < to; i++) {
      ga += sa;
      gb += sb;
      gc += sc;
      gd += sd;
      out[i] += ga * ya + gb * yb + (gc * yc + gd * yd);
      const na = ka * ya - za;
      const nb = kb * yb - zb;
      const nc = kc * yc - zc;
      const nd = kd * yd - zd;
      za = ya;
      zb = yb;
      zc = yc;
      zd = yd;
      ya = na;
      yb = nb;
      yc = nc;
      yd = nd;
    }
  }

  /**
   * Turns a vector on to the end of the step, and brings it back to length 1; with `falls` what rings on is
   * less by a step, with 1 its gain too.
   */
  private turn(n: number, frames: number, falls: number): void {
    const { re, im, stepRe, stepIm, turnRe, turnIm } = this;
    let x = re[n];
    let y = im[n];
    if (frames === STEP) {
      const next = x * stepRe[n] - y * stepIm[n];
      y = x * stepIm[n] + y * stepRe[n];
      x = next;
    } else {
      const c = turnRe[n];
      const s = turnIm[n];
      for (let i = 0; i < frames; i++) {
        const next = x * c - y * s;
        y = x * s + y * c;
        x = next;
      }
    }
    const keep = 1.5 - 0.5 * (x * x + y * y);
    re[n] = x * keep;
    im[n] = y * keep;
    if (falls === 0) return;
    const left = frames === STEP ? this.decayStep[n] : this.decay[n] ** frames;
    this.ring[n] *= left;
    if (falls === 1) this.gain[n] *= left;
  }
}
