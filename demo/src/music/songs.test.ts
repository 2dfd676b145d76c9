import { analyseMusic } from "@humming-tide/core/music";
import { itemAt, lastOf } from "@humming-tide/core/presence";
import { shippedBeatNetwork } from "@humming-tide/server";
import { describe, expect, it } from "vitest";
import { composeSong, SONGS } from "./songs.ts";

/**
 * The truth of a composed song are the times that its notes were placed by; the analysis knows
 * nothing of them.
 */
describe.each(SONGS)("$name", (plan) => {
  const { sound, truth } = composeSong(plan);
  const samples = sound.left.map((value, i) => (value + itemAt(sound.right, i)) / 2);
  const analysis = analyseMusic({ samples, sampleRate: sound.sampleRate }, shippedBeatNetwork());
  const distance = (time: number, times: readonly number[]): number =>
    Math.min(...times.map((t) => Math.abs(t - time)));

  it("is heard with all its beats, 99 in 100 within half a frame at 25 fps, and none beside", () => {
    const found = analysis.beats.map((beat) => beat.seconds);
    const errors = truth.beats.map((beat) => distance(beat.seconds, found));
    expect(errors.filter((error) => error <= 0.02).length).toBeGreaterThanOrEqual(0.99 * errors.length);
    expect(errors.filter((error) => error <= 0.07).length).toBe(errors.length);
    expect(Math.abs(found.length - truth.beats.length)).toBeLessThanOrEqual(2);
  });

  it("has its bars counted right", () => {
    expect(analysis.meter).toBe(`${truth.beatsPerBar}/4`);
    const starts = truth.beats.filter((beat) => beat.position === 1);
    const hits = starts.filter((beat) => distance(beat.seconds, analysis.bars) <= 0.07).length;
    expect(hits / starts.length).toBeGreaterThan(0.95);
  });

  it("rings out and is the same every time", () => {
    const end = lastOf(truth.beats).seconds;
    expect(analysis.musicEndSeconds).toBeGreaterThan(end + 1);
    const again = composeSong(plan).sound.left;
    // Compared as bytes: an element by element comparison of eight million samples takes a minute.
    expect(Buffer.from(again.buffer).equals(Buffer.from(sound.left.buffer))).toBe(true);
    expect(sound.left.reduce((peak, value) => Math.max(peak, Math.abs(value)), 0)).toBeLessThanOrEqual(0.8901);
  });
});
