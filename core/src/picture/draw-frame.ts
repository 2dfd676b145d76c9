import { assertNever } from "../errors/index.ts";
import type { Point } from "../values/index.ts";
import { drawWords } from "./draw-words.ts";
import type {
  FramePlan,
  Ground,
  Layer,
  LightsPart,
  LinesPart,
  Mask,
  SceneLayer,
  ScenePart,
  ShadeLayer,
} from "./frame-plan.ts";
import { type Rectangle, type Size, sharedPart } from "./geometry.ts";
import type { DrawableImage, DrawSources, ImageSource, Surface2D } from "./surface.ts";

/**
 * Draws a planned frame onto a surface of exactly the plan's size (or one scaled to it). Stage,
 * thumbnails and export all come through here, so what is seen is what is exported. Pictures and
 * words that are not loaded leave what is below them visible.
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
  const exposure = layer.exposure ?? 1;
  if (layer.mask || exposure > 1 || (layer.alpha < 1 && layer.parts.length + (layer.ground ? 1 : 0) > 1)) {
    // What lies over each other becomes one before alpha and mask: each by itself would let the
    // other shine through.
    const together = sources.scratch();
    prepare(together.surface);
    together.surface.clearRect(0, 0, size.width, size.height);
    drawScene(together.surface, size, layer, sources, 1);
    if (layer.mask) applyMask(together.surface, size, layer.mask);
    surface.globalAlpha = layer.alpha;
    place(surface, together, { x: 0, y: 0, ...size });
    if (exposure > 1) brighten(surface, size, together, layer.alpha * (exposure - 1));
  } else {
    drawScene(surface, size, layer, sources, layer.alpha);
  }
  if (layer.bounds) surface.restore();
}

/** How much larger the copies are that are added to a burning picture: its light spreads. */
const GLARE_SPREAD = [1, 1.025, 1.06, 1.11] as const;

/** Adds a picture's own light to it, so many times. */
function brighten<Image>(surface: Surface2D<Image>, size: Size, picture: DrawableImage<Image>, times: number): void {
  surface.globalCompositeOperation = "lighter";
  let left = times;
  for (let copy = 0; left > 0; copy++) {
    const scale = GLARE_SPREAD[copy % GLARE_SPREAD.length] ?? 1;
    const [width, height] = [scale * size.width, scale * size.height];
    surface.globalAlpha = Math.min(1, left);
    place(surface, picture, { x: (size.width - width) / 2, y: (size.height - height) / 2, width, height });
    left--;
  }
  surface.globalCompositeOperation = "source-over";
}

function drawScene<Image>(
  surface: Surface2D<Image>,
  size: Size,
  { ground, parts }: SceneLayer,
  sources: DrawSources<Image>,
  alpha: number,
): void {
  if (ground) drawGround(surface, size, ground, sources.images, alpha);
  for (const part of parts) drawPart(surface, size, part, sources, alpha);
}

function drawPart<Image>(
  surface: Surface2D<Image>,
  size: Size,
  part: ScenePart,
  { images, words, grain }: DrawSources<Image>,
  alpha: number,
): void {
  switch (part.kind) {
    case "picture": {
      const image = images(part.image, part.clip);
      if (!image) return;
      surface.globalAlpha = alpha * part.alpha;
      if (part.cell) placeInCell(surface, image, part.target, part.cell);
      else place(surface, image, part.target);
      return;
    }
    case "lines":
      drawLines(surface, part, alpha);
      return;
    case "words": {
      const drawn = words(part.sheet, part.index, size);
      if (drawn) drawWords(surface, size, part, drawn, alpha);
      return;
    }
    case "lights":
      drawLights(surface, size, part, alpha);
      return;
    case "papers":
      surface.globalAlpha = alpha;
      for (const { corners, colour } of part.papers) {
        surface.fillStyle = colour;
        trace(surface, corners);
        surface.fill();
      }
      return;
    case "grain": {
      const tile = grain();
      if (!tile) return;
      surface.globalAlpha = alpha * part.alpha;
      for (let y = -part.offset.y; y < size.height; y += tile.height)
        for (let x = -part.offset.x; x < size.width; x += tile.width)
          place(surface, tile, { x, y, width: tile.width, height: tile.height });
      return;
    }
    default:
      assertNever(part);
  }
}

/** Draws only what of an image lies in a cell. */
function placeInCell<Image>(
  surface: Surface2D<Image>,
  { image, width, height }: DrawableImage<Image>,
  target: Rectangle,
  cell: Rectangle,
): void {
  const seen = sharedPart(target, cell);
  if (seen.width <= 0 || seen.height <= 0) return;
  const [acrossScale, downScale] = [width / target.width, height / target.height];
  surface.drawImage(
    image,
    (seen.x - target.x) * acrossScale,
    (seen.y - target.y) * downScale,
    seen.width * acrossScale,
    seen.height * downScale,
    seen.x,
    seen.y,
    seen.width,
    seen.height,
  );
}

function drawLines<Image>(
  surface: Surface2D<Image>,
  { rectangle: { x, y, width, height }, width: thick, colour, alpha: own }: LinesPart,
  alpha: number,
): void {
  surface.globalAlpha = alpha * own;
  surface.fillStyle = colour;
  surface.fillRect(x, y, width, thick);
  surface.fillRect(x, y + height - thick, width, thick);
  surface.fillRect(x, y + thick, thick, height - 2 * thick);
  surface.fillRect(x + width - thick, y + thick, thick, height - 2 * thick);
}

/** Added as light is: what is dark below becomes lighter most. */
function drawLights<Image>(surface: Surface2D<Image>, size: Size, { lights }: LightsPart, alpha: number): void {
  surface.globalCompositeOperation = "screen";
  surface.globalAlpha = alpha;
  for (const { centre, radius, colour, alpha: own } of lights) {
    const slope = surface.createRadialGradient(centre.x, centre.y, 0, centre.x, centre.y, radius);
    // A bell in five steps: no edge is seen.
    for (const at of [0, 0.25, 0.5, 0.75, 1])
      slope.addColorStop(at, `rgba(${colour}, ${(own * (0.5 + 0.5 * Math.cos(Math.PI * at)) ** 1.5).toFixed(4)})`);
    surface.fillStyle = slope;
    const seen = sharedPart(
      { x: centre.x - radius, y: centre.y - radius, width: 2 * radius, height: 2 * radius },
      { x: 0, y: 0, ...size },
    );
    surface.fillRect(seen.x, seen.y, seen.width, seen.height);
  }
  surface.globalCompositeOperation = "source-over";
}

function drawGround<Image>(
  surface: Surface2D<Image>,
  size: Size,
  ground: Ground,
  images: ImageSource<Image>,
  alpha: number,
): void {
  fill(surface, size, ground.kind === "colour" ? ground.colour : "#000000", alpha);
  const image = ground.kind === "image" ? images(ground.image, null) : null;
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
