import { assertNever } from "../errors/index.ts";
import type { WIPE_DIRECTIONS } from "../show/index.ts";
import type { Point } from "../values/index.ts";
import type {
  FramePlan,
  Ground,
  Layer,
  Mask,
  Placement,
  SceneLayer,
  ScenePart,
  ShadeLayer,
  Veil,
} from "./frame-plan.ts";
import { between, polygonBehind, type Rectangle, type Size, shifted } from "./geometry.ts";
import type { PlannedTransition } from "./transition.ts";

/** Two pictures and how much of the way from one to the other is gone, 0 to 1. */
interface Passing {
  readonly size: Size;
  readonly before: SceneLayer;
  readonly after: SceneLayer;
  readonly share: number;
  /** Place of the new picture's subject in the frame. */
  readonly subject: Point;
}

type Drawn = Pick<FramePlan, "layers" | "veils">;

/** How far the old picture comes nearer in a zoom, and how near the new one begins. */
const ZOOM_OUT_OF = 1.5;
const ZOOM_INTO = 1.18;
/**
 * At its brightest a flash makes a picture so many times lighter, and lays so much white over what
 * is dark even then.
 */
const FLASH_EXPOSURE = 6;
const FLASH_WHITE = 0.72;
/** What is seen of a page's back, as a share of the frame's width: the rest has rolled up. */
const PAGE_BACK = 0.26;
/** The soft edge of an iris, as a share of its last radius. */
const IRIS_EDGE = 0.06;
/**
 * The line that a page is folded along leans by this much (radians), as a hand would turn it from
 * its lower corner.
 */
const FOLD_LEAN = 0.28;

/**
 * What is drawn of a transition in one of its frames. Every kind shows half of each picture, by
 * area or by light, at a share of 0.5.
 */
export function planTransition(transition: PlannedTransition, passing: Passing): Drawn {
  const { before, after, share, size } = passing;
  const eased = share * share * (3 - 2 * share);
  switch (transition.kind) {
    case "cut":
      return { layers: [share < 0.5 ? before : after], veils: [] };
    case "dissolve":
      return { layers: [before, { ...after, alpha: share }], veils: [] };
    case "dip":
      return {
        layers: [share < 0.5 ? before : after],
        veils: [{ colour: transition.colour, alpha: 1 - Math.abs(2 * share - 1) }],
      };
    case "light-flash":
      return flash(passing);
    case "wipe":
      return masked(passing, edgeMask(size, DIRECTIONS[transition.direction], eased, transition.softness));
    case "gradient":
      return masked(passing, edgeMask(size, DIRECTIONS[transition.direction], eased, 1));
    case "iris":
      return masked(passing, irisMask(size, passing.subject, eased));
    case "push":
      return push(passing, DIRECTIONS[transition.direction], eased);
    case "zoom":
      return {
        layers: [
          scaledLayer(before, size, between(1, ZOOM_OUT_OF, eased)),
          { ...scaledLayer(after, size, between(ZOOM_INTO, 1, eased)), alpha: share },
        ],
        veils: [],
      };
    case "page-turn":
      return turnedPage(passing, transition.direction, eased);
    default:
      return assertNever(transition);
  }
}

const DIAGONAL = Math.SQRT1_2;
/** Where the new picture's edge goes to. */
const DIRECTIONS: Readonly<Record<(typeof WIPE_DIRECTIONS)[number], Point>> = {
  right: { x: 1, y: 0 },
  left: { x: -1, y: 0 },
  down: { x: 0, y: 1 },
  up: { x: 0, y: -1 },
  "down-right": { x: DIAGONAL, y: DIAGONAL },
  "down-left": { x: -DIAGONAL, y: DIAGONAL },
  "up-right": { x: DIAGONAL, y: -DIAGONAL },
  "up-left": { x: -DIAGONAL, y: -DIAGONAL },
};

/** Highlights burn out first and their light spreads; only at the brightest darks are lit too. */
function flash({ before, after, share }: Passing): Drawn {
  const light = 1 - Math.abs(2 * share - 1);
  const veil: Veil = { colour: "#ffffff", alpha: FLASH_WHITE * light ** 8 };
  return {
    layers: [{ ...(share < 0.5 ? before : after), exposure: between(1, FLASH_EXPOSURE, light ** 1.5) }],
    veils: [veil],
  };
}

const masked = ({ before, after }: Passing, mask: Mask): Drawn => ({
  layers: [before, { ...after, mask }],
  veils: [],
});

/**
 * The slope of a soft edge that crosses the frame; at least two pixels wide, so that it is smooth.
 */
function edgeMask(size: Size, direction: Point, share: number, softness: number): Mask {
  const middle = { x: size.width / 2, y: size.height / 2 };
  const half = (Math.abs(direction.x) * size.width + Math.abs(direction.y) * size.height) / 2;
  const slope = Math.max(2, softness * 2 * half);
  const at = between(-half - slope, half, share);
  const place = (distance: number): Point => ({
    x: middle.x + direction.x * distance,
    y: middle.y + direction.y * distance,
  });
  return { kind: "linear", from: place(at), to: place(at + slope) };
}

/** A circle whose area grows evenly until it holds the frame's farthest corner. */
function irisMask({ width, height }: Size, centre: Point, share: number): Mask {
  const farthest = Math.hypot(Math.max(centre.x, width - centre.x), Math.max(centre.y, height - centre.y));
  const edge = IRIS_EDGE * farthest;
  const outer = Math.sqrt(share) * (farthest + edge);
  return { kind: "circle", centre, inner: Math.max(0, outer - edge), outer: Math.max(1, outer) };
}

