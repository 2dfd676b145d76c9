/** Types of packages that bring none, or none that fit here: core may not know Node or the page. */
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

declare module "papaparse" {
  interface ParseStep {
    data: string[];
    errors: { type: string; code: string; message: string }[];
    /** `cursor`: characters read, at the end of this row. */
    meta: { cursor: number; delimiter: string };
  }
  const papaparse: {
    parse(
      text: string,
      options: {
        delimiter?: string;
        delimitersToGuess?: string[];
        skipEmptyLines?: boolean;
        step: (row: ParseStep) => void;
      },
    ): void;
    unparse(rows: string[][], options: { newline: string }): string;
  };
  export default papaparse;
}
