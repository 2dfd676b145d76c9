declare module "libheif-js/wasm-bundle.js" {
  /** A picture of a HEIF file. */
  export interface HeifImage {
    get_width(): number;
    get_height(): number;
    /** Whether the file names it as the one to show. */
    is_primary(): boolean;
    /** Fills the pixels; hears null where they cannot be decoded. */
    display(
      target: { data: Uint8ClampedArray; width: number; height: number },
      done: (shown: { data: Uint8ClampedArray } | null) => void,
    ): void;
  }
  export class HeifDecoder {
    /** Empty where the file is not valid. */
    decode(file: Uint8Array): HeifImage[];
  }
  const libheif: { readonly ready: Promise<unknown>; readonly HeifDecoder: typeof HeifDecoder };
  export default libheif;
}
