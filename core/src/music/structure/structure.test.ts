import { describe, expect, it } from "vitest";
import { itemAt, valueFor } from "../../presence/index.ts";
import { seededNormal, seededRandom } from "../../testing/index.ts";
import { meterName } from "../beats/meter.ts";
import type { BarFeatures } from "./bar-features.ts";
import { findDoubts } from "./doubts.ts";
import { phraseBars, phraseStarts } from "./phrases.ts";
import { findSections } from "./sections.ts";

/** Bars of a song spelled by letters: the same letter is the same sound, up to a little noise. */
function barsOf(spelling: string, noise = 0.15): BarFeatures {
  const length = 40;
  const normal = seededNormal(seededRandom(7));
  const sounds = new Map<string, number[]>();
  const rows = new Float32Array(spelling.length * length);
  for (const [bar, letter] of [...spelling].entries()) {
    if (!sounds.has(letter)) sounds.set(letter, Array.from({ length }, normal));
    const row = valueFor(sounds, letter).map((value) => value + noise * normal());
    const size = Math.hypot(...row);
    row.forEach((value, i) => (rows[bar * length + i] = value / size));
  }
  return { barCount: spelling.length, length, rows };
}

const unheard = (count: number): number[] => new Array<number>(count).fill(-4);

describe("sections", () => {
  it("begin where other music begins, and the same music has the same letter", () => {
    const song = barsOf("iiii" + "abcdabcd" + "efghefgh" + "abcdabcd" + "efghefgh");
    const odds = unheard(song.barCount);
    for (const bar of [4, 12, 20, 28]) odds[bar] = 1;
    expect(findSections(song, odds).map(({ firstBar, label }) => [firstBar, label])).toEqual([
      [0, "A"],
      [4, "B"],
      [12, "C"],
      [20, "B"],
      [28, "C"],
    ]);
  });

  it("are one where nothing changes, and none without bars", () => {
    expect(findSections(barsOf("a".repeat(24)), unheard(24)).map((run) => run.label)).toEqual(["A"]);
    expect(findSections(barsOf(""), [])).toEqual([]);
  });
});

describe("phrases", () => {
  it.each([
    ["abcd".repeat(6), 4],
    ["abcdefgh".repeat(4), 8],
    ["abc".repeat(8), 3],
    ["abcdefghijklmnopqrst", 4],
  ])("of %s have %i bars", (spelling, bars) => {
    expect(phraseBars(barsOf(spelling))).toBe(bars);
  });

  it("start with each section, and a short rest belongs to the one before", () => {
    const runs = [
      { firstBar: 0, endBar: 9, label: "A" },
      { firstBar: 9, endBar: 16, label: "B" },
    ];
    expect(phraseStarts(runs, 4)).toEqual([0, 4, 9, 13]);
  });
});

describe("the meter's name", () => {
  const played = (fractions: readonly number[]): string => {
    const beats = Array.from({ length: 40 }, (_, i) => 1 + i * 0.8);
    const onsets = new Float32Array(4000);
    for (const beat of beats) for (const fraction of fractions) onsets[Math.round((beat + fraction * 0.8) * 100)] = 5;
    return meterName(2, beats, onsets);
  };
  it("counts three to a beat as eighths, but not swing", () => {
    expect(played([0, 1 / 3, 2 / 3])).toBe("6/8");
    expect(played([0, 1 / 2])).toBe("2/4");
    expect(played([0, 2 / 3])).toBe("2/4");
  });
});

describe("doubts", () => {
  const beats = (change: (i: number) => object = () => ({})) =>
    Array.from({ length: 24 }, (_, i) => ({
      seconds: i * 0.5,
      position: (i % 4) + 1,
      beatsPerBar: 4,
      confidence: 0.9,
      ...change(i),
    }));

  it("are none where all is well", () => {
    expect(findDoubts(beats(), [])).toEqual([]);
  });

  it("are faint beats, jumps of the pulse, another count, and free time, neighbours joined", () => {
    const faint = findDoubts(
      beats((i) => (i >= 8 && i < 12 ? { confidence: 0.1 } : {})),
      [],
    );
    expect(faint).toMatchObject([{ reason: "faint" }]);
    expect(itemAt(faint, 0).startSeconds).toBeGreaterThanOrEqual(3.5);
    expect(itemAt(faint, 0).endSeconds).toBeLessThanOrEqual(7);
    expect(
      findDoubts(
        beats((i) => (i >= 12 ? { seconds: i * 0.5 + 0.2 } : {})),
        [],
      ),
    ).toMatchObject([{ startSeconds: 5.5, reason: "tempo" }]);
    expect(
      findDoubts(
        beats((i) => (i >= 10 ? { position: ((i - 10) % 4) + 1 } : {})),
        [],
      ),
    ).toMatchObject([{ startSeconds: 4.5, reason: "bar" }]);
    // 36 s at double tempo before 60 s of the song: all of it, not only its edge.
    const [fast, slow] = [Array.from({ length: 144 }, (_, i) => i * 0.25), beats((i) => ({ seconds: 36 + i * 0.5 }))];
    const all = [
      ...fast.map((seconds, i) => ({ seconds, position: (i % 4) + 1, beatsPerBar: 4, confidence: 0.9 })),
      ...slow,
      ...slow.map((beat) => ({ ...beat, seconds: beat.seconds + 12 })),
      ...slow.map((beat) => ({ ...beat, seconds: beat.seconds + 24 })),
      ...slow.map((beat) => ({ ...beat, seconds: beat.seconds + 36 })),
      ...slow.map((beat) => ({ ...beat, seconds: beat.seconds + 48 })),
    ];
    const [level, ...more] = findDoubts(all, []);
    expect(more).toEqual([]);
    expect(level).toMatchObject({ startSeconds: 0, reason: "level" });
    expect(Math.abs((level?.endSeconds ?? 0) - 36)).toBeLessThan(2);
    const free = { startSeconds: 20, endSeconds: 30 };
    expect(findDoubts(beats(), [free])).toEqual([{ ...free, reason: "free" }]);
  });
});
