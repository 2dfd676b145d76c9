import { itemAt } from "@humming-tide/core/presence";
import { mix, type Painter } from "./painter.ts";
import { BOAT_COLOURS, LANTERN_COLOURS } from "./palette.ts";

/**
 * A scene paints one picture. `take` counts the pictures of the same scene, so that each is
 * composed differently.
 */
export type Scene = (painter: Painter, take: number) => void;

/** Boats on trestles being painted, by day: wide views, and strokes of fresh colour from near. */
export const painting: Scene = (p, take) => {
  if (take % 3 === 2) {
    hullFromNear(p);
    return;
  }
  const ground = p.height * 0.62;
  p.sky(ground);
  p.hills(ground);
  p.town(ground, p.width * 0.55, p.width);
  p.water(ground);
  p.quay(p.height * 0.72);
  const length = p.width * (take % 2 ? 0.62 : 0.48);
  const x = p.width * (take % 2 ? 0.5 : 0.58);
  const y = p.height * 0.76;
  for (const side of [-0.28, 0.28]) trestle(p, x + side * length, y + length * 0.06, length * 0.14);
  p.boat(x, y, length, { crew: 0, oars: false, lanterns: 0, colour: p.random.pick(BOAT_COLOURS) });
  p.figure(x - length * 0.42, p.height * 0.93, p.height * 0.36, 0.5);
  if (take % 2) p.figure(x + length * 0.3, p.height * 0.95, p.height * 0.33, -0.6, true);
  bucket(p, x - length * 0.24, p.height * 0.93, 0.04);
};

function hullFromNear(p: Painter): void {
  const { context, random } = p;
  const base = random.pick(BOAT_COLOURS);
  const fresh = random.pick(BOAT_COLOURS.filter((colour) => colour !== base));
  for (let row = 0; row * 0.13 < p.height + 0.13; row++) {
    const y = row * 0.13;
    context.fillStyle = mix(row % 2 ? base : mix(base, "#ffffff", 0.07), "#10202a", 0.05 + 0.04 * row);
    context.fillRect(0, y, p.width, 0.13);
    context.fillStyle = "rgba(0,0,0,0.25)";
    context.fillRect(0, y, p.width, 0.006);
  }
  context.lineCap = "round";
  for (let i = 0; i < 9; i++) {
    const y = p.height * 0.3 + i * 0.035;
    context.strokeStyle = mix(fresh, "#ffffff", random.between(0, 0.18));
    context.lineWidth = 0.036;
    context.beginPath();
    context.moveTo(p.width * 0.02, y);
    context.quadraticCurveTo(
      p.width * 0.4,
      y + random.between(-0.02, 0.02),
      p.width * random.between(0.5, 0.72),
      y + random.between(-0.012, 0.012),
    );
    context.stroke();
  }
  const tip = { x: p.width * 0.72, y: p.height * 0.5 };
  context.save();
  context.translate(tip.x, tip.y);
  context.rotate(0.45);
  context.fillStyle = fresh;
  context.fillRect(-0.1, -0.05, 0.12, 0.1);
  context.fillStyle = "#c7b48d";
  context.fillRect(0.0, -0.05, 0.09, 0.1);
  context.fillStyle = "#9aa4a6";
  context.fillRect(0.09, -0.055, 0.07, 0.11);
  context.fillStyle = "#7a4f2c";
  context.fillRect(0.16, -0.025, 0.45, 0.05);
  context.restore();
}

function trestle(p: Painter, x: number, y: number, height: number): void {
  p.context.strokeStyle = mix("#6b5238", p.hour.figure, 0.3);
  p.context.lineWidth = height * 0.1;
  for (const side of [-1, 1]) {
    p.context.beginPath();
    p.context.moveTo(x, y);
    p.context.lineTo(x + side * height * 0.4, y + height);
    p.context.stroke();
  }
}

function bucket(p: Painter, x: number, footY: number, size: number): void {
  p.context.fillStyle = "#6f7d80";
  p.context.fillRect(x - size / 2, footY - size, size, size);
  p.context.fillStyle = p.random.pick(BOAT_COLOURS);
  p.context.fillRect(x - size / 2, footY - size, size, size * 0.25);
}

