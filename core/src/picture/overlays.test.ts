import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import type { PapersPart } from "./frame-plan.ts";
import { grainTile, overlayPart, type PlannedOverlay } from "./overlays.ts";

const SIZE = { width: 960, height: 540 };
const overlay = (kind: PlannedOverlay["kind"], strength = 0.5): PlannedOverlay => ({
  kind,
  strength,
  seed: 7,
  framesPerSecond: 25,
});

describe("overlays", () => {
  it("are the same in the same frame and others in the next; another seed makes others", () => {
    for (const kind of ["glow", "confetti", "grain"] as const) {
      const text = (frame: number, seed = 7) => JSON.stringify(overlayPart({ ...overlay(kind), seed }, frame, SIZE));
      expect(text(100)).toBe(text(100));
      expect(text(100)).not.toBe(text(101));
      expect(text(100)).not.toBe(text(100, 8));
    }
  });

  it("confetti falls: every paper goes down by less than a tenth of the frame a frame, and comes back at the top", () => {
    const middles = (frame: number): number[] =>
      (overlayPart(overlay("confetti"), frame, SIZE) as PapersPart).papers.map(
        ({ corners }) => corners.reduce((sum, { y }) => sum + y, 0) / corners.length,
      );
    let returned = 0;
    for (let frame = 0; frame < 400; frame++) {
      const [now, next] = [middles(frame), middles(frame + 1)];
      for (const [i, y] of now.entries()) {
        const by = itemAt(next, i) - y;
        if (by < 0) returned++;
        else expect(by).toBeLessThan(0.1 * SIZE.height);
      }
    }
    expect(returned).toBeGreaterThan(20);
    expect((overlayPart(overlay("confetti", 1), 0, SIZE) as PapersPart).papers.length).toBe(90);
    expect((overlayPart(overlay("confetti", 0), 0, SIZE) as PapersPart).papers.length).toBe(0);
  });

  it("grain lightens as much as it darkens: its tile has no tone of its own", () => {
    const tile = grainTile();
    let sum = 0;
    let strongest = 0;
    for (let i = 0; i < tile.length; i += 4) {
      sum += (itemAt(tile, i) > 0 ? 1 : -1) * itemAt(tile, i + 3);
      strongest = Math.max(strongest, itemAt(tile, i + 3));
    }
    expect(Math.abs(sum) / (tile.length / 4)).toBeLessThan(0.2);
    expect(strongest).toBeGreaterThan(60);
    expect(grainTile().every((code, i) => code === tile[i])).toBe(true);
  });
});
