import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { correctedGrid } from "../grid/index.ts";
import { MARKER_ORIGINS, type Marker, withMarkers } from "../show/index.ts";
import { propertyRuns, steadySong } from "../testing/index.ts";
import { ACCENT_REACH_SECONDS, detectedMarkers, MARKER_SPACINGS, markerPlaces, thinnedMarkers } from "./index.ts";

/** Sixteen bars of four beats at half a second, the first beat at 1 s. */
const song = {
  ...steadySong(16, 0.5, 4, 1),
  phrases: [1, 9, 17, 25],
  sections: [
    { startSeconds: 1, endSeconds: 17, label: "A" },
    { startSeconds: 17, endSeconds: 33, label: "B" },
  ],
  accents: [
    { seconds: 9.01, strength: 1 },
    { seconds: 3, strength: 0.5 },
  ],
};
const grid = correctedGrid(song, []);
const whole = { startSeconds: 0, endSeconds: song.durationSeconds };
const everyOrigin = new Set(MARKER_ORIGINS);
const marker = (seconds: number, more: Partial<Marker> = {}): Marker => ({
  id: `m${Math.round(1000 * seconds)}`,
  seconds,
  name: "",
  kind: "cut",
  origin: "tapped",
  ...more,
});
const times = (markers: readonly { seconds: number }[]): number[] => markers.map(({ seconds }) => seconds);

describe("places for markers", () => {
  it("are beats, seconds, bars, phrases, sections and accents of the stretch, its end excluded", () => {
    const stretch = { startSeconds: 3, endSeconds: 9 };
    const places = (spacing: (typeof MARKER_SPACINGS)[number], within = stretch) =>
      times(markerPlaces(song, grid, spacing, within));
    expect(places("beat")).toEqual([3, 3.5, 4, 4.5, 5, 5.5, 6, 6.5, 7, 7.5, 8, 8.5]);
    expect(places("second")).toEqual([3, 4, 5, 6, 7, 8]);
    expect(places("bar")).toEqual([3, 5, 7]);
    expect(places("phrase", whole)).toEqual([1, 9, 17, 25]);
    expect(places("accent", whole)).toEqual([3, 9.01]);
    expect(markerPlaces(song, grid, "section", whole)).toEqual([
      { seconds: 1, name: "A" },
      { seconds: 17, name: "B" },
    ]);
  });

  it("follow the corrected grid: phrases go with the bars", () => {
    const moved = correctedGrid(song, [{ kind: "oneHere", seconds: 1.5 }]);
    expect(times(markerPlaces(song, moved, "phrase", whole))).toEqual([1.5, 9.5, 17.5, 25.5]);
  });

  it("become markers that say where they come from and what they are", () => {
    const made = (spacing: "bar" | "section") =>
      detectedMarkers(markerPlaces(song, grid, spacing, whole), spacing).slice(0, 1);
    expect(made("section")).toEqual([{ seconds: 1, name: "A", kind: "section", origin: "detected" }]);
    expect(made("bar")).toEqual([{ seconds: 1, name: "", kind: "cut", origin: "detected" }]);
  });
});

describe("thinning out", () => {
  const thin = (markers: readonly Marker[], spacing: (typeof MARKER_SPACINGS)[number], more = {}) =>
    thinnedMarkers(markers, {
      places: markerPlaces(song, grid, spacing, whole),
      reachSeconds: spacing === "accent" ? ACCENT_REACH_SECONDS : null,
      within: whole,
      origins: everyOrigin,
      ...more,
    });
  const taps = Array.from({ length: 17 }, (_, i) => marker((1012 + i * 500) / 1000));

  it("leaves one a bar of taps on every beat, the one at the bar line", () => {
    expect(times(thin(taps, "bar"))).toEqual([1.012, 3.012, 5.012, 7.012, 9.012]);
  });

  it("keeps a lonely marker in the middle of its bar, but on accents only what is on one", () => {
    expect(times(thin([marker(4.1)], "bar"))).toEqual([4.1]);
    expect(times(thin([marker(3.06), marker(4.1), marker(9.05)], "accent"))).toEqual([3.06, 9.05]);
  });

  it("leaves sections, notes, other origins and what is out of the stretch alone", () => {
    const kept = [
      marker(5.1, { kind: "section" }),
      marker(5.2, { kind: "note" }),
      marker(5.3, { origin: "placed" }),
      marker(20.2),
      marker(20.7),
    ];
    const markers = [marker(5), marker(5.05), ...kept];
    const within = { startSeconds: 0, endSeconds: 20 };
    expect(thin(markers, "bar", { within, origins: new Set(["tapped"]) })).toEqual([marker(5), ...kept]);
  });

  it("never moves a marker, and does nothing the second time", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 34_000 }), { maxLength: 60 }),
        fc.constantFrom(...MARKER_SPACINGS),
        (millis, spacing) => {
          const markers = withMarkers(
            [],
            millis.map((ms) => marker(ms / 1000)),
          );
          const once = thin(markers, spacing);
          expect(markers).toEqual(expect.arrayContaining(once));
          expect(thin(once, spacing)).toEqual(once);
          // By hand: no two markers of the result share the place nearest to them.
          const places = times(markerPlaces(song, grid, spacing, whole));
          const own = once.map(({ seconds }) =>
            places.reduce((best, place) => (Math.abs(place - seconds) < Math.abs(best - seconds) ? place : best)),
          );
          expect(new Set(own).size).toBe(own.length);
        },
      ),
      { numRuns: propertyRuns },
    );
  });
});
