import { Painter } from "../pictures/painter.ts";
import { DUSK, type Hour, NIGHT } from "../pictures/palette.ts";
import { race } from "../pictures/scenes.ts";
import { Random } from "../random.ts";

export const CLIP_FRAME_RATE = 25;

export interface DemoClip {
  readonly fileName: string;
  readonly width: number;
  readonly height: number;
  readonly seconds: number;
  /** The second at which the thing happens that a cutter would put on an accent. */
  readonly momentSeconds: number;
  /** Frames in order as RGBA bytes; each is valid until the next is asked for. */
  frames(): Generator<Buffer>;
}

interface Motion {
  readonly hour: Hour;
  /** What stands still behind everything, painted once. */
  still(painter: Painter): void;
  /** What moves, painted at every frame; `time` in seconds. */
  moving(painter: Painter, time: number): void;
}

function clip(
  fileName: string,
  size: readonly [number, number],
  seconds: number,
  momentSeconds: number,
  motion: Motion,
): DemoClip {
  const [width, height] = size;
  return {
    fileName,
    width,
    height,
    seconds,
    momentSeconds,
    *frames() {
      const behind = new Painter(width, height, motion.hour, new Random(fileName.length * 31));
      motion.still(behind);
      for (let frame = 0; frame < seconds * CLIP_FRAME_RATE; frame++) {
        // The same seed at every frame: what is drawn by chance stays the same, only time moves.
        const painter = new Painter(width, height, motion.hour, new Random(77));
        painter.context.drawImage(behind.canvas, 0, 0, painter.width, painter.height);
        motion.moving(painter, frame / CLIP_FRAME_RATE);
        yield painter.canvas.data();
      }
    },
  };
}

/** Sky, hills, town and water down to `horizon` (a share of the height). */
function harbour(painter: Painter, horizon: number): void {
  const y = painter.height * horizon;
  painter.sky(y);
  painter.hills(y);
  painter.town(y, 0, painter.width);
  painter.water(y);
}

const WIDE = [1280, 720] as const;

/** Four short clips of the closing night. */
export const CLIPS: readonly DemoClip[] = [
  clip("clip 1 a boat goes by.mp4", WIDE, 5, 2.5, {
    hour: DUSK,
    still: (p) => race(p, 1),
    moving(p, time) {
      p.boat(-0.4 + time * 0.5, p.height * (0.86 + 0.006 * Math.sin(time * 3)), 0.62, {
        crew: 4,
        lanterns: 2,
        colour: "#b8483f",
      });
    },
  }),
  clip("clip 2 a lantern in the wind.mp4", WIDE, 4, 2, {
    hour: DUSK,
    still(p) {
      harbour(p, 0.7);
      p.bokeh(40, p.height * 0.3, p.height * 0.9, 0.07);
    },
    moving(p, time) {
      const swing = Math.sin(time * 2.1);
      p.lantern(p.width * 0.5 + 0.05 * swing, p.height * (0.45 + 0.008 * swing * swing), 0.24, "#ffb347");
    },
  }),
  clip("clip 3 the dance.mp4", [720, 1280], 4, 1.5, {
    hour: NIGHT,
    still(p) {
      harbour(p, 0.58);
      p.quay(p.height * 0.74);
      p.glow(p.width / 2, p.height * 0.82, p.width * 0.9, "#ff9a4a", 0.4);
      for (let i = 0; i < 3; i++)
        p.lanternRope(-0.05, p.height * (0.12 + 0.1 * i), p.width + 0.05, p.height * (0.16 + 0.08 * i), 5 + i, 0.05);
    },
    moving(p, time) {
      const swing = Math.sin((time * 2 * Math.PI * 138) / 180);
      p.figure(p.width * 0.38, p.height * 0.95, p.height * 0.3, swing);
      p.figure(p.width * 0.62, p.height * 0.95, p.height * 0.28, -swing, true);
    },
  }),
  clip("clip 4 the last rocket.mp4", WIDE, 5, 1.6, {
    hour: NIGHT,
    still: (p) => harbour(p, 0.74),
    moving(p, time) {
      const burst = time - 1.6;
      if (burst < 0) p.glow(p.width * 0.5, p.height * (0.74 - 0.28 * time), 0.03, "#ffe6a8");
      else {
        p.context.globalAlpha = Math.max(0, 1 - burst / 3.2);
        p.firework(
          p.width * 0.5,
          p.height * (0.28 + 0.01 * burst * burst),
          p.height * 0.34 * (1 - Math.exp(-burst * 3)),
          "#ffb95e",
        );
        p.context.globalAlpha = 1;
      }
    },
  }),
];
