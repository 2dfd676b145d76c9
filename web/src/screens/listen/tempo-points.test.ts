import { itemAt, present } from "@humming-tide/core/presence";
import { describe, expect, it } from "vitest";
import { tempoPoints } from "./tempo-points.ts";

const at = (seconds: number) => ({ seconds, position: 0, confidence: 1 });

describe("the tempo over a song", () => {
  it("is that of the beats around each beat, and goes with a tempo that changes evenly", () => {
    // Distances of 0.5, 0.51, 0.52 …: the mean of an even number of them around a beat is by hand
    // 0.5 + 0.01 * (i - 0.5).
    const beats = Array.from({ length: 20 }, (_, i) => at(0.5 * i + (0.01 * i * (i - 1)) / 2));
    const points = tempoPoints(beats, []);
    expect(points).toHaveLength(20);
    for (let i = 2; i < 18; i++) expect(60 / present(itemAt(points, i).bpm)).toBeCloseTo(0.5 + 0.01 * (i - 0.5), 9);
  });

  it("breaks off across free time, and a lone beat has none", () => {
    const beats = [0, 0.5, 1, 9, 20, 20.4, 20.8].map(at);
    const free = [
      { startSeconds: 1.2, endSeconds: 8 },
      { startSeconds: 10, endSeconds: 19 },
    ];
    const points = tempoPoints(beats, free);
    expect(points.map(({ bpm }) => bpm && Math.round(bpm))).toEqual([120, 120, 120, null, 150, 150, 150]);
    expect(points.map(({ seconds }) => seconds)).toEqual([0, 0.5, 1, 20, 20, 20.4, 20.8]);
    expect(tempoPoints([], [])).toEqual([]);
  });
});
