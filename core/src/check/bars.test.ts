import { describe, expect, it } from "vitest";
import { seededRandom } from "../testing/index.ts";
import { barsIn } from "./bars.ts";

const WIDTH = 256;
const HEIGHT = 144;

/** A picture from a function of the place, with the noise that an encoder leaves. */
function picture(code: (x: number, y: number) => number, noise = 2): Uint8Array {
  const random = seededRandom(7);
  const rgba = new Uint8Array(4 * WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const value = Math.max(0, Math.min(255, Math.round(code(x, y) + noise * random())));
      rgba.set([value, value, value, 255], 4 * (y * WIDTH + x));
    }
  return rgba;
}
const scene = (x: number, y: number): number => 90 + 60 * Math.sin(x / 9) + 40 * Math.cos(y / 5);

describe("bars in a picture", () => {
  it("are found at top and bottom or left and right, by the narrower of the two", () => {
    const letterboxed = picture((x, y) => (y < 18 || y >= HEIGHT - 20 ? 4 : scene(x, y)));
    expect(barsIn(letterboxed, WIDTH, HEIGHT)).toEqual({ edges: "top and bottom", share: 18 / HEIGHT });
    const pillared = picture((x, y) => (x < 30 || x >= WIDTH - 30 ? 4 : scene(x, y)));
    expect(barsIn(pillared, WIDTH, HEIGHT)).toEqual({ edges: "left and right", share: 30 / WIDTH });
  });

  it("are not a picture without them, one bar alone, a line, a black picture, or a night that fades into the dark", () => {
    const nothing = [
      picture(scene),
      picture((x, y) => (y < 18 ? 4 : scene(x, y))),
      picture((x, y) => (y < 2 || y >= HEIGHT - 2 ? 4 : scene(x, y))),
      picture(() => 3),
      picture((_, y) => Math.max(3, 60 - Math.abs(y - HEIGHT / 2))),
      // Lanterns on dark water under a dark sky: bright in the middle only.
      picture((x, y) => (Math.abs(y - 72) < 20 && x % 40 < 6 ? 220 : 5)),
      // Bars of another tone than dark are a frame that somebody wanted.
      picture((x, y) => (y < 18 || y >= HEIGHT - 18 ? 120 : scene(x, y))),
    ];
    for (const rgba of nothing) expect(barsIn(rgba, WIDTH, HEIGHT)).toBeNull();
  });
});
