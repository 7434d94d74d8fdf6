import FFT from 'fft.js';

/**
 * Convolution of two signals with two long filters, block by block and without delay: uniformly partitioned overlap-save
 * (Stockham, 1966; Wefers, Partitioned convolution algorithms for real-time auralization, 2015). What went in is kept as
 * spectra, so that another filter is in full swing from its first block on.
 */
export class PartitionedHistory {
  private readonly fft: FFT;
  /** Spectra of the latest frames of both signals, bins 0 to `block`, the newest at `newest`. */
  private readonly spectra: readonly [Float64Array, Float64Array][];
  private newest = 0;
  private readonly frames: readonly [Float64Array, Float64Array];
  private readonly bins: Float64Array;
  private readonly out: Float64Array;

  /**
   * @param block frames of a block.
   * @param partitions blocks that a filter may be long.
   */
  constructor(
    readonly block: number,
    readonly partitions: number,
  ) {
    this.fft = new FFT(2 * block);
    this.spectra = Array.from({ length: partitions }, () => [
      new Float64Array(2 * block + 2),
      new Float64Array(2 * block + 2),
    ]);
    this.frames = [new Float64Array(2 * block), new Float64Array(2 * block)];
    this.bins = new Float64Array(4 * block);
    this.out = new Float64Array(4 * block);
  }

  /** Takes a block of both signals. */
  push(first: Float64Array, second: Float64Array): void {
    this.newest = this.newest === 0 ? this.partitions - 1 : this.newest - 1;
    this.take(0, first);
    this.take(1, second);
  }

  private take(which: 0 | 1, samples: Float64Array): void {
    const { block, bins } = this;
    const frame = this.frames[which];
    frame.copyWithin(0, block);
    frame.set(samples, block);
    this.fft.realTransform(bins, frame);
    const spectrum = this.spectra[this.newest][which];
    for (let i = 0; i < spectrum.length; i++) spectrum[i] = bins[i];
  }

  /** What two filters make of the block that was taken last, one of each signal. */
  through(filters: PartitionedFilters, first: Float64Array, second: Float64Array): void {
    const { block, bins, out, partitions, newest, spectra } = this;
    bins.fill(0);
    const size = 2 * block;
    for (let p = 0; p < Math.min(partitions, filters.count); p++) {
      const [a, b] = spectra[(newest + p) % partitions];
      const [h, g] = filters.partitions[p];
      for (let k = 0; k <= block; k++) {
        const re = 2 * k;
        const im = re + 1;
        const aRe = a[re] * h[re] - a[im] * h[im];
        const aIm = a[re] * h[im] + a[im] * h[re];
        const bRe = b[re] * g[re] - b[im] * g[im];
        const bIm = b[re] * g[im] + b[im] * g[re];
        // Both are real signals: one goes in as the real, the other as the imaginary part of one transform.
        bins[re] += aRe - bIm;
        bins[im] += aIm + bRe;
        if (k === 0 || k === block) continue;
        const mirror = 2 * (size - k);
        bins[mirror] += aRe + bIm;
        bins[mirror + 1] += bRe - aIm;
      }
    }
    this.fft.inverseTransform(out, bins);
    for (let i = 0; i < block; i++) {
      first[i] = out[2 * (block + i)];
      second[i] = out[2 * (block + i) + 1];
    }
  }
}

/** Two filters as spectra of their partitions. */
export class PartitionedFilters {
  readonly partitions: readonly [Float64Array, Float64Array][];

  constructor(block: number, first: ArrayLike<number>, second: ArrayLike<number>) {
    const fft = new FFT(2 * block);
    const spectrumOf = (taps: ArrayLike<number>, p: number) => {
      const frame = new Float64Array(2 * block);
      for (let i = 0; i < block; i++) frame[i] = taps[p * block + i] ?? 0;
      const bins = new Float64Array(4 * block);
      fft.realTransform(bins, frame);
      return bins.slice(0, 2 * block + 2);
    };
    const count = Math.ceil(Math.max(first.length, second.length) / block);
    this.partitions = Array.from({ length: count }, (_, p) => [spectrumOf(first, p), spectrumOf(second, p)]);
  }

  get count(): number {
    return this.partitions.length;
  }
}
