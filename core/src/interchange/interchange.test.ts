import { describe, expect, it } from "vitest";
import { parseFilmReport, writeBeatsText } from "./index.ts";

describe("beat text", () => {
  it("has a line a beat: seconds, a tab, the position in the bar", () => {
    const text = writeBeatsText([
      { seconds: 0.35, position: 1 },
      { seconds: 0.9754321, position: 2 },
      { seconds: 1.6, position: 0 },
    ]);
    expect(text).toBe("0.350000\t1\n0.975432\t2\n1.600000\t0\n");
    expect(writeBeatsText([])).toBe("");
  });
});

describe("the film report", () => {
  const slot = (index: number, startFrame: number, endFrame: number) => ({
    index,
    source: `${index}.jpg`,
    startFrame,
    endFrame,
    landingSeconds: index ? startFrame / 25 : null,
    landingErrorMs: index ? 0 : null,
    transitionIn: { kind: "cut", startFrame, endFrame: startFrame },
  });
  const report = {
    fps: { num: 25, den: 1 },
    durationSeconds: 8,
    slots: [slot(0, 0, 100), slot(1, 100, 200)],
    music: { path: "song.wav", sha256: "0", filmStartSeconds: 0, songStartSeconds: 0 },
  };

  it("is read back as it was written", () => {
    expect(parseFilmReport(JSON.stringify(report))).toEqual(report);
  });

  it.each([
    ["not JSON", "{", /not JSON/],
    ["another file", JSON.stringify({ fps: 25 }), /fps/],
    ["a gap", JSON.stringify({ ...report, slots: [slot(0, 0, 99), slot(1, 100, 200)] }), /slot 1 runs from frame 100/],
    ["no slots", JSON.stringify({ ...report, slots: [] }), /slots/],
  ])("is refused with the place: %s", (_name, text, message) => {
    expect(() => parseFilmReport(text)).toThrow(message);
  });
});
