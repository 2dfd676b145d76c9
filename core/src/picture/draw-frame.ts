import { coveringPart, type Size } from "./framing.ts";
import type { FramePlan, Layer } from "./plan-frame.ts";
import type { DrawableImage, ImageSource, Surface2D } from "./surface.ts";

/**
 * Draws a planned frame onto a surface of exactly the plan's size (or one scaled to it). Stage, thumbnails and export
 * all come through here, so what is seen is what is exported. Pictures that are not loaded leave the ground visible.
 */
export function drawFrame<Image>(surface: Surface2D<Image>, plan: FramePlan, images: ImageSource<Image>): void {
  surface.imageSmoothingEnabled = true;
  surface.imageSmoothingQuality = "medium";
  surface.globalAlpha = 1;
  surface.fillStyle = "#000000";
  surface.fillRect(0, 0, plan.size.width, plan.size.height);
  for (const layer of plan.layers) drawLayer(surface, plan.size, layer, images);
  if (plan.darkness > 0) {
    surface.globalAlpha = plan.darkness;
    surface.fillStyle = "#000000";
    surface.fillRect(0, 0, plan.size.width, plan.size.height);
  }
  surface.globalAlpha = 1;
}

/**
 * The layer's ground and its picture do not overlap in what is seen, so each may carry the layer's alpha by itself only where the
 * picture is opaque over its ground; hence the ground is drawn around the picture, not under it.
 */
function drawLayer<Image>(surface: Surface2D<Image>, size: Size, layer: Layer, images: ImageSource<Image>): void {
  surface.globalAlpha = layer.alpha;
  if (layer.ground) drawGround(surface, size, layer, images);
  const picture = images(layer.picture, "picture");
  if (!picture) return;
  const { source, target } = layer;
  surface.drawImage(
    picture.image,
    source.x * picture.width,
    source.y * picture.height,
    source.width * picture.width,
    source.height * picture.height,
    target.x,
    target.y,
    target.width,
    target.height,
  );
}

function drawGround<Image>(surface: Surface2D<Image>, size: Size, layer: Layer, images: ImageSource<Image>): void {
  const blurred = layer.ground?.kind === "blur" ? images(layer.picture, "fill") : null;
  surface.fillStyle = layer.ground?.kind === "colour" ? layer.ground.colour : "#000000";
  for (const bar of barsBeside(size, layer)) {
    if (blurred) drawPartOfFill(surface, size, blurred, bar);
    else surface.fillRect(bar.x, bar.y, bar.width, bar.height);
  }
}

/** The two stretches of the frame that a centred picture leaves free: left and right of it, or above and below. */
function barsBeside(size: Size, { target }: Layer): { x: number; y: number; width: number; height: number }[] {
  const right = target.x + target.width;
  const below = target.y + target.height;
  return [
    { x: 0, y: 0, width: target.x, height: size.height },
    { x: right, y: 0, width: size.width - right, height: size.height },
    { x: target.x, y: 0, width: target.width, height: target.y },
    { x: target.x, y: below, width: target.width, height: size.height - below },
  ].filter((bar) => bar.width > 0 && bar.height > 0);
}

function drawPartOfFill<Image>(
  surface: Surface2D<Image>,
  size: Size,
  fill: DrawableImage<Image>,
  bar: { x: number; y: number; width: number; height: number },
): void {
  const part = coveringPart(fill, size);
  const scaleX = (part.width * fill.width) / size.width;
  const scaleY = (part.height * fill.height) / size.height;
  surface.drawImage(
    fill.image,
    part.x * fill.width + bar.x * scaleX,
    part.y * fill.height + bar.y * scaleY,
    bar.width * scaleX,
    bar.height * scaleY,
    bar.x,
    bar.y,
    bar.width,
    bar.height,
  );
}
