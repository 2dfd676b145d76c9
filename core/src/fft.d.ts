declare module "fft.js" {
  /** Radix-4 FFT of one size. Complex arrays are interleaved (real, imaginary). */
  export default class FFT {
    constructor(size: number);
    createComplexArray(): number[];
    realTransform(output: ArrayLike<number>, input: ArrayLike<number>): void;
    transform(output: ArrayLike<number>, input: ArrayLike<number>): void;
    inverseTransform(output: ArrayLike<number>, input: ArrayLike<number>): void;
    completeSpectrum(spectrum: ArrayLike<number>): void;
  }
}
