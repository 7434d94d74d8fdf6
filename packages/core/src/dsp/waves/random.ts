/**
 * Seeded random numbers: xorshift32 (Marsaglia, 2003) on a state mixed from the seed and a stream number, so
 * that each
 * user of randomness has a run of its own. The host's random numbers are never used: renders repeat.
 */
export class Random {
  /** Where it stands, and where it began. */
  private readonly state = new Uint32Array(2);

  constructor(seed: number, stream = 0) {
    let x = (seed ^ Math.imul(stream + 1, 0x9e3779b9)) >>> 0;
    x = Math.imul(x ^ (x >>> 16), 0x85ebca6b);
    x = Math.imul(x ^ (x >>> 13), 0xc2b2ae35);
    this.state.fill((x ^ (x >>> 16)) >>> 0 || 0x6d2b79f5);
  }

  /** Gives the same numbers again from the first on. */
  restart(): void {
    this.state[0] = this.state[1];
  }

  /** The next number, even in [0, 1). */
  next(): number {
    let x = this.state[0];
    x ^= x << 13;
    x ^= x >>> 17;
    x ^= x << 5;
    this.state[0] = x;
    return (x >>> 0) / 4294967296;
  }

  /** Writes `count` even numbers in [−amplitude, amplitude). */
  fill(out: Float64Array, count: number, amplitude: number): void {
    let x = this.state[0];
    const scale = amplitude / 2147483648;
    for (let i = 0; i < count; i++) {
      x ^= x << 13;
      x ^= x >>> 17;
      x ^= x << 5;
      out[i] = scale * (x >>> 0) - amplitude;
    }
    this.state[0] = x;
  }

  /** Writes the samples from `from` up to `to`: even numbers in [−1, 1). */
  fillFrom(out: Float64Array, from: number, to: number): void {
    let x = this.state[0];
    for (let i = from; i < to; i++) {
      x ^= x << 13;
      x ^= x >>> 17;
      x ^= x << 5;
      out[i] = (x >>> 0) / 2147483648 - 1;
    }
    this.state[0] = x;
  }

  copyFrom(other: Random): void {
    this.state[0] = other.state[0];
  }
}
