declare module "fft.js" {
  /** A fast Fourier transform of so many numbers, a power of two. */
  export default class FFT {
    constructor(size: number);
    createComplexArray(): number[];
    realTransform(out: number[], data: ArrayLike<number>): void;
  }
}
