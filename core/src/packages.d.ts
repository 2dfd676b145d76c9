/** Types of packages that bring none, or none that fit here: core may not know Node or the page. */

/** Base64 to a string of bytes: Node, pages and workers all have it (WHATWG HTML, 8.3). */
declare function atob(base64: string): string;
declare function btoa(binary: string): string;

/** WHATWG Encoding: Node, pages and workers all have it. */
declare class TextEncoder {
  encode(text: string): Uint8Array;
}
declare class TextDecoder {
  constructor(encoding?: string, options?: { fatal?: boolean });
  decode(bytes: Uint8Array): string;
}

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

declare module "linebreak" {
  /**
   * Line breaking (UAX 14). `position`: index at which a line may or, where required, must be
   * broken.
   */
  export default class LineBreaker {
    constructor(text: string);
    nextBreak(): { position: number; required: boolean } | null;
  }
}
