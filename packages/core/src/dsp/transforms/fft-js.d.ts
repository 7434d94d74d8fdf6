declare module 'fft.js' {
  export default class FFT {
    constructor(size: number);
    readonly size: number;
    realTransform(out: Float64Array, data: ArrayLike<number>): void;
    transform(out: Float64Array, data: ArrayLike<number>): void;
    inverseTransform(out: Float64Array, data: ArrayLike<number>): void;
  }
}
