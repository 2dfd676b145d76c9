import { analyseMusic } from "@humming-tide/core/music";
import { itemAt } from "@humming-tide/core/presence";
import { shippedBeatNetwork } from "@humming-tide/server";
import { describe, expect, it } from "vitest";
import { speakGreeting } from "./greeting.ts";

describe("the greeting", () => {
  const { samples, sampleRate, spoken } = speakGreeting();
  const level = (from: number, to: number): number => {
    const piece = samples.subarray(Math.round(from * sampleRate), Math.round(to * sampleRate));
    return Math.sqrt(piece.reduce((sum, value) => sum + value * value, 0) / piece.length);
  };

  it("is heard where its truth says that someone speaks, and silent between", () => {
    expect(spoken).toHaveLength(3);
    for (const { startSeconds, endSeconds } of spoken) expect(level(startSeconds, endSeconds)).toBeGreaterThan(0.02);
    expect(level(itemAt(spoken, 0).endSeconds + 0.02, itemAt(spoken, 1).startSeconds - 0.02)).toBeLessThan(0.002);
    expect(level(0, itemAt(spoken, 0).startSeconds)).toBe(0);
  });

  it("is no music: whoever listens for a beat finds none", () => {
    // At the analysis's rate by repeating samples: nobody minds how it sounds.
    const times = Math.round(44_100 / sampleRate);
    const sound = Float32Array.from({ length: samples.length * times }, (_, i) =>
      itemAt(samples, Math.floor(i / times)),
    );
    expect(analyseMusic({ samples: sound, sampleRate: 44_100 }, shippedBeatNetwork()).steady).toBe(false);
  });

  it("never clips", () => {
    const peak = samples.reduce((highest, value) => Math.max(highest, Math.abs(value)), 0);
    expect(peak).toBeGreaterThan(0.1);
    expect(peak).toBeLessThan(1);
  });
});