/** The crews on the quay: a row of people with oars held upright. */
export const crews: Scene = (p, take) => {
  const horizon = p.height * 0.55;
  p.sky(horizon);
  p.hills(horizon);
  p.town(horizon, 0, p.width * 0.5);
  p.water(horizon);
  p.quay(p.height * 0.8);
  p.pennants(0, p.height * 0.1, p.width, p.height * 0.06, 16);
  const count = p.width < 0.9 * p.height ? 3 : itemAt([5, 7, 4, 6, 5, 8], take % 6);
  const height = p.height * 0.4;
  for (let i = 0; i < count; i++) {
    const x = (p.width * (i + 0.7)) / (count + 0.4);
    const foot = p.height * 0.92 + p.random.between(-0.01, 0.02);
    const tall = height * p.random.between(0.92, 1.04);
    if (i % 2 === take % 2) {
      p.context.strokeStyle = mix("#b48a58", p.hour.figure, 0.3);
      p.context.lineWidth = tall * 0.03;
      p.context.beginPath();
      p.context.moveTo(x + tall * 0.2, foot);
      p.context.lineTo(x + tall * 0.21, foot - tall * 1.35);
      p.context.stroke();
      p.context.fillStyle = p.random.pick(BOAT_COLOURS);
      p.context.beginPath();
      p.context.ellipse(x + tall * 0.21, foot - tall * 1.35, tall * 0.045, tall * 0.16, 0, 0, 7);
      p.context.fill();
    }
    p.figure(x, foot, tall, p.random.between(-0.5, 0.5), i % 3 === 1);
  }
};

/** Lanterns being lit: one from near, ropes of them, a harbour full. */
export const lanterns: Scene = (p, take) => {
  const horizon = p.height * 0.66;
  p.sky(horizon);
  p.hills(horizon);
  p.water(horizon);
  switch (take % 3) {
    case 0: {
      p.bokeh(46, p.height * 0.25, p.height * 0.9, 0.075);
      const x = p.width * p.random.between(0.38, 0.62);
      p.lantern(x, p.height * 0.48, 0.24, LANTERN_COLOURS[take % LANTERN_COLOURS.length]);
      p.lantern(x + 0.44, p.height * 0.3, 0.11);
      p.lantern(x - 0.42, p.height * 0.36, 0.09);
      break;
    }
    case 1:
      p.town(horizon, 0, p.width);
      for (let i = 0; i < 4; i++)
        p.lanternRope(
          -0.1,
          p.height * (0.06 + i * 0.12),
          p.width + 0.1,
          p.height * (0.02 + i * 0.13),
          6 + i * 2,
          0.062 - i * 0.011,
        );
      p.quay(p.height * 0.86);
      for (let i = 0; i < 4; i++)
        p.figure(p.width * (0.2 + 0.2 * i), p.height * 0.97, p.height * 0.24, p.random.between(-0.8, 0.8), i % 2 === 0);
      break;
    default:
      for (let i = 0; i < 34; i++) {
        const depth = p.random.next() ** 1.4;
        const y = horizon + 0.02 + depth * (p.height - horizon - 0.06);
        const size = 0.012 + 0.04 * depth;
        const x = p.random.between(0, p.width);
        p.reflection(x, y + size, size * 6, "#ff9d4d", size);
        p.lantern(x, y, size);
      }
  }
};

/** The race at blue hour: boats with lanterns at the bow, near and far. */
export const race: Scene = (p, take) => {
  const horizon = p.height * (take % 2 ? 0.42 : 0.5);
  p.sky(horizon);
  if (take % 3 !== 1) p.moon(p.width * (take % 2 ? 0.78 : 0.22), horizon * 0.4, 0.05);
  p.hills(horizon);
  p.town(horizon, p.width * 0.2, p.width * 0.75);
  p.water(horizon);
  const boats = itemAt([3, 1, 4, 2, 5], take % 5);
  for (let i = 0; i < boats; i++) {
    const depth = (i + 0.6) / boats;
    const length = (boats === 1 ? 0.95 : 0.26 + 0.42 * depth) * Math.min(1, p.width);
    const x = p.width * (boats === 1 ? 0.48 : 0.22 + 0.56 * ((i * 0.62 + take * 0.23) % 1));
    const y = horizon + 0.06 + depth * (p.height - horizon - 0.16);
    wake(p, x - length * 0.5, y + length * 0.05, length);
    p.boat(x, y, length, { crew: 4, lanterns: 2 });
  }
};

function wake(p: Painter, x: number, y: number, length: number): void {
  for (let i = 0; i < 60; i++) {
    p.context.globalAlpha = 0.16 * (1 - i / 60);
    p.context.fillStyle = "#e9f1ea";
    const back = x - (length * 0.7 * i) / 60 + length * 0.1;
    p.context.fillRect(back, y + p.random.between(-0.006, 0.012), p.random.between(0.01, 0.06), 0.003);
  }
  p.context.globalAlpha = 1;
}

/** The prize: the cup lifted among lanterns, and the crew that won it. */
export const prize: Scene = (p, take) => {
  const horizon = p.height * 0.6;
  p.sky(horizon);
  p.hills(horizon);
  p.water(horizon);
  p.bokeh(30, p.height * 0.1, p.height * 0.75, 0.05);
  p.pennants(0, p.height * 0.05, p.width, p.height * 0.08, 14);
  if (take % 2 === 0) {
    cup(p, p.width / 2, p.height * 0.52, Math.min(p.width, p.height) * 0.3);
    return;
  }
  p.quay(p.height * 0.85);
  for (let i = -2; i <= 2; i++)
    p.figure(
      p.width / 2 + i * 0.17,
      p.height * 0.97,
      p.height * (0.42 - 0.02 * Math.abs(i)),
      i === 0 ? 1 : i * 0.4,
      i === -1,
    );
  cup(p, p.width / 2 + 0.1, p.height * 0.47, 0.075);
};

