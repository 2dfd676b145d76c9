import { type DrawableImage, GRAIN_TILE_PIXELS, grainTile } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";

let tile: DrawableImage<CanvasImageSource> | null = null;

/** The tile of grain, made when a film first has some; one for the whole page. */
export function stageGrain(): DrawableImage<CanvasImageSource> {
  if (tile) return tile;
  const side = GRAIN_TILE_PIXELS;
  const image = new OffscreenCanvas(side, side);
  present(image.getContext("2d")).putImageData(new ImageData(grainTile(), side, side), 0, 0);
  tile = { image, width: side, height: side };
  return tile;
}