const corners = ({ x, y, width, height }: Rectangle): Point[] => [
  { x, y },
  { x: x + width, y },
  { x: x + width, y: y + height },
  { x, y: y + height },
];

const wholeFrame = (size: Size): Rectangle => ({ x: 0, y: 0, ...size });

/**
 * Whole pixels: two pictures that meet at a part of one would let what is below them shine through.
 */
function push({ size, before, after }: Passing, direction: Point, share: number): Drawn {
  const by = { x: Math.round(direction.x * share * size.width), y: Math.round(direction.y * share * size.height) };
  const rest = { x: by.x - direction.x * size.width, y: by.y - direction.y * size.height };
  const moved = (layer: SceneLayer, offset: Point): SceneLayer => ({
    ...mapLayer(layer, { scale: 1, ...offset }),
    bounds: corners(shifted(wholeFrame(size), offset)),
  });
  return { layers: [moved(before, by), moved(after, rest)], veils: [] };
}

/** Around the frame's middle. */
const scaledLayer = (layer: SceneLayer, { width, height }: Size, scale: number): SceneLayer =>
  mapLayer(layer, { scale, x: ((1 - scale) * width) / 2, y: ((1 - scale) * height) / 2 });

/** A scene with everything in it placed again. */
function mapLayer(layer: SceneLayer, placement: Placement): SceneLayer {
  const ground: Ground | null =
    layer.ground?.kind === "image"
      ? { ...layer.ground, target: placedRectangle(layer.ground.target, placement) }
      : layer.ground;
  return { ...layer, ground, parts: layer.parts.map((part) => placedPart(part, placement)) };
}

function placedPart(part: ScenePart, by: Placement): ScenePart {
  switch (part.kind) {
    case "picture":
      return {
        ...part,
        target: placedRectangle(part.target, by),
        cell: part.cell && placedRectangle(part.cell, by),
      };
    case "lines":
      return { ...part, rectangle: placedRectangle(part.rectangle, by), width: by.scale * part.width };
    case "words":
      return { ...part, placement: placedAgain(part.placement, by) };
    case "lights":
    case "papers":
    case "grain":
      // They hang before the picture, not in it.
      return part;
    default:
      return assertNever(part);
  }
}

const placedRectangle = ({ x, y, width, height }: Rectangle, by: Placement): Rectangle => ({
  x: by.scale * x + by.x,
  y: by.scale * y + by.y,
  width: by.scale * width,
  height: by.scale * height,
});

const placedAgain = (inner: Placement, by: Placement): Placement => ({
  scale: by.scale * inner.scale,
  x: by.scale * inner.x + by.x,
  y: by.scale * inner.y + by.y,
});

/**
 * The old picture is a sheet that is folded over along a leaning line; what is folded shows its
 * paper back and throws a shadow on both pictures. The line passes the frame's middle at half of
 * the way.
 */
function turnedPage({ size, before, after }: Passing, direction: "left" | "right", share: number): Drawn {
  const toLeft = direction === "left";
  const lean = FOLD_LEAN * (1 - share);
  // Points at the side of the sheet that has been turned.
  const normal = { x: (toLeft ? 1 : -1) * Math.cos(lean), y: Math.sin(lean) };
  const reach = (Math.abs(normal.x) * size.width + Math.abs(normal.y) * size.height) / 2;
  const distance = between(reach, -reach, share);
  const fold = { x: size.width / 2 + normal.x * distance, y: size.height / 2 + normal.y * distance };
  const frame = corners(wholeFrame(size));
  const flat = polygonBehind(frame, fold, normal);
  const turned = polygonBehind(frame, fold, { x: -normal.x, y: -normal.y });
  const rolled = { x: fold.x + PAGE_BACK * size.width * normal.x, y: fold.y + PAGE_BACK * size.width * normal.y };
  const mirrored = polygonBehind(turned, rolled, normal)
    .map((corner) => {
      const beyond = (corner.x - fold.x) * normal.x + (corner.y - fold.y) * normal.y;
      return { x: corner.x - 2 * beyond * normal.x, y: corner.y - 2 * beyond * normal.y };
    })
    .reverse();
  const along = (length: number): Point => ({ x: fold.x + normal.x * length, y: fold.y + normal.y * length });
  const width = size.width;
  const layers: Layer[] = [after];
  if (turned.length > 2) {
    layers.push(shade(turned, along(0), along(0.09 * width), [0, "rgba(0, 0, 0, 0.42)"], [1, "rgba(0, 0, 0, 0)"]));
  }
  if (flat.length > 2) {
    layers.push({ ...before, bounds: flat });
    const curl = Math.max(1, ...mirrored.map((p) => (fold.x - p.x) * normal.x + (fold.y - p.y) * normal.y));
    const shadow = along(-Math.min(curl + 0.05 * width, 1.2 * curl + 8));
    layers.push(shade(flat, along(-0.9 * curl), shadow, [0, "rgba(0, 0, 0, 0.34)"], [1, "rgba(0, 0, 0, 0)"]));
    if (mirrored.length > 2) {
      layers.push(
        shade(
          mirrored,
          along(0),
          along(-Math.max(1, curl)),
          [0, "#8d8576"],
          [0.16, "#d9cfbc"],
          [0.42, "#fbf5e8"],
          [0.72, "#ded3bd"],
          [1, "#a99e89"],
        ),
      );
    }
  }
  return { layers, veils: [] };
}

const shade = (
  bounds: readonly Point[],
  from: Point,
  to: Point,
  ...stops: readonly (readonly [number, string])[]
): ShadeLayer => ({ kind: "shade", bounds, from, to, stops: stops.map(([at, colour]) => ({ at, colour })) });
