/** The kinds of section. */
export const SECTION_KINDS = ['bell', 'low shelf', 'high shelf', 'low cut', 'high cut'] as const;
export type EqualiserKind = (typeof SECTION_KINDS)[number];

/** Most second-order stages in a cut: 48 dB per octave. */
const STAGES = 4;

/** Damping of each pair of poles of a Butterworth of an order: they stand evenly on a half circle. */
const butterworthDampings = (order: number) =>
  Array.from(
    { length: Math.floor(order / 2) },
    (_, s) => 2 * Math.sin(((2 * s + 1) * Math.PI) / (2 * order)),
  );

const DAMPINGS = new Map([6, 12, 18, 24, 30, 36, 42, 48].map((db) => [db, butterworthDampings(db / 6)]));

/** What a section is set to: frequency in hertz, gain in dB (of bells and shelves), Q, slope of cuts in dB. */
export interface SectionSetting {
  readonly kind: EqualiserKind;
  readonly hz: number;
  readonly gainDb: number;
  readonly q: number;
  readonly slopeDb: number;
}

/** Magnitude of a section in dB at a frequency, as it runs at a sample rate. */
export function sectionDb(set: SectionSetting, hz: number, sampleRateHz: number): number {
  // On the bilinear transform's own frequency axis.
  const w =
    Math.tan((Math.PI * Math.min(hz, 0.4999 * sampleRateHz)) / sampleRateHz) /
    Math.tan((Math.PI * Math.min(set.hz, 0.49 * sampleRateHz)) / sampleRateHz);
  const ratio = (a2: number, a1: number, a0: number, b2: number, b1: number, b0: number) =>
    10 * Math.log10(((a0 - a2 * w * w) ** 2 + (a1 * w) ** 2) / ((b0 - b2 * w * w) ** 2 + (b1 * w) ** 2));
  const A = 10 ** (set.gainDb / 40);
  switch (set.kind) {
    case 'bell':
      return ratio(1, A / set.q, 1, 1, 1 / (A * set.q), 1);
    case 'low shelf':
      return 40 * Math.log10(A) * 0.5 + ratio(1, Math.sqrt(A) / set.q, A, A, Math.sqrt(A) / set.q, 1);
    case 'high shelf':
      return 40 * Math.log10(A) * 0.5 + ratio(A, Math.sqrt(A) / set.q, 1, 1, Math.sqrt(A) / set.q, A);
    default: {
      const order = set.slopeDb / 6;
      const falls = set.kind === 'high cut' ? w : 1 / w;
      return -10 * Math.log10(1 + falls ** (2 * order));
    }
  }
}

/**
 * A section of an equaliser: bell and shelves of Bristow-Johnson's cookbook (W3C note on audio EQ), cuts of
 * Butterworth, 6 to 48 dB per octave; all as trapezoidal state-variable sections (Simper, Solving the continuous
 * SVF equations using trapezoidal integration, 2013), which may be moved.
 */
export class EqualiserSection {
  private readonly state = new Float64Array(2 * STAGES + 1);
  /** What was set last, and the stages made of it: warped frequency, damping, and shares of input, band and low. */
  private readonly seen = new Float64Array(4).fill(NaN);
  private readonly form = new Float64Array(5 * STAGES);
  private stages = 0;
  /** Warped frequency of a first-order stage; 0 where there is none. */
  private single = 0;

  constructor(
    private readonly kind: EqualiserKind,
    private readonly sampleRateHz: number,
  ) {}

  copyFrom(other: EqualiserSection): void {
    this.state.set(other.state);
  }

  /** Sets frequency, gain in dB, Q and slope in dB, which stand in `numbers` one after another. */
  set(numbers: Float64Array): void {
    const { seen } = this;
    if (seen[0] === numbers[0] && seen[1] === numbers[1] && seen[2] === numbers[2] && seen[3] === numbers[3])
      return;
    for (let i = 0; i < 4; i++) seen[i] = numbers[i];
    const hz = numbers[0] < 0.49 * this.sampleRateHz ? numbers[0] : 0.49 * this.sampleRateHz;
    const g = Math.tan((Math.PI * hz) / this.sampleRateHz);
    const A = Math.exp((Math.LN10 / 40) * numbers[1]);
    const k = 1 / numbers[2];
    this.single = 0;
    this.stages = 1;
    switch (this.kind) {
      case 'bell':
        this.stage(0, g, k / A, 1, (k / A) * (A * A - 1), 0);
        return;
      case 'low shelf':
        this.stage(0, g / Math.sqrt(A), k, 1, k * (A - 1), A * A - 1);
        return;
      case 'high shelf':
        this.stage(0, g * Math.sqrt(A), k, A * A, k * (1 - A) * A, 1 - A * A);
        return;
      default:
        this.cut(g, numbers[3], this.kind === 'low cut');
    }
  }

  private stage(s: number, g: number, k: number, input: number, band: number, low: number): void {
    const { form } = this;
    form[5 * s] = g;
    form[5 * s + 1] = k;
    form[5 * s + 2] = input;
    form[5 * s + 3] = band;
    form[5 * s + 4] = low;
  }

  private cut(g: number, slopeDb: number, low: boolean): void {
    const dampings = DAMPINGS.get(slopeDb)!;
    this.stages = dampings.length;
    for (let s = 0; s < dampings.length; s++) {
      const k = dampings[s];
      if (low) this.stage(s, g, k, 1, -k, -1);
      else this.stage(s, g, k, 0, 0, 1);
    }
    this.single = (slopeDb / 6) % 2 === 1 ? g : 0;
  }

  /** Filters the samples from `from` up to `to` in place. */
  process(samples: Float64Array, from: number, to: number): void {
    const { state, form, stages } = this;
    for (let s = 0; s < stages; s++) {
      const g = form[5 * s];
      const k = form[5 * s + 1];
      const m0 = form[5 * s + 2];
      const m1 = 0.5 * form[5 * s + 3];
      const m2 = 0.5 * form[5 * s + 4];
      // As `StateVariable` steps its integrators.
      const d = 1 / (1 + g * (g + k));
      const c = 2 * d * g;
      const staysA = d + d - 1;
      const staysB = 1 - c * g;
      let a = state[2 * s];
      let b = state[2 * s + 1];
      for (let i = from; i < to; i++) {
        const x = samples[i];
        const nextA = staysA * a + c * (x - b);
        const nextB = staysB * b + c * (a + g * x);
        samples[i] = m0 * x + m1 * (a + nextA) + m2 * (b + nextB);
        a = nextA;
        b = nextB;
      }
      state[2 * s] = a < 1e-18 && a > -1e-18 ? 0 : a;
      state[2 * s + 1] = b < 1e-18 && b > -1e-18 ? 0 : b;
    }
    if (this.single === 0) return;
    const share = this.single / (1 + this.single);
    const high = this.kind === 'low cut';
    let c = state[2 * STAGES];
    for (let i = from; i < to; i++) {
      const v = share * (samples[i] - c);
      const low = v + c;
      c = low + v;
      samples[i] = high ? samples[i] - low : low;
    }
    state[2 * STAGES] = c < 1e-18 && c > -1e-18 ? 0 : c;
  }
}
