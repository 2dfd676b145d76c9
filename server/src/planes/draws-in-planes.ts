import type { FramePlan, Layer, ScenePart } from "@humming-tide/core/picture";
import { itemAt } from "@humming-tide/core/presence";

/**
 * Whether a planned frame can be drawn straight into video planes: pictures, words, lines and plain
 * colours, standing or moving, cut, dissolved, dipped, pushed or zoomed. What has slopes, folds or
 * added light (soft wipes, an iris, a turning page, a flash, lights, papers) needs a canvas.
 */
export const drawsInPlanes = (plan: FramePlan): boolean => plan.layers.every(layerDrawsInPlanes);

const layerDrawsInPlanes = (layer: Layer): boolean =>
  layer.kind === "scene" &&
  !layer.mask &&
  (layer.exposure ?? 1) === 1 &&
  isRectangle(layer.bounds) &&
  layer.parts.every(partDrawsInPlanes);

function partDrawsInPlanes({ kind }: ScenePart): boolean {
  switch (kind) {
    case "picture":
    case "words":
    case "lines":
    case "grain":
      return true;
    case "lights":
    case "papers":
      return false;
  }
}

/** Whether each corner shares a line with the next, in turn across and down. */
function isRectangle(bounds: readonly { readonly x: number; readonly y: number }[] | null): boolean {
  if (!bounds) return true;
  return (
    bounds.length === 4 &&
    bounds.every((corner, i) => {
      const next = itemAt(bounds, (i + 1) % 4);
      return (corner.x === next.x) !== (corner.y === next.y);
    })
  );
}
