import type { Point } from "../show/index.ts";
import type { FramePlan, Ground, Layer, Mask, SceneLayer, ShadeLayer, WordsPart } from "./frame-plan.ts";
import type { Rectangle, Size } from "./geometry.ts";
import type { DrawableImage, DrawnWords, DrawSources, ImageSource, Surface2D } from "./surface.ts";

/**
 * Draws a planned frame onto a surface of exactly the plan's size (or one scaled to it). Stage, thumbnails and export all come through here, so what
 * is seen is what is exported. Pictures and words that are not loaded leave what is below them visible.
 */
export function drawFrame<Image>(surface: Surface2D<Image>, plan: FramePlan, sources: DrawSources<Image>): void {
  const { size } = plan;
  prepare(surface);
  fill(surface, size, "#000000", 1);
  for (const layer of plan.layers) drawLayer(surface, size, layer, sources);
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

function drawLayer<Image>(surface: Surface2D<Image>, size: Size, layer: Layer, sources: DrawSources<Image>): void {
  if (layer.kind === "shade") {
    drawShade(surface, layer);
    return;
  }
  if (layer.bounds) {
    surface.save();
    trace(surface, layer.bounds);
    surface.clip();
  }
  if (layer.mask || (layer.alpha < 1 && layer.parts.length + (layer.ground ? 1 : 0) > 1)) {
    // What lies over each other becomes one before alpha and mask: each by itself would let the other shine through.
    const together = sources.scratch();
    prepare(together.surface);
    together.surface.clearRect(0, 0, size.width, size.height);
    drawScene(together.surface, size, layer, sources, 1);
    if (layer.mask) applyMask(together.surface, size, layer.mask);
    surface.globalAlpha = layer.alpha;
    place(surface, together, { x: 0, y: 0, ...size });
  } else {
    drawScene(surface, size, layer, sources, layer.alpha);
  }
  if (layer.bounds) surface.restore();
}

function drawScene<Image>(
  surface: Surface2D<Image>,
  size: Size,
  { ground, parts }: SceneLayer,
  { images, words }: DrawSources<Image>,
  alpha: number,
): void {
  if (ground) drawGround(surface, size, ground, images, alpha);
  for (const part of parts) {
    if (part.kind === "words") {
      const drawn = words(part.sheet, part.index, size);
      if (drawn) drawWords(surface, size, part, drawn, alpha);
      continue;
    }
    const image = images(part.picture, "picture", part.clip);
    if (!image) continue;
    surface.globalAlpha = alpha;
    place(surface, image, part.target);
  }
}

function drawWords<Image>(
  surface: Surface2D<Image>,
  size: Size,
  { scrolled, placement: { scale, x, y }, alpha: own }: WordsPart,
  { pieces, height }: DrawnWords<Image>,
  alpha: number,
): void {
  const down = scrolled === null ? 0 : size.height - scrolled * (size.height + height);
  surface.globalAlpha = alpha * own;
  for (const { image, target } of pieces) {
    const top = target.y + down;
    if (top >= size.height || top + target.height <= 0) continue;
    place(surface, image, {
      x: scale * target.x + x,
      y: scale * top + y,
      width: scale * target.width,
      height: scale * target.height,
    });
  }
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
