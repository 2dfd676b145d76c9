import type { Point } from "../show/index.ts";
import type { FramePlan, Ground, Layer, Mask, PictureLayer, ShadeLayer } from "./frame-plan.ts";
import type { Rectangle, Size } from "./geometry.ts";
import type { DrawableImage, ImageSource, Scratch, Surface2D } from "./surface.ts";

/**
 * Draws a planned frame onto a surface of exactly the plan's size (or one scaled to it). Stage, thumbnails and export all come through here, so what
 * is seen is what is exported. Pictures that are not loaded leave their ground visible. `scratch` is asked for only where a layer must be
 * put together before it is laid on, and may be the same one every time.
 */
export function drawFrame<Image>(
  surface: Surface2D<Image>,
  plan: FramePlan,
  images: ImageSource<Image>,
  scratch: () => Scratch<Image>,
): void {
  const { size } = plan;
  prepare(surface);
  fill(surface, size, "#000000", 1);
  for (const layer of plan.layers) drawLayer(surface, size, layer, images, scratch);
  for (const veil of plan.veils) fill(surface, size, veil.colour, veil.alpha);
  surface.globalAlpha = 1;
}

function prepare<Image>(surface: Surface2D<Image>): void {
  surface.globalAlpha = 1;
  surface.globalCompositeOperation = "source-over";
  surface.imageSmoothingEnabled = true;
  surface.imageSmoothingQuality = "medium";
}

function fill<Image>(surface: Surface2D<Image>, { width, height }: Size, colour: unknown, alpha: number): void {
  surface.globalAlpha = alpha;
  surface.fillStyle = colour;
  surface.fillRect(0, 0, width, height);
}

function drawLayer<Image>(
  surface: Surface2D<Image>,
  size: Size,
  layer: Layer,
  images: ImageSource<Image>,
  scratch: () => Scratch<Image>,
): void {
  if (layer.kind === "shade") {
    drawShade(surface, layer);
    return;
  }
  if (layer.bounds) {
    surface.save();
    trace(surface, layer.bounds);
    surface.clip();
  }
  if (layer.mask || (layer.alpha < 1 && layer.ground)) {
    // Picture and ground become one before alpha and mask: each by itself would let the other shine through.
    const together = scratch();
    prepare(together.surface);
    together.surface.clearRect(0, 0, size.width, size.height);
    drawPicture(together.surface, size, layer, images, 1);
    if (layer.mask) applyMask(together.surface, size, layer.mask);
    surface.globalAlpha = layer.alpha;
    place(surface, together, { x: 0, y: 0, ...size });
  } else {
    drawPicture(surface, size, layer, images, layer.alpha);
  }
  if (layer.bounds) surface.restore();
}

function drawPicture<Image>(
  surface: Surface2D<Image>,
  size: Size,
  { picture, clip, target, ground }: PictureLayer,
  images: ImageSource<Image>,
  alpha: number,
): void {
  if (ground) drawGround(surface, size, ground, images, alpha);
  const image = images(picture, "picture", clip);
  if (!image) return;
  surface.globalAlpha = alpha;
  place(surface, image, target);
}

function drawGround<Image>(
  surface: Surface2D<Image>,
  size: Size,
  ground: Ground,
  images: ImageSource<Image>,
  alpha: number,
): void {
  fill(surface, size, ground.kind === "colour" ? ground.colour : "#000000", alpha);
  const image = ground.kind === "image" ? images(ground.picture, ground.of, null) : null;
  if (ground.kind === "image" && image) place(surface, image, ground.target);
}

const place = <Image>(
  surface: Surface2D<Image>,
  { image, width, height }: DrawableImage<Image>,
  target: Rectangle,
): void => surface.drawImage(image, 0, 0, width, height, target.x, target.y, target.width, target.height);

/** Filled as a path: its edges are smooth on every canvas, which those of a clip are not. */
function drawShade<Image>(surface: Surface2D<Image>, { bounds, from, to, stops }: ShadeLayer): void {
  const slope = surface.createLinearGradient(from.x, from.y, to.x, to.y);
  for (const { at, colour } of stops) slope.addColorStop(at, colour);
  surface.globalAlpha = 1;
  surface.fillStyle = slope;
  trace(surface, bounds);
  surface.fill();
}

function trace<Image>(surface: Surface2D<Image>, [first, ...others]: readonly Point[]): void {
  surface.beginPath();
  if (first) surface.moveTo(first.x, first.y);
  for (const corner of others) surface.lineTo(corner.x, corner.y);
  surface.closePath();
}

/** Keeps of what is drawn as much as the mask lets through. */
function applyMask<Image>(surface: Surface2D<Image>, size: Size, mask: Mask): void {
  const slope =
    mask.kind === "linear"
      ? surface.createLinearGradient(mask.from.x, mask.from.y, mask.to.x, mask.to.y)
      : surface.createRadialGradient(
          mask.centre.x,
          mask.centre.y,
          mask.inner,
          mask.centre.x,
          mask.centre.y,
          mask.outer,
        );
  slope.addColorStop(0, "rgba(0, 0, 0, 1)");
  slope.addColorStop(1, "rgba(0, 0, 0, 0)");
  surface.globalCompositeOperation = "destination-in";
  fill(surface, size, slope, 1);
  surface.globalCompositeOperation = "source-over";
}
