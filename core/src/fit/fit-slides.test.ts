import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { explainFit, type FitRequest, fitSlides, LONGEST_SLOT_SECONDS, SHORTEST_SLOT_SECONDS } from "./index.ts";
import { TOLERANCE_SECONDS } from "./lay-run.ts";

const slides = (count: number, locks: Readonly<Record<number, number>> = {}) =>
  Array.from({ length: count }, (_, i) => ({
    id: `s${i}`,
    rating: "keep" as const,
    landingLockSeconds: locks[i] ?? null,
  }));

const beats = (count: number, gap = 0.5, from = 0.2, beatsPerBar = 4) =>
  Array.from({ length: count }, (_, i) => ({ seconds: from + i * gap, position: (i % beatsPerBar) + 1 }));

const request = (more: Partial<FitRequest>): FitRequest => ({
  slides: slides(10),
  beats: beats(100),
  beatsPerBar: 4,
  endSeconds: 50,
  pace: { kind: "auto" },
  ...more,
});

const anyRequest = fc.record({
  slides: fc.integer({ min: 1, max: 70 }).map((count) => slides(count)),
  beats: fc
    .record({ count: fc.integer({ min: 0, max: 150 }), gap: fc.double({ min: 0.28, max: 1.1, noNaN: true }) })
    .map(({ count, gap }) => beats(count, gap)),
  beatsPerBar: fc.constant(4),
  endSeconds: fc.double({ min: 0.6, max: 120, noNaN: true }),
  pace: fc.oneof(
    fc.constant({ kind: "auto" as const }),
    fc.constant({ kind: "bar" as const }),
    fc.integer({ min: 1, max: 20 }).map((count) => ({ kind: "beats" as const, count })),
  ),
});

