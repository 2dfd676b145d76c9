import { type Canvas, createCanvas, type SKRSContext2D } from "@napi-rs/canvas";
import type { Random } from "../random.ts";
import { BOAT_COLOURS, type Hour, LANTERN_COLOURS } from "./palette.ts";

/**
 * Paints the things that the regatta's pictures are made of. Positions and sizes are in units of
 * the picture's shorter side, from its top left corner, so that a scene works in every shape;
 * `width` and `height` tell how far the picture reaches in these units.
 */
export class Painter {
  readonly canvas: Canvas;
  readonly context: SKRSContext2D;
  readonly width: number;
  readonly height: number;
  readonly random: Random;
  readonly hour: Hour;

  constructor(pixelWidth: number, pixelHeight: number, hour: Hour, random: Random) {
    this.canvas = createCanvas(pixelWidth, pixelHeight);
    this.context = this.canvas.getContext("2d");
    const unit = Math.min(pixelWidth, pixelHeight);
    this.context.scale(unit, unit);
    this.width = pixelWidth / unit;
    this.height = pixelHeight / unit;
    this.hour = hour;
    this.random = random;
  }

  sky(horizon: number): void {
    const { context, hour } = this;
    const gradient = context.createLinearGradient(0, 0, 0, horizon);
    hour.sky.forEach((colour, i) => gradient.addColorStop(i / 2, colour));
    context.fillStyle = gradient;
    context.fillRect(0, 0, this.width, this.height);
    if (hour.night > 0.5) this.#stars(horizon);
    for (let i = 0; i < 5; i++) this.#cloud(horizon);
  }

