/**
 * Video drawn straight into its planes: what server/src/planes builds on. `npm run build:planes`
 * makes planes.wasm of it.
 */
export { meanCells } from "./cells";
export { alphaOfRgba, halvePlane, planesOfRgba } from "./convert";
export { drawPlane, fillPlane } from "./draw";

export function allocate(bytes: usize): usize {
  return heap.alloc(bytes);
}

export function release(place: usize): void {
  heap.free(place);
}
