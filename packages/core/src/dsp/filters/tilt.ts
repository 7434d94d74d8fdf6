/**
 * A tilt about a frequency: (t·s + 1)/(s + t) with s over the pivot, so that lows stand 1/t and highs t, and
 * the pivot 1. First order, trapezoidal. A tilt by 1/t takes it back exactly.
 */
export class Tilt {
  private readonly state = new Float64Array(1);

  reset(): void {
    this.state[0] = 0;
  }

  copyFrom(other: Tilt): void {
    this.state.set(other.state);
  }

  /**
   * Filters the samples from `from` up to `to` in place; `numbers[0]` is the warped pivot, `numbers[1]` is t.
   */
  process(samples: Float64Array, from: number, to: number, numbers: Float64Array): void {
    const t = numbers[1];
    const g = numbers[0] * t;
    const share = g / (1 + g);
    const low = (1 - t * t) / t;
    let s = this.state[0];
    for (let i = from; i < to; i++) {
      const x = samples[i];
      const v = share * (x - s);
      const y = v + s;
      s = y + v;
      samples[i] = t * x + low * y;
    }
    this.state[0] = s < 1e-18 && s > -1e-18 ? 0 : s;
  }
}

/** Magnitude of a tilt at a frequency, its pivot at `pivotHz`, in dB. */
export function tiltDb(t: number, pivotHz: number, hz: number): number {
  const s = hz / pivotHz;
  return 10 * Math.log10((t * t * s * s + 1) / (s * s + t * t));
}