  #stars(horizon: number): void {
    for (let i = 0; i < 220; i++) {
      this.context.globalAlpha = this.random.between(0.1, 0.8) * (this.hour.night - 0.3);
      this.disc(
        this.random.between(0, this.width),
        horizon * this.random.next() ** 1.6,
        this.random.between(0.0006, 0.0018),
        "#f4ecd8",
      );
    }
    this.context.globalAlpha = 1;
  }

  #cloud(horizon: number): void {
    const { context, random, hour } = this;
    const y = horizon * random.between(0.25, 0.85);
    const x = random.between(-0.2, this.width);
    const length = random.between(0.3, 0.9);
    for (let i = 0; i < 14; i++) {
      context.globalAlpha = 0.05;
      context.fillStyle = hour.night > 0.8 ? "#3a5470" : hour.sky[2];
      context.beginPath();
      context.ellipse(
        x + (length * i) / 14,
        y + random.between(-0.008, 0.008),
        random.between(0.05, 0.12),
        random.between(0.004, 0.014),
        0,
        0,
        7,
      );
      context.fill();
    }
    context.globalAlpha = 1;
  }

  moon(x: number, y: number, radius: number): void {
    this.glow(x, y, radius * 6, "#f7e7c0", 0.35);
    this.disc(x, y, radius, "#fbf1d6");
    this.context.globalAlpha = 0.08;
    for (let i = 0; i < 6; i++) {
      this.disc(
        x + this.random.between(-0.5, 0.5) * radius,
        y + this.random.between(-0.5, 0.5) * radius,
        radius * this.random.between(0.1, 0.25),
        "#7d6f52",
      );
    }
    this.context.globalAlpha = 1;
  }

  hills(horizon: number): void {
    const [far, near] = this.hour.hills;
    this.#ridge(horizon, 0.16, 0.9, far);
    this.#ridge(horizon, 0.07, 2.1, near);
  }

  #ridge(horizon: number, height: number, frequency: number, colour: string): void {
    const { context, random } = this;
    const phases = [random.between(0, 6), random.between(0, 6), random.between(0, 6)] as const;
    context.beginPath();
    context.moveTo(0, horizon);
    for (let x = 0; x <= this.width + 0.01; x += 0.01) {
      const wave =
        0.55 +
        0.3 * Math.sin(x * 2.2 * frequency + phases[0]) +
        0.12 * Math.sin(x * 5.3 * frequency + phases[1]) +
        0.04 * Math.sin(x * 17 + phases[2]);
      context.lineTo(x, horizon - height * wave);
    }
    context.lineTo(this.width, horizon);
    context.fillStyle = colour;
    context.fill();
  }

  /** Houses along the far shore, with lit windows. */
  town(horizon: number, from: number, to: number): void {
    const { context, random, hour } = this;
    for (let x = from; x < to; ) {
      const width = random.between(0.025, 0.06);
      const height = random.between(0.035, 0.1);
      context.fillStyle = mix(hour.hills[1], hour.figure, random.between(0.1, 0.6));
      context.fillRect(x, horizon - height, width, height + 0.003);
      context.beginPath();
      context.moveTo(x - 0.004, horizon - height);
      context.lineTo(x + width / 2, horizon - height - random.between(0.012, 0.03));
      context.lineTo(x + width + 0.004, horizon - height);
      context.fill();
      if (hour.night > 0.2) {
        for (let wy = horizon - height + 0.01; wy < horizon - 0.012; wy += 0.017) {
          for (let wx = x + 0.007; wx < x + width - 0.008; wx += 0.014) {
            if (random.next() > 0.55 * hour.night) continue;
            context.fillStyle = random.pick(LANTERN_COLOURS);
            context.globalAlpha = random.between(0.5, 0.95);
            context.fillRect(wx, wy, 0.006, 0.008);
            context.globalAlpha = 1;
          }
        }
      }
      x += width + random.between(0, 0.012);
    }
  }

  water(horizon: number): void {
    const { context, random, hour } = this;
    const gradient = context.createLinearGradient(0, horizon, 0, this.height);
    gradient.addColorStop(0, hour.water[0]);
    gradient.addColorStop(1, hour.water[1]);
    context.fillStyle = gradient;
    context.fillRect(0, horizon, this.width, this.height - horizon);
    for (let i = 0; i < 420; i++) {
      const depth = random.next() ** 1.7;
      const y = horizon + depth * (this.height - horizon);
      context.globalAlpha = 0.05 + 0.1 * random.next();
      context.fillStyle = random.next() > 0.5 ? hour.sky[2] : hour.water[1];
      context.fillRect(random.between(-0.1, this.width), y, 0.02 + 0.2 * depth * random.next(), 0.0012 + 0.004 * depth);
    }
    context.globalAlpha = 1;
  }

  /** A light's broken path on the water below it. */
  reflection(x: number, horizon: number, length: number, colour: string, width = 0.012): void {
    const { context, random } = this;
    context.globalCompositeOperation = "lighter";
    for (let i = 0; i < 26; i++) {
      const share = i / 26;
      context.globalAlpha = 0.32 * (1 - share) * random.between(0.4, 1);
      context.fillStyle = colour;
      const spread = width * (0.6 + share);
      context.fillRect(
        x - spread / 2 + random.between(-0.35, 0.35) * width,
        horizon + length * share,
        spread,
        (length / 26) * 0.55,
      );
    }
    context.globalAlpha = 1;
    context.globalCompositeOperation = "source-over";
  }

  glow(x: number, y: number, radius: number, colour: string, strength = 0.8): void {
    const { context } = this;
    const gradient = context.createRadialGradient(x, y, 0, x, y, radius);
    gradient.addColorStop(0, withAlpha(colour, strength));
    gradient.addColorStop(0.25, withAlpha(colour, strength * 0.35));
    gradient.addColorStop(1, withAlpha(colour, 0));
    context.globalCompositeOperation = "lighter";
    context.fillStyle = gradient;
    context.fillRect(x - radius, y - radius, radius * 2, radius * 2);
    context.globalCompositeOperation = "source-over";
  }

  disc(x: number, y: number, radius: number, colour: string): void {
    this.context.fillStyle = colour;
    this.context.beginPath();
    this.context.arc(x, y, radius, 0, 7);
    this.context.fill();
  }

  /** A paper lantern with ribs; lit by the hour, or as told. */
  lantern(
    x: number,
    y: number,
    size: number,
    colour: string = this.random.pick(LANTERN_COLOURS),
    lit = this.hour.night,
  ): void {
    const { context } = this;
    if (lit > 0) this.glow(x, y, size * 4.2, colour, 0.5 * lit);
    const body = context.createRadialGradient(x, y + size * 0.2, size * 0.05, x, y, size);
    body.addColorStop(0, lit > 0.3 ? "#fff6dc" : mix(colour, "#ffffff", 0.35));
    body.addColorStop(0.5, colour);
    body.addColorStop(1, mix(colour, "#5a1f12", lit > 0.3 ? 0.35 : 0.55));
    context.fillStyle = body;
    context.beginPath();
    context.ellipse(x, y, size * 0.82, size, 0, 0, 7);
    context.fill();
    context.strokeStyle = withAlpha("#5a1f12", 0.28);
    context.lineWidth = size * 0.03;
    for (const bend of [-0.6, -0.22, 0.22, 0.6]) {
      context.beginPath();
      context.ellipse(
        x,
        y,
        Math.abs(size * 0.82 * bend),
        size,
        0,
        bend < 0 ? Math.PI / 2 : -Math.PI / 2,
        bend < 0 ? (3 * Math.PI) / 2 : Math.PI / 2,
      );
      context.stroke();
    }
    context.fillStyle = "#3a241b";
    context.fillRect(x - size * 0.3, y - size * 1.06, size * 0.6, size * 0.13);
    context.fillRect(x - size * 0.26, y + size * 0.93, size * 0.52, size * 0.11);
    context.fillRect(x - size * 0.02, y + size, size * 0.04, size * 0.4);
  }

  /** A rope hanging between two points with lanterns on it. */
  lanternRope(x1: number, y1: number, x2: number, y2: number, count: number, size: number): void {
    const { context } = this;
    const sag = Math.abs(x2 - x1) * 0.12;
    const at = (t: number): [number, number] => [x1 + (x2 - x1) * t, y1 + (y2 - y1) * t + 4 * sag * t * (1 - t)];
    context.strokeStyle = withAlpha(this.hour.figure, 0.8);
    context.lineWidth = 0.003;
    context.beginPath();
    for (let i = 0; i <= 30; i++) context.lineTo(...at(i / 30));
    context.stroke();
    for (let i = 0; i < count; i++) {
      const [x, y] = at((i + 0.5) / count);
      this.lantern(x, y + size * 1.2, size);
    }
  }

  /**
   * A rowing boat seen from the side, with a crew, oars and a lantern on its bow pole. `length` is
   * the hull's.
   */
  boat(
    x: number,
    y: number,
    length: number,
    options: { crew?: number; colour?: string; oars?: boolean; lanterns?: number } = {},
  ): void {
    const { context, random, hour } = this;
    const colour = options.colour ?? random.pick(BOAT_COLOURS);
    const hull = mix(colour, hour.figure, 0.15 + 0.5 * hour.night);
    const height = length * 0.13;
    const crew = options.crew ?? 3;
    for (let i = 0; i < crew; i++) {
      const seat = x - length * 0.26 + (length * 0.55 * i) / Math.max(1, crew - 1);
      this.rower(seat, y - height * 0.5, length * 0.2);
      if (options.oars ?? true) {
        context.strokeStyle = mix("#8a6a44", hour.figure, hour.night * 0.7);
        context.lineWidth = length * 0.011;
        context.beginPath();
        context.moveTo(seat + length * 0.03, y - height * 1.0);
        context.lineTo(seat - length * 0.13, y + height * 0.75);
        context.stroke();
      }
    }
    context.fillStyle = hull;
    context.beginPath();
    context.moveTo(x - length / 2, y - height * 1.05);
    context.quadraticCurveTo(x - length * 0.4, y + height * 0.5, x - length * 0.2, y + height * 0.55);
    context.lineTo(x + length * 0.25, y + height * 0.55);
    context.quadraticCurveTo(x + length * 0.45, y + height * 0.4, x + length / 2, y - height * 1.3);
    context.quadraticCurveTo(x + length * 0.2, y - height * 0.35, x - length / 2, y - height * 1.05);
    context.fill();
    context.strokeStyle = mix("#f0e2c2", hull, 0.25 + 0.4 * hour.night);
    context.lineWidth = length * 0.014;
    context.beginPath();
    context.moveTo(x - length / 2, y - height * 1.05);
    context.quadraticCurveTo(x + length * 0.2, y - height * 0.35, x + length / 2, y - height * 1.3);
    context.stroke();
    const lanterns = options.lanterns ?? 1;
    for (let i = 0; i < lanterns; i++) {
      const poleX = x + length * (0.46 - (i * 0.9) / Math.max(1, lanterns));
      const top = y - height * (3.4 - 0.5 * i);
      context.strokeStyle = hour.figure;
      context.lineWidth = length * 0.009;
      context.beginPath();
      context.moveTo(poleX, y - height * 0.8);
      context.lineTo(poleX + length * 0.02, top);
      context.stroke();
      this.lantern(poleX + length * 0.02, top + length * 0.05, length * 0.055);
      this.reflection(poleX, y + height * 0.6, length * 0.5, "#ff9d4d", length * 0.05);
    }
  }

  rower(x: number, y: number, size: number): void {
    const { context, hour, random } = this;
    context.fillStyle = mix(hour.figure, random.pick(BOAT_COLOURS), 0.25 * (1 - hour.night));
    context.beginPath();
    context.moveTo(x - size * 0.2, y + size * 0.3);
    context.quadraticCurveTo(x - size * 0.24, y - size * 0.42, x + size * 0.02, y - size * 0.46);
    context.quadraticCurveTo(x + size * 0.24, y - size * 0.36, x + size * 0.2, y + size * 0.3);
    context.fill();
    this.disc(x + size * 0.05, y - size * 0.62, size * 0.17, context.fillStyle);
  }

  /** A standing figure; `stance` from -1 to 1 leans and lifts the arms: dancers and crews. */
  figure(x: number, footY: number, height: number, stance = 0, skirt = false): void {
    const { context, hour, random } = this;
    const colour = mix(hour.figure, random.pick(BOAT_COLOURS), 0.3 * (1 - hour.night) + 0.07);
    const lean = stance * height * 0.1;
    context.fillStyle = colour;
    context.strokeStyle = colour;
    context.lineCap = "round";
    const hip = footY - height * 0.47;
    const shoulder = footY - height * 0.8;
    if (skirt) {
      context.beginPath();
      context.moveTo(x + lean * 0.5 - height * 0.05, hip - height * 0.08);
      context.quadraticCurveTo(
        x - height * 0.2 - lean,
        footY - height * 0.14,
        x - height * (0.16 + 0.06 * stance),
        footY - height * 0.1,
      );
      context.quadraticCurveTo(x, footY - height * 0.04, x + height * (0.16 - 0.06 * stance), footY - height * 0.1);
      context.quadraticCurveTo(
        x + height * 0.1,
        footY - height * 0.3,
        x + lean * 0.5 + height * 0.05,
        hip - height * 0.08,
      );
      context.fill();
    }
    context.lineWidth = height * 0.06;
    for (const side of [-1, 1]) {
      context.beginPath();
      context.moveTo(x + lean * 0.5 + side * height * 0.035, hip);
      context.lineTo(x + side * height * (0.06 + 0.05 * Math.abs(stance)), footY);
      context.stroke();
    }
    context.beginPath();
    context.ellipse(x + lean * 0.75, (hip + shoulder) / 2, height * 0.078, height * 0.2, lean * 1.2, 0, 7);
    context.fill();
    context.lineWidth = height * 0.045;
    for (const side of [-1, 1]) {
      // One arm goes up with the stance, the other hangs a little away from the body.
      const raised = side * stance > 0.35;
      const from = { x: x + lean + side * height * 0.075, y: shoulder + height * 0.03 };
      const elbow = raised
        ? { x: from.x + side * height * 0.1, y: from.y - height * 0.05 }
        : { x: from.x + side * height * 0.06, y: from.y + height * 0.15 };
      const hand = raised
        ? { x: elbow.x + side * height * 0.02, y: elbow.y - height * 0.19 }
        : { x: elbow.x - side * height * 0.005, y: elbow.y + height * 0.15 };
      context.beginPath();
      context.moveTo(from.x, from.y);
      context.quadraticCurveTo(elbow.x, elbow.y, hand.x, hand.y);
      context.stroke();
    }
    context.fillRect(x + lean * 1.05 - height * 0.022, footY - height * 0.87, height * 0.044, height * 0.08);
    context.beginPath();
    context.ellipse(x + lean * 1.15, footY - height * 0.915, height * 0.055, height * 0.068, lean, 0, 7);
    context.fill();
  }

  /** The quay: planks across the bottom of the picture. */
  quay(y: number): void {
    const { context, random, hour } = this;
    const wood = mix("#8b6b4b", hour.figure, 0.25 + 0.55 * hour.night);
    for (let row = y, thickness = 0.02; row < this.height; row += thickness, thickness *= 1.25) {
      context.fillStyle = mix(wood, hour.figure, random.between(0, 0.3));
      context.fillRect(0, row, this.width, thickness);
      context.fillStyle = withAlpha("#000000", 0.3);
      context.fillRect(0, row, this.width, 0.0025);
    }
  }

  firework(x: number, y: number, radius: number, colour: string): void {
    const { context, random } = this;
    this.glow(x, y, radius * 1.7, colour, 0.55);
    context.globalCompositeOperation = "lighter";
    const rays = random.whole(46, 70);
    for (let i = 0; i < rays; i++) {
      const angle = (i / rays) * 2 * Math.PI + random.between(-0.05, 0.05);
      const reach = radius * random.between(0.62, 1.05);
      for (let step = 4; step <= 20; step++) {
        const share = step / 20;
        const px = x + Math.cos(angle) * reach * share;
        const py = y + Math.sin(angle) * reach * share + radius * 0.16 * share * share;
        context.globalAlpha = 0.25 + 0.75 * share * share;
        this.disc(px, py, radius * 0.0115 * (0.6 + share), share > 0.86 ? "#fff3d6" : colour);
      }
    }
    context.globalAlpha = 1;
    context.globalCompositeOperation = "source-over";
  }

  /** Lights far out of focus. */
  bokeh(count: number, top: number, bottom: number, size: number): void {
    const { context, random } = this;
    context.globalCompositeOperation = "lighter";
    for (let i = 0; i < count; i++) {
      context.globalAlpha = random.between(0.06, 0.3);
      this.disc(
        random.between(0, this.width),
        random.between(top, bottom),
        size * random.between(0.4, 1),
        random.pick(LANTERN_COLOURS),
      );
    }
    context.globalAlpha = 1;
    context.globalCompositeOperation = "source-over";
  }

  pennants(x1: number, y1: number, x2: number, y2: number, count: number): void {
    const { context, random, hour } = this;
    for (let i = 0; i < count; i++) {
      const t = (i + 0.5) / count;
      const x = x1 + (x2 - x1) * t;
      const y = y1 + (y2 - y1) * t + 0.3 * Math.abs(x2 - x1) * t * (1 - t);
      const size = (0.5 * Math.abs(x2 - x1)) / count;
      context.fillStyle = mix(random.pick(BOAT_COLOURS), hour.figure, hour.night * 0.5);
      context.beginPath();
      context.moveTo(x - size * 0.6, y);
      context.lineTo(x + size * 0.6, y);
      context.lineTo(x, y + size * 1.7);
      context.fill();
    }
  }

  /** A soft darkening of the corners and a grain like film, so that nothing looks like clip art. */
  finish(): void {
    const { context, random } = this;
    const far = Math.hypot(this.width, this.height) / 2;
    const gradient = context.createRadialGradient(
      this.width / 2,
      this.height / 2,
      far * 0.45,
      this.width / 2,
      this.height / 2,
      far,
    );
    gradient.addColorStop(0, "rgba(0,0,0,0)");
    gradient.addColorStop(1, "rgba(4,8,16,0.42)");
    context.fillStyle = gradient;
    context.fillRect(0, 0, this.width, this.height);
    const tile = createCanvas(160, 160);
    const grain = tile.getContext("2d");
    const data = grain.createImageData(160, 160);
    for (let i = 0; i < data.data.length; i += 4) {
      const value = 128 + 60 * (random.next() - 0.5);
      data.data.set([value, value, value, 26], i);
    }
    grain.putImageData(data, 0, 0);
    context.globalCompositeOperation = "overlay";
    context.save();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = context.createPattern(tile, "repeat");
    context.fillRect(0, 0, this.canvas.width, this.canvas.height);
    context.restore();
    context.globalCompositeOperation = "source-over";
  }
}

/** A colour between two, `share` of the way to the second. */
export function mix(from: string, to: string, share: number): string {
  const channels = [1, 3, 5].map((i) => {
    const [a, b] = [Number.parseInt(from.slice(i, i + 2), 16), Number.parseInt(to.slice(i, i + 2), 16)];
    return Math.round(a + (b - a) * share)
      .toString(16)
      .padStart(2, "0");
  });
  return `#${channels.join("")}`;
}

function withAlpha(colour: string, alpha: number): string {
  const [r, g, b] = [1, 3, 5].map((i) => Number.parseInt(colour.slice(i, i + 2), 16));
  return `rgba(${r},${g},${b},${alpha})`;
}