function cup(p: Painter, x: number, y: number, size: number): void {
  const { context } = p;
  p.glow(x, y, size * 2.4, "#ffc766", 0.4);
  const gold = context.createLinearGradient(x - size * 0.6, 0, x + size * 0.6, 0);
  ["#7a5220", "#f6d27a", "#fff4cf", "#d79a3c", "#6b4518"].forEach((colour, i) => gold.addColorStop(i / 4, colour));
  context.strokeStyle = gold;
  context.lineWidth = size * 0.09;
  for (const side of [-1, 1]) {
    context.beginPath();
    context.ellipse(x + side * size * 0.56, y - size * 0.28, size * 0.2, size * 0.3, 0, 0, 7);
    context.stroke();
  }
  context.fillStyle = gold;
  context.beginPath();
  context.moveTo(x - size * 0.56, y - size * 0.75);
  context.quadraticCurveTo(x - size * 0.5, y + size * 0.25, x - size * 0.1, y + size * 0.38);
  context.lineTo(x - size * 0.08, y + size * 0.72);
  context.lineTo(x - size * 0.36, y + size * 0.9);
  context.lineTo(x + size * 0.36, y + size * 0.9);
  context.lineTo(x + size * 0.08, y + size * 0.72);
  context.lineTo(x + size * 0.1, y + size * 0.38);
  context.quadraticCurveTo(x + size * 0.5, y + size * 0.25, x + size * 0.56, y - size * 0.75);
  context.fill();
  context.beginPath();
  context.ellipse(x, y - size * 0.75, size * 0.56, size * 0.09, 0, 0, 7);
  context.fillStyle = "#5a3c14";
  context.fill();
}

/** The dance on the quay under ropes of lanterns. */
export const dance: Scene = (p, take) => {
  const horizon = p.height * 0.58;
  p.sky(horizon);
  p.hills(horizon);
  p.town(horizon, 0, p.width);
  p.water(horizon);
  p.quay(p.height * 0.74);
  p.glow(p.width / 2, p.height * 0.72, p.width * 0.7, "#ff9a4a", 0.3);
  for (let i = 0; i < 3; i++)
    p.lanternRope(
      -0.05,
      p.height * (0.1 + 0.1 * i),
      p.width + 0.05,
      p.height * (0.14 + 0.08 * i),
      7 + 2 * i,
      0.05 - i * 0.009,
    );
  const pairs = itemAt([3, 1, 4, 2, 5], take % 5);
  const height = p.height * (pairs === 1 ? 0.56 : pairs === 2 ? 0.44 : 0.31);
  for (let i = 0; i < pairs; i++) {
    const x = (p.width * (i + 0.6)) / (pairs + 0.2);
    const foot = p.height * (pairs <= 2 ? 0.97 : 0.86 + 0.1 * ((i * 0.6) % 1));
    const swing = p.random.between(0.5, 1) * (i % 2 ? -1 : 1);
    p.figure(x - height * 0.14, foot, height, swing);
    p.figure(x + height * 0.14, foot, height * 0.94, -swing, true);
  }
};

const FIREWORK_COLOURS = ["#ffb95e", "#ff7d6b", "#8fd3c7", "#c9a4ea", "#ffe6a8", "#7fb2e6"] as const;

/** Fireworks over the harbour, seen by those who stayed. */
export const fireworks: Scene = (p, take) => {
  const horizon = p.height * 0.74;
  p.sky(horizon);
  const bursts = itemAt([3, 1, 4, 2, 5], take % 5);
  p.hills(horizon);
  p.town(horizon, 0, p.width);
  p.water(horizon);
  for (let i = 0; i < bursts; i++) {
    const x = p.width * (bursts === 1 ? 0.5 : 0.16 + (0.68 * i) / (bursts - 1)) + p.random.between(-0.06, 0.06);
    const y = p.height * p.random.between(0.2, 0.42);
    const colour = itemAt(FIREWORK_COLOURS, (take + i * 2) % FIREWORK_COLOURS.length);
    p.firework(x, y, p.height * (bursts === 1 ? 0.34 : p.random.between(0.14, 0.25)), colour);
    p.reflection(x, horizon + 0.01, p.height * 0.2, colour, 0.08);
  }
  if (take % 2)
    for (let i = 0; i < 5; i++)
      p.figure(p.width * (0.12 + 0.19 * i), p.height * 1.01, p.height * 0.2, p.random.between(-0.3, 0.3), i % 2 === 1);
  else p.boat(p.width * 0.3, p.height * 0.88, 0.34, { crew: 2, oars: false });
};
