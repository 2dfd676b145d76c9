import { readFileSync } from "node:fs";

/**
 * The part of the standard's interface that is used here: the types of Node 20 leave it to those of
 * browsers.
 */
declare const WebAssembly: {
  readonly Module: new (bytes: Uint8Array) => object;
  readonly Instance: new (module: object) => { readonly exports: object };
};

/** What server/assembly exports. Places are byte addresses in its memory. */
interface PlaneFunctions {
  readonly memory: { readonly buffer: ArrayBuffer };
  allocate(bytes: number): number;
  release(place: number): void;
  planesOfRgba(rgba: number, width: number, height: number, luma: number, blue: number, red: number): void;
  alphaOfRgba(rgba: number, width: number, height: number, full: number, half: number): void;
  halvePlane(from: number, width: number, height: number, to: number): void;
  meanCells(plane: number, width: number, height: number, columns: number, rows: number, to: number): void;
  drawPlane(...numbers: number[]): void;
  fillPlane(...numbers: number[]): void;
}

/** Whole vectors are read and written at the end of a plane. */
const ROOM_BEHIND_BYTES = 32;

let compiled: object | null = null;

/**
 * A WebAssembly memory with the planes of frames and images, and the functions that work on them.
 * It goes with its last reference.
 */
export class PlaneMemory {
  readonly run: PlaneFunctions;

  constructor() {
    compiled ??= new WebAssembly.Module(readFileSync(new URL("./planes.wasm", import.meta.url)));
    this.run = new WebAssembly.Instance(compiled).exports as unknown as PlaneFunctions;
  }

  /**
   * Room for so many bytes, and for vectors that reach over their end. Throws where memory (4 GB)
   * is used up.
   */
  allocate(bytes: number): number {
    return this.run.allocate(bytes + ROOM_BEHIND_BYTES);
  }

  release(place: number): void {
    this.run.release(place);
  }

  /** The bytes at a place as they are now: not to be kept, the next allocation may move them. */
  bytes(place: number, length: number): Uint8Array {
    return new Uint8Array(this.run.memory.buffer, place, length);
  }
}
