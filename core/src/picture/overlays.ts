import { itemAt, present } from "../presence/index.ts";
import type { Frames, Seconds } from "../time/index.ts";
import type { Point } from "../values/index.ts";
import type { GrainPart, LightsPart, PapersPart } from "./frame-plan.ts";
import type { Size } from "./geometry.ts";
import { seededChoice } from "./seeded-choice.ts";

/**
 * Something light that moves over a film, the same in every frame of it whatever slide is seen: it
 * goes on through transitions.
 */
export interface PlannedOverlay {
  readonly kind: "glow" | "confetti" | "grain";
  /** 0 to 1. */
  readonly strength: number;
  readonly seed: number;
  readonly framesPerSecond: number;
}

type OverlayPart = LightsPart | PapersPart | GrainPart;

/** What an overlay draws in a frame. O(1). */
export function overlayPart(
  { kind, strength, seed, framesPerSecond }: PlannedOverlay,
  frame: Frames,
  size: Size,
): OverlayPart {
  const seconds = frame / framesPerSecond;
  switch (kind) {
    case "glow":
      return glow(strength, seed, seconds, size);
    case "confetti":
      return confetti(strength, seed, seconds, size);
    case "grain":
      return grain(strength, seed, frame);
  }
}

/** Evenly from 0 to 1, at random. */
const share = (seed: number, name: string): number => seededChoice(seed, name, 100_003) / 100_003;

const LIGHTS = 3;
const LIGHT_COLOURS = ["255, 196, 120", "255, 226, 170", "255, 168, 120"] as const;

/** Large soft lights that wander slowly, as lanterns would beside the camera. */
function glow(strength: number, seed: number, seconds: Seconds, { width, height }: Size): LightsPart {
  const lights = Array.from({ length: LIGHTS }, (_, i) => {
    const of = (name: string): number => share(seed, `light ${i} ${name}`);
    const turn = (name: string): number =>
      Math.sin(2 * Math.PI * (of(name) + seconds / (14 + 16 * of(`${name} pace`))));
    return {
      centre: { x: width * (0.5 + 0.55 * turn("x")), y: height * (0.5 + 0.5 * turn("y")) },
      radius: Math.max(width, height) * (0.28 + 0.16 * of("radius")),
      colour: itemAt(LIGHT_COLOURS, i % LIGHT_COLOURS.length),
      alpha: strength * 0.62 * (0.75 + 0.25 * turn("light")),
    };
  });
  return { kind: "lights", lights };
}

const MOST_PAPERS = 90;
const PAPER_COLOURS = ["#f2b04c", "#f6e3bf", "#8fd3c8", "#b79be0", "#e2734f", "#fffaf0"] as const;

/**
 * Small papers that fall, sway and turn; each comes back at the top when it has left the frame at
 * the bottom.
 */
function confetti(strength: number, seed: number, seconds: Seconds, size: Size): PapersPart {
  const count = Math.round(MOST_PAPERS * strength);
  const unit = Math.min(size.width, size.height);
  const papers = Array.from({ length: count }, (_, i) => {
    const of = (name: string): number => share(seed, `paper ${i} ${name}`);
    // Near papers are larger and fall faster; most are far.
    const near = of("near") ** 2;
    const length = unit * (0.01 + 0.024 * near);
    const way = size.height + 4 * length;
    const fallen = of("start") * way + seconds * size.height * (0.08 + 0.05 * of("pace") + 0.14 * near);
    const centre = {
      x:
        size.width * of("x") + unit * (0.04 + 0.05 * near) * Math.sin(seconds * (0.7 + of("sway")) + 6.3 * of("phase")),
      y: (fallen % way) - 2 * length,
    };
    const angle = 6.3 * of("angle") + seconds * (1 + 2 * of("turn")) * (of("side") < 0.5 ? -1 : 1);
    // Seen from its edge a paper is thin: it tumbles.
    const facing = Math.cos(seconds * (2 + 3 * of("tumble")) + 6.3 * of("tumble phase"));
    const colour = litPaper(itemAt(PAPER_COLOURS, i % PAPER_COLOURS.length), facing);
    return { corners: leaning(centre, length, 0.62 * length * facing, angle), colour };
  });
  return { kind: "papers", papers };
}

/** Paper catches the light when it faces it, and its other side lies in shade. */
function litPaper(colour: string, facing: number): string {
  const light = facing > 0 ? 0.86 + 0.2 * facing ** 4 : 0.62 - 0.14 * facing;
  const channels = [1, 3, 5].map((at) =>
    Math.min(255, Math.round(light * Number.parseInt(colour.slice(at, at + 2), 16))),
  );
  return `#${channels.map((code) => code.toString(16).padStart(2, "0")).join("")}`;
}

function leaning(centre: Point, length: number, across: number, angle: number): Point[] {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return [
    [-length, -across],
    [length, -across],
    [length, across],
    [-length, across],
  ].map(([along, side]) => ({
    x: centre.x + 0.5 * (cos * present(along) - sin * present(side)),
    y: centre.y + 0.5 * (sin * present(along) + cos * present(side)),
  }));
}

export const GRAIN_TILE_PIXELS = 512;

/** Other grain in every frame: the same tile, laid from another place. */
function grain(strength: number, seed: number, frame: Frames): GrainPart {
  return {
    kind: "grain",
    offset: {
      x: seededChoice(seed, `grain x ${frame}`, GRAIN_TILE_PIXELS),
      y: seededChoice(seed, `grain y ${frame}`, GRAIN_TILE_PIXELS),
    },
    alpha: 0.4 * strength,
  };
}

/**
 * The tile of grain, RGBA: light and dark specks, the same everywhere. Each is spread over its
 * neighbours, as grains of silver are larger than a pixel, and strengths are spread as a bell.
 */
export function grainTile(): Uint8ClampedArray<ArrayBuffer> {
  const pixels = new Uint8ClampedArray(4 * GRAIN_TILE_PIXELS ** 2);
  let state = 0x2545f491;
  const next = (): number => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 2 ** 32;
  };
  const specks = Float32Array.from({ length: GRAIN_TILE_PIXELS ** 2 }, () => next() - 0.5);
  const at = (x: number, y: number): number =>
    specks[(y & (GRAIN_TILE_PIXELS - 1)) * GRAIN_TILE_PIXELS + (x & (GRAIN_TILE_PIXELS - 1))]!;
  for (let y = 0; y < GRAIN_TILE_PIXELS; y++)
    for (let x = 0; x < GRAIN_TILE_PIXELS; x++) {
      const beside = at(x - 1, y) + at(x + 1, y) + at(x, y - 1) + at(x, y + 1);
      const corners = at(x - 1, y - 1) + at(x + 1, y - 1) + at(x - 1, y + 1) + at(x + 1, y + 1);
      const value = 2 * at(x, y) + beside + 0.5 * corners;
      const i = 4 * (y * GRAIN_TILE_PIXELS + x);
      const code = value > 0 ? 255 : 0;
      pixels[i] = code;
      pixels[i + 1] = code;
      pixels[i + 2] = code;
      pixels[i + 3] = Math.abs(value) * 50;
    }
  return pixels;
}