describe("fitting slides to a song", () => {
  it("keeps every slide in order, on beats, and accounts for each of them", () => {
    fc.assert(
      fc.property(anyRequest, (asked) => {
        const { slots, leftOut, repeats } = fitSlides(asked);
        const beatTimes = new Set(asked.beats.map((beat) => beat.seconds));
        expect(slots[0]!.landing).toBeNull();
        let before = 0;
        for (const { landing } of slots.slice(1)) {
          expect(landing!.seconds).toBeGreaterThan(before);
          expect(landing!.seconds).toBeLessThan(asked.endSeconds);
          if (asked.beats.length > 0) expect(beatTimes.has(landing!.seconds)).toBe(true);
          before = landing!.seconds;
        }
        const shown = new Set(slots.map((slot) => slot.slideIndex));
        expect(shown.size + leftOut.length).toBe(asked.slides.length);
        expect(repeats).toBe(Math.max(0, slots.length - asked.slides.length));
        const firstRound = slots.slice(0, asked.slides.length).map((slot) => slot.slideIndex);
        expect(firstRound).toEqual([...firstRound].sort((a, b) => a - b));
        expect(fitSlides(asked)).toEqual({ slots, leftOut, repeats, unmetLocks: [], steady: asked.beats.length > 0 });
      }),
      { numRuns: 500 },
    );
  });

  it("never makes a slot of the best fit shorter than the shortest", () => {
    fc.assert(
      fc.property(anyRequest, (asked) => {
        const auto = { ...asked, pace: { kind: "auto" as const } };
        const times = [
          0,
          ...fitSlides(auto)
            .slots.slice(1)
            .map(({ landing }) => landing!.seconds),
          asked.endSeconds,
        ];
        if (times.length === 2) return;
        for (let i = 1; i < times.length; i++) {
          expect(times[i]! - times[i - 1]!).toBeGreaterThanOrEqual(SHORTEST_SLOT_SECONDS - TOLERANCE_SECONDS);
        }
      }),
      { numRuns: 500 },
    );
  });

  it("lays 54 stills into 4:03 at 4.5 s each (common practice)", () => {
    const { slots, leftOut } = fitSlides(request({ slides: slides(54), beats: beats(486), endSeconds: 243 }));
    expect(slots).toHaveLength(54);
    expect(leftOut).toEqual([]);
    const lengths = slots.slice(1).map(({ landing }, i) => landing!.seconds - (slots[i]!.landing?.seconds ?? 0));
    expect(lengths.reduce((sum, length) => sum + length, 0) / lengths.length).toBeCloseTo(4.5, 0);
  });

  it("changes every n beats from the first bar start, and on every bar", () => {
    const two = fitSlides(request({ pace: { kind: "beats", count: 2 } })).slots.slice(1);
    two.forEach(({ landing }) => expect(landing!.beatIndex % 2).toBe(0));
    const gaps = two.slice(1).map(({ landing }, i) => landing!.beatIndex - two[i]!.landing!.beatIndex);
    expect(new Set(gaps)).toEqual(new Set([2]));
    const bars = fitSlides(request({ pace: { kind: "bar" } })).slots.slice(1);
    expect(bars.every(({ landing }) => landing!.kind === "bar")).toBe(true);
  });

  it("leaves out evenly where there are too many, and keeps the first and the last", () => {
    const { slots, leftOut } = fitSlides(request({ slides: slides(200) }));
    expect(slots[0]!.slideIndex).toBe(0);
    expect(slots.at(-1)!.slideIndex).toBe(199);
    expect(leftOut.length).toBe(200 - slots.length);
  });

  it("repeats in rounds where there are too few, and lets a single one stand", () => {
    const few = fitSlides(request({ slides: slides(3), beats: beats(200), endSeconds: 100 }));
    expect(few.slots.map((slot) => slot.slideIndex)).toEqual([0, 1, 2, 0, 1, 2, 0, 1, 2, 0]);
    expect(few.slots.length).toBe(100 / LONGEST_SLOT_SECONDS);
    expect(fitSlides(request({ slides: slides(1) })).slots).toHaveLength(1);
    expect(fitSlides(request({ slides: slides(1), pace: { kind: "bar" } })).slots).toHaveLength(1);
  });

  it("keeps locks on the beat nearest to them and lays the rest around", () => {
    const { slots, unmetLocks } = fitSlides(request({ slides: slides(10, { 4: 30.14, 7: 36.2 }) }));
    expect(unmetLocks).toEqual([]);
    expect(slots[4]).toMatchObject({ locked: true });
    expect(slots[4]!.landing!.seconds).toBeCloseTo(30.2, 9);
    expect(slots[7]!.landing!.seconds).toBeCloseTo(36.2, 9);
    expect(slots.filter((slot) => slot.locked)).toHaveLength(2);
  });

  it("names locks that leave no room, and keeps the others", () => {
    const { slots, unmetLocks } = fitSlides(request({ slides: slides(10, { 0: 5, 2: 20, 3: 19.9, 9: 2 }) }));
    expect(unmetLocks).toEqual(["s0", "s3", "s9"]);
    expect(slots[2]!.locked).toBe(true);
  });

  it("shows a picture in a film shorter than the shortest slot", () => {
    expect(fitSlides(request({ slides: slides(5), beats: [], endSeconds: 0.6 })).slots).toHaveLength(1);
  });

  it("refuses to fit nothing, or onto nothing", () => {
    expect(() => fitSlides(request({ slides: [] }))).toThrow(/at least one picture/);
    expect(() => fitSlides(request({ endSeconds: 0 }))).toThrow(/song with some length/);
  });
});

describe("too many slides", () => {
  it("lose those rated maybe first, evenly, and only then others", () => {
    const rated = slides(40).map((slide, i) => ({
      ...slide,
      rating: i % 4 === 1 ? ("maybe" as const) : ("keep" as const),
    }));
    const left = (endSeconds: number) =>
      fitSlides(request({ slides: rated, endSeconds, pace: { kind: "beats", count: 2 } })).leftOut;
    // 40 slots of a second in 40.2 s; 10 slides are rated maybe.
    expect(left(34).every((index) => rated[index]!.rating === "maybe")).toBe(true);
    expect(left(34).length).toBeGreaterThan(4);
    const all = left(20);
    expect(all.filter((index) => rated[index]!.rating === "maybe")).toHaveLength(10);
    expect(all).not.toContain(0);
    expect(all).not.toContain(39);
  });
});

describe("saying how it fits", () => {
  it("offers ways out that really fit better", () => {
    const asked = request({ slides: slides(40), pace: { kind: "beats", count: 8 } });
    const result = fitSlides(asked);
    const message = explainFit(asked, result).find(({ kind }) => kind === "left-out");
    expect(message?.text).toContain(`${result.leftOut.length} of them find no room`);
    expect(message?.waysOut.length).toBeGreaterThan(0);
    for (const { pace } of message!.waysOut) {
      expect(fitSlides({ ...asked, pace }).leftOut.length).toBeLessThan(result.leftOut.length);
    }
  });

  it("says when there is no beat to lay on", () => {
    const asked = request({ beats: [] });
    expect(explainFit(asked, fitSlides(asked)).map(({ kind }) => kind)).toContain("no-beat");
  });
});
