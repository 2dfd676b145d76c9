import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, present } from "../presence/index.ts";
import {
  fitMusic as music,
  fitPassage as passage,
  propertyRuns,
  fitRequest as request,
  fitSlidesList as slides,
} from "../testing/index.ts";
import type { Pace } from "../values/index.ts";
import {
  costOfFit,
  explainFit,
  type FitRequest,
  fitSlides,
  type MusicForFit,
  type SlideForFit,
  unmetWishes,
} from "./index.ts";
import { landingsOf, lockedIndex, withFreeLandings } from "./landings.ts";
import { smallestConflict } from "./lock-conflicts.ts";

/** Starts of all slots and the film's end. */
const times = (asked: FitRequest): number[] => {
  const { slots, endSeconds } = fitSlides(asked);
  return [...slots.map(({ landing }) => landing?.seconds ?? 0), endSeconds];
};
const lengths = (asked: FitRequest): number[] => {
  const at = times(asked);
  return at.slice(1).map((seconds, i) => seconds - itemAt(at, i));
};

const anyPace: fc.Arbitrary<Pace> = fc.oneof(
  fc.constantFrom<Pace>(
    { kind: "auto" },
    { kind: "music" },
    { kind: "accents", perPhrase: 2 },
    { kind: "accents", perPhrase: 16 },
    { kind: "music", fast: true },
    { kind: "markers", origin: "any" },
    { kind: "markers", origin: "tapped" },
  ),
  fc.integer({ min: 1, max: 20 }).map((count): Pace => ({ kind: "beats", count })),
  fc.integer({ min: 1, max: 4 }).map((count): Pace => ({ kind: "bars", count })),
  fc.constant<Pace>({ kind: "phrases", count: 1 }),
  fc.double({ min: 0.5, max: 9, noNaN: true }).map((seconds): Pace => ({ kind: "seconds", seconds })),
);

const anyRequest: fc.Arbitrary<FitRequest> = fc
  .record({
    count: fc.integer({ min: 1, max: 60 }),
    paces: fc.array(anyPace, { minLength: 1, maxLength: 3 }),
    beatCount: fc.integer({ min: 0, max: 150 }),
    gap: fc.double({ min: 0.28, max: 1.1, noNaN: true }),
    endSeconds: fc.double({ min: 0.6, max: 120, noNaN: true }),
    marks: fc.array(fc.double({ min: 0, max: 120, noNaN: true }), { maxLength: 12 }),
    locks: fc.array(
      fc.record({
        slide: fc.nat({ max: 59 }),
        kind: fc.constantFrom("landing", "length"),
        seconds: fc.double({ min: 0.5, max: 100, noNaN: true }),
      }),
      { maxLength: 3 },
    ),
    heroes: fc.array(fc.nat({ max: 59 }), { maxLength: 5 }),
    exact: fc.boolean(),
    clip: fc.option(
      fc.record({
        slide: fc.nat({ max: 59 }),
        beforeSeconds: fc.double({ min: 0.5, max: 4, noNaN: true }),
        afterSeconds: fc.double({ min: 0.5, max: 4, noNaN: true }),
      }),
    ),
    slidesLead: fc.boolean(),
  })
  .map(({ count, paces, beatCount, gap, endSeconds, marks, locks, heroes, exact, clip, slidesLead }) => {
    const own: Record<number, Partial<SlideForFit>> = {};
    const set = (index: number, more: Partial<SlideForFit>): void => void (own[index] = { ...own[index], ...more });
    for (const hero of heroes) set(hero, { hero: true });
    for (const { slide: index, kind, seconds } of locks)
      set(
        index,
        kind === "landing"
          ? { landingLockSeconds: seconds, landingLockExact: exact }
          : { lengthLockSeconds: Math.min(9, seconds / 8 + 0.4) },
      );
    if (clip) {
      const { beforeSeconds, afterSeconds } = clip;
      set(clip.slide, {
        materialSeconds: beforeSeconds + afterSeconds,
        moment: clip.slide % 2 === 0 ? null : { beforeSeconds, afterSeconds },
      });
    }
    const rising = marks.toSorted((a, b) => a - b);
    return request({
      slides: slides(count, own).map((one, i) => ({ ...one, passage: Math.floor((i * paces.length) / count) })),
      passages: paces.map((pace, i) => passage(pace, null, `p${i}`)),
      music: music(beatCount, gap, 0.2, {
        accents: rising.map((seconds, i) => ({ seconds, strength: (i % 4) / 3 })),
        markers: rising.slice(0, 6).map((seconds, i) => ({
          seconds,
          name: "",
          kind: i % 3 === 0 ? "note" : "cut",
          origin: i % 2 === 0 ? "tapped" : "placed",
        })),
        phrases: rising.slice(0, 3),
        loudnessAt: (seconds) => Math.sin(seconds / 7),
      }),
      ends: slidesLead
        ? [
            { seconds: endSeconds / 2, cost: 1 },
            { seconds: endSeconds, cost: 0 },
          ]
        : [{ seconds: endSeconds, cost: 0 }],
      slidesLead,
    });
  });

/** Phrases of four bars. */
const inPhrases = (of: MusicForFit): MusicForFit => ({
  ...of,
  phrases: of.beats.filter((_, i) => i % 16 === 0).map(({ seconds }) => seconds),
});

describe("fitting slides to music", () => {
  it("keeps slides in order on rising landings that tile the film, keeps locks and clips, accounts for every slide, and gives the same again", () => {
    fc.assert(
      fc.property(anyRequest, (asked) => {
        const result = fitSlides(asked);
        const { slots, leftOut, repeats, unmetLocks } = result;
        const at = times(asked);
        for (let i = 1; i < at.length; i++) expect(itemAt(at, i)).toBeGreaterThan(itemAt(at, i - 1));
        expect(itemAt(slots, 0).landing).toBeNull();
        const shown = new Set(slots.map((slot) => slot.slideIndex));
        expect(shown.size + leftOut.length).toBe(asked.slides.length);
        const firstRound = slots.filter(({ round }) => round === 0).map((slot) => slot.slideIndex);
        expect(repeats).toBe(slots.length - firstRound.length);
        expect(new Set(firstRound).size).toBe(firstRound.length);
        expect(firstRound).toEqual([...firstRound].sort((a, b) => a - b));
        const isUnmet = (kind: string, id: string): boolean =>
          unmetLocks.some((lock) => lock.kind === kind && lock.id === id);
        for (const [k, slot] of slots.entries()) {
          const own = itemAt(asked.slides, slot.slideIndex);
          const length = itemAt(at, k + 1) - itemAt(at, k);
          if (slot.round === 0 && own.lengthLockSeconds !== null && !isUnmet("length", own.id))
            expect(Math.abs(length - own.lengthLockSeconds)).toBeLessThan(0.013);
          if (slot.round === 0 && own.landingLockSeconds !== null && !isUnmet("landing", own.id))
            expect(slot.locked).toBe(true);
          if (own.materialSeconds !== null && !result.beyondMaterial && own.lengthLockSeconds === null)
            expect(length).toBeLessThanOrEqual(own.materialSeconds + 0.013);
          // Where a person put one slide, no other begins, unless that lock cannot be kept or its
          // slide has no room.
          if (slot.landing?.kind === "free" && unmetLocks.length + leftOut.length === 0)
            expect([own.landingLockSeconds, slot.locked]).toEqual([at[k], true]);
        }
        expect(fitSlides(asked)).toEqual(result);
      }),
      { numRuns: propertyRuns },
    );
  });

  it("lands on beats and nothing else where nothing else is there", () => {
    const beats = new Set(music(100).beats.map(({ seconds }) => seconds));
    for (const seconds of times(request({ slides: slides(23) })).slice(1, -1)) expect(beats.has(seconds)).toBe(true);
  });

  it("changes pictures where the beat falls silent for a while, and only there off the beat", () => {
    const silent = music(181).beats.filter(({ seconds }) => seconds < 30 || seconds > 60);
    const asked = request({ slides: slides(22), music: { ...music(0), beats: silent }, endSeconds: 90 });
    expect(Math.max(...lengths(asked))).toBeLessThan(6);
    const inside = fitSlides(asked).slots.filter(
      ({ landing }) => landing && landing.seconds > 30 && landing.seconds < 60,
    );
    expect(inside.length).toBeGreaterThan(5);
    const beats = new Set(silent.map(({ seconds }) => seconds));
    for (const seconds of times(asked).slice(1, -1))
      if (seconds < 29.7 || seconds > 60.2) expect(beats.has(seconds)).toBe(true);
  });

  it("lays 54 stills into 4:03 at 4.5 s each (common practice)", () => {
    const asked = request({ slides: slides(54), music: inPhrases(music(486)), endSeconds: 243 });
    const got = lengths(asked);
    expect(got).toHaveLength(54);
    expect(got.reduce((sum, length) => sum + length, 0) / got.length).toBeCloseTo(4.5, 1);
    // Two bars of 2 s each, and four where that does not come out; the last one ends with the film.
    for (const length of got.slice(1, -1)) expect([4, 8]).toContain(Math.round(1000 * length) / 1000);
    expect(got.filter((length) => length < 5).length).toBeGreaterThan(45);
  });

  it("finds 5 of 53 slides too many that ask for 5:18 where the song has 4:48 (common practice: 3 s standing and a 3 s transition each)", () => {
    const asked = request({
      slides: slides(53),
      pace: { kind: "seconds", seconds: 6 },
      music: music(575),
      endSeconds: 288,
    });
    const result = fitSlides(asked);
    expect(result.askedSeconds).toBe(318);
    expect(result.leftOut).toHaveLength(5);
    expect(explainFit(asked, result)).toContainEqual({
      kind: "left-out",
      slides: 53,
      leftOut: 5,
      endSeconds: 288,
      askedSeconds: 318,
      floorSeconds: 2,
      quietRoom: false,
    });
  });

  it("lets 140 stills of 5 s run 11:40, and of 4 s 9:20, where slides lead (common practice)", () => {
    for (const [seconds, wanted] of [
      [5, 700],
      [4, 560],
    ] as const) {
      const asked = request({
        slides: slides(140),
        pace: { kind: "seconds", seconds },
        music: music(1440),
        ends: Array.from({ length: 360 }, (_, i) => ({ seconds: 2.2 + 2 * i, cost: 1 })),
        slidesLead: true,
      });
      expect(Math.abs(fitSlides(asked).endSeconds - wanted)).toBeLessThan(8);
    }
  });

  it("changes every n beats, and on every bar", () => {
    expect(
      new Set(
        lengths(request({ slides: slides(50), pace: { kind: "beats", count: 2 } }))
          .slice(1, -1)
          .map((x) => x.toFixed(6)),
      ),
    ).toEqual(new Set(["1.000000"]));
    const bars = fitSlides(request({ slides: slides(25), pace: { kind: "bars", count: 1 } })).slots.slice(1);
    expect(bars.every(({ landing }) => present(landing).kind === "bar")).toBe(true);
  });

  it("gives each passage its own pace", () => {
    const asked = request({
      slides: slides(20).map((one, i) => ({ ...one, passage: i < 10 ? 0 : 1 })),
      passages: [passage({ kind: "bars", count: 2 }), passage({ kind: "beats", count: 2 }, null, "p2")],
      music: music(120),
      endSeconds: 50.2,
    });
    const got = lengths(asked);
    expect(got.slice(1, 9).every((length) => Math.abs(length - 4) < 0.01)).toBe(true);
    expect(got.slice(11, 19).every((length) => Math.abs(length - 1) < 0.01)).toBe(true);
  });

  it("follows the music: longer where it is quiet, shorter where it is loud", () => {
    const loudnessAt = (seconds: number): number => (seconds < 25 ? -1 : 1);
    const asked = request({ slides: slides(16), pace: { kind: "music" }, music: music(100, 0.5, 0.2, { loudnessAt }) });
    const at = times(asked);
    const quiet = at.filter((seconds) => seconds < 25).length;
    expect(at.length - 1 - quiet).toBeGreaterThan(1.6 * quiet);
  });

  it("takes one marker a slide, skips those that come too soon, and only the tapped ones where that is asked", () => {
    const marks = [4, 9, 9.1, 14, 22, 31, 40].map((seconds, i) => ({
      seconds: seconds + 0.13,
      name: "",
      kind: "cut" as const,
      origin: i % 2 === 0 ? ("tapped" as const) : ("placed" as const),
    }));
    const asked = (origin: "any" | "tapped") =>
      request({
        slides: slides(origin === "any" ? 7 : 5),
        pace: { kind: "markers", origin },
        music: music(100, 0.5, 0.2, { markers: marks }),
      });
    const any = times(asked("any")).slice(1, -1);
    for (const seconds of any) expect(marks.some((mark) => mark.seconds === seconds)).toBe(true);
    expect(any).toHaveLength(6);
    for (const seconds of times(asked("tapped")).slice(1, -1))
      expect(marks.some((mark) => mark.seconds === seconds && mark.origin === "tapped")).toBe(true);
  });

  it("gives heroes a longer place on a stronger landing", () => {
    const got = fitSlides(request({ slides: slides(20, { 7: { hero: true } }) }));
    const at = times(request({ slides: slides(20, { 7: { hero: true } }) }));
    expect(itemAt(at, 8) - itemAt(at, 7)).toBeGreaterThan(3);
    expect(present(itemAt(got.slots, 7).landing).kind).toBe("bar");
  });

  it("begins a passage with a section where one is near", () => {
    const sections = [{ startSeconds: 24.2, label: "B" }];
    const asked = request({
      slides: slides(20).map((one, i) => ({ ...one, passage: i < 9 ? 0 : 1 })),
      passages: [passage(), passage(undefined, null, "p2")],
      music: music(100, 0.5, 0.2, { sections }),
    });
    expect(itemAt(fitSlides(asked).slots, 9).landing).toMatchObject({ seconds: 24.2, kind: "section", name: "B" });
  });

  it("brings a clip's moment under an accent if its material reaches", () => {
    const asked = request({
      slides: slides(10, { 4: { moment: { beforeSeconds: 3, afterSeconds: 2 } } }),
      music: music(100, 0.5, 0.2, { accents: [{ seconds: 21.2, strength: 1 }] }),
    });
    const at = times(asked);
    expect(itemAt(at, 4)).toBeLessThanOrEqual(21.2);
    expect(itemAt(at, 5)).toBeGreaterThanOrEqual(21.2);
    expect(21.2 - itemAt(at, 4)).toBeLessThanOrEqual(3);
    expect(itemAt(at, 5) - 21.2).toBeLessThanOrEqual(2);
    expect(itemAt(at, 5) - itemAt(at, 4)).toBeLessThanOrEqual(5.01);
  });

  it("begins a slide just where a person put it, off the beat, and no other slide there", () => {
    const asked = request({ slides: slides(10, { 4: { landingLockSeconds: 21.37, landingLockExact: true } }) });
    const { slots } = fitSlides(asked);
    expect(slots[4]).toMatchObject({ locked: true, landing: { seconds: 21.37, kind: "free", strength: 0 } });
    expect(slots.filter(({ landing }) => landing?.kind === "free")).toHaveLength(1);
    const near = request({ slides: slides(10, { 4: { landingLockSeconds: 21.37 } }) });
    expect(present(itemAt(fitSlides(near).slots, 4).landing).seconds).toBeCloseTo(21.2, 9);
    // A lock to the nearest landing never means the place of another slide.
    const places = withFreeLandings(landingsOf(music(100), 50), [21.37, 21.4, 0.1], 50);
    const index = lockedIndex(places, 21.39, false);
    expect([itemAt(places, index).seconds, itemAt(places, lockedIndex(places, 21.39, true)).kind]).toEqual([
      expect.closeTo(21.2, 9),
      "free",
    ]);
    expect(places.filter(({ kind }) => kind === "free")).toHaveLength(2);
  });

  it("never lets a clip stand longer than it lasts, unless nothing else fills the film, and says so then", () => {
    const clips = (count: number, seconds: number): SlideForFit[] =>
      slides(count).map((one, i) => (i % 2 ? { ...one, materialSeconds: seconds } : one));
    const mixed = lengths(request({ slides: clips(10, 2.1) }));
    mixed.forEach((length, i) => i % 2 && expect(length).toBeLessThan(2.113));
    const only = fitSlides(request({ slides: clips(2, 2.1).slice(1) }));
    expect([only.slots.length, only.beyondMaterial]).toEqual([1, true]);
    // Two landings far apart with nothing but a clip between them: locks are what a person decided,
    // so the clip gives.
    const locked = clips(10, 2.1).map((one, i) =>
      i === 3 ? { ...one, landingLockSeconds: 10 } : i === 4 ? { ...one, landingLockSeconds: 30 } : one,
    );
    const kept = fitSlides(request({ slides: locked }));
    expect([kept.conflict, kept.unmetLocks, kept.beyondMaterial]).toEqual([[], [], true]);
    expect(present(itemAt(kept.slots, 4).landing).seconds).toBeCloseTo(30.2, 9);
  });

  it("repeats in rounds where there are too few, and lets a single one stand", () => {
    const few = fitSlides(request({ slides: slides(3), music: music(200), endSeconds: 100 }));
    // Ten slots would have to stand for ten seconds each; four bars are eight. Twelve of them fill
    // the film if the first and the last take a bar more, and each picture comes four times.
    expect(few.slots.map((slot) => slot.slideIndex)).toEqual([0, 1, 2, 0, 1, 2, 0, 1, 2, 0, 1, 2]);
    const starts = few.slots.map(({ landing }) => landing?.seconds ?? 0.2);
    const lasting = starts.slice(1).map((at, i) => at - itemAt(starts, i));
    expect(lasting.filter((seconds) => Math.abs(seconds - 8) < 1e-6)).toHaveLength(10);
    expect(few.maximumFactor).toBe(1);
    expect(fitSlides(request({ slides: slides(1) })).slots).toHaveLength(1);
    expect(fitSlides(request({ slides: slides(1), pace: { kind: "bars", count: 1 } })).slots).toHaveLength(1);
  });

  it("lets pictures stand four bars at 88 beats a minute, 10.9 seconds, and not at 84", () => {
    const sixteenBeats = (beatsPerMinute: number): number => {
      const gap = 60 / beatsPerMinute;
      const asked = request({ slides: slides(12), music: music(200, gap), endSeconds: 0.2 + 192 * gap });
      return lengths(asked).filter((seconds) => Math.abs(seconds - 16 * gap) < 1e-6).length;
    };
    expect(sixteenBeats(88)).toBeGreaterThan(10);
    expect(sixteenBeats(84)).toBe(0);
  });

  it("lets a single picture stand for four hours, and comes to an end with a clip of no length", () => {
    const alone = request({ slides: slides(1), music: music(0), endSeconds: 14_400 });
    expect(fitSlides(alone).slots).toHaveLength(1);
    const clips = slides(3, {
      0: { materialSeconds: 1e-9 },
      1: { materialSeconds: 1e-9 },
      2: { materialSeconds: 1e-9 },
    });
    expect(fitSlides(request({ slides: clips, endSeconds: 20 })).beyondMaterial).toBe(true);
  });

  it("shows a picture in a film shorter than the shortest slot", () => {
    expect(fitSlides(request({ slides: slides(5), music: music(0), endSeconds: 0.6 })).slots).toHaveLength(1);
  });

  it("refuses to fit nothing, or onto nothing", () => {
    expect(() => fitSlides(request({ slides: [] }))).toThrow(/at least one picture/);
    expect(() => fitSlides(request({ endSeconds: 0 }))).toThrow(/song with some length/);
  });
});

describe("too many slides", () => {
  const rated = slides(40).map((one, i) => ({ ...one, rating: i % 4 === 1 ? ("maybe" as const) : ("keep" as const) }));
  const left = (endSeconds: number, list = rated) =>
    fitSlides(request({ slides: list, endSeconds, pace: { kind: "beats", count: 2 } })).leftOut;

  it("lose those rated maybe first, evenly, and only then others; the first and the last stay", () => {
    expect(left(34).every((index) => itemAt(rated, index).rating === "maybe")).toBe(true);
    expect(left(34).length).toBeGreaterThan(4);
    const all = left(20);
    expect(all.filter((index) => itemAt(rated, index).rating === "maybe")).toHaveLength(10);
    expect(all).not.toContain(0);
    expect(all).not.toContain(39);
  });

  it("never lose one that must stay", () => {
    const staying = rated.map((one, i) => ({ ...one, stays: i % 7 === 5 }));
    for (const index of left(12, staying)) expect(itemAt(staying, index).stays).toBe(false);
  });
});

describe("locks", () => {
  it("are kept on the landing nearest to them, and the rest is laid around", () => {
    const { slots, conflict } = fitSlides(
      request({ slides: slides(10, { 4: { landingLockSeconds: 30.14 }, 7: { landingLockSeconds: 36.2 } }) }),
    );
    expect(conflict).toEqual([]);
    expect(present(itemAt(slots, 4).landing).seconds).toBeCloseTo(30.2, 9);
    expect(present(itemAt(slots, 7).landing).seconds).toBeCloseTo(36.2, 9);
    expect(slots.filter((slot) => slot.locked)).toHaveLength(2);
  });

  it("that cannot hold together are named, the fewest of them, and the film is laid without the last", () => {
    const asked = request({
      slides: slides(10, {
        1: { lengthLockSeconds: 3 },
        2: { landingLockSeconds: 20.2 },
        3: { lengthLockSeconds: 8 },
        4: { landingLockSeconds: 24.2 },
        8: { landingLockSeconds: 40.2 },
      }),
    });
    const result = fitSlides(asked);
    expect(result.conflict.map(({ kind, id }) => `${kind} ${id}`)).toEqual(["landing s2", "length s3", "landing s4"]);
    expect(result.unmetLocks).toEqual([{ kind: "landing", id: "s4" }]);
    expect(present(itemAt(result.slots, 2).landing).seconds).toBeCloseTo(20.2, 9);
    expect(explainFit(asked, result)).toContainEqual({
      kind: "conflict",
      locks: [
        { kind: "landing", slide: 3 },
        { kind: "length", slide: 4 },
        { kind: "landing", slide: 5 },
      ],
    });
    const behind = fitSlides(
      request({ slides: slides(10, { 5: { landingLockSeconds: 51 }, 8: { landingLockSeconds: 60 } }) }),
    );
    expect(behind.conflict).toEqual([{ kind: "landing", id: "s5" }]);
    expect(behind.unmetLocks.map(({ id }) => id)).toEqual(["s5", "s8"]);
    const alone = fitSlides(request({ slides: slides(10, { 9: { landingLockSeconds: 2 } }) }));
    expect(alone.conflict).toEqual([{ kind: "landing", id: "s9" }]);
  });

  it("begin a passage where they say", () => {
    const asked = request({
      slides: slides(20).map((one, i) => ({ ...one, passage: i < 9 ? 0 : 1 })),
      passages: [passage(), passage(undefined, 30.2, "p2")],
    });
    expect(fitSlides(asked).slots[9]).toMatchObject({ locked: true, landing: { seconds: 30.2 } });
  });

  it("have their smallest conflict found, whatever the sets that cannot hold", () => {
    const sets = fc.array(fc.uniqueArray(fc.nat({ max: 7 }), { minLength: 1, maxLength: 4 }), {
      minLength: 1,
      maxLength: 4,
    });
    fc.assert(
      fc.property(sets, (bad) => {
        const locks = [0, 1, 2, 3, 4, 5, 6, 7];
        const holds = (some: readonly number[]): boolean =>
          !bad.some((set) => set.every((lock) => some.includes(lock)));
        const found = smallestConflict(locks, holds);
        expect(holds(found)).toBe(false);
        for (const lock of found) expect(holds(found.filter((other) => other !== lock))).toBe(true);
        const least = Math.min(...bad.map((set) => set.length));
        if (least <= 2) expect(found.length).toBe(least);
      }),
      { numRuns: 200 },
    );
  });
});

describe("the rest of the film", () => {
  const free = request({ slides: slides(60), music: inPhrases(music(520)), endSeconds: 260 });
  const at = (asked: FitRequest): (number | undefined)[] =>
    fitSlides(asked).slots.map(({ landing }) => landing?.seconds);
  const moved = (asked: FitRequest): number => {
    const [before, after] = [at(free), at(asked)];
    return after.filter((seconds, k) => seconds !== before[k]).length;
  };

  it("stays where it is when one landing is dragged by a bar, or one length is locked", () => {
    for (const index of [7, 30, 52]) {
      const place = itemAt(at(free), index);
      const dragged = { ...free, slides: slides(60, { [index]: { landingLockSeconds: place + 2 } }) };
      expect(at(dragged)[index]).toBeCloseTo(place + 2, 9);
      expect(moved(dragged)).toBeLessThanOrEqual(7);
      const longer = { ...free, slides: slides(60, { [index]: { wishedSeconds: 6, lengthLockSeconds: 6 } }) };
      expect(moved(longer)).toBeLessThanOrEqual(7);
    }
  });

  it("is laid anew where that is asked, which never costs more", () => {
    const dragged = { ...free, slides: slides(60, { 30: { landingLockSeconds: itemAt(at(free), 30) + 2 } }) };
    const anew = fitSlides({ ...dragged, keepsPlan: false });
    expect(anew.cost).toBeLessThanOrEqual(fitSlides(dragged).cost + 1e-9);
  });

  it("is laid from nothing when all is fitted again, and from then on stays with that", () => {
    const dragged = { ...free, slides: slides(60, { 30: { landingLockSeconds: itemAt(at(free), 30) + 2 } }) };
    const settledLocks = dragged.slides.flatMap(({ id, landingLockSeconds: seconds, landingLockExact: exact }) =>
      seconds === null ? [] : [{ kind: "landing" as const, id, seconds, exact }],
    );
    const settled = { ...dragged, settledLocks };
    expect(fitSlides(settled)).toEqual(fitSlides({ ...dragged, keepsPlan: false }));
    // A lock that is taken off moves what is near it in the film that was seen.
    const freed = { ...settled, slides: settled.slides.map((one) => ({ ...one, landingLockSeconds: null })) };
    const [before, after] = [settled, freed].map((asked) =>
      fitSlides(asked).slots.map(({ landing }) => landing?.seconds),
    );
    const moved = present(after).filter((seconds, i) => seconds !== present(before)[i]).length;
    expect(moved).toBeLessThanOrEqual(6);
  });

  it("comes back as it was when the lock goes, and is the same whatever was laid in between", () => {
    const before = at(free);
    at({ ...free, slides: slides(60, { 30: { landingLockSeconds: itemAt(before, 30) + 2 } }) });
    at({ ...free, slides: slides(50, { 30: { landingLockSeconds: 100 } }), music: music(400) });
    expect(at(free)).toEqual(before);
  });
});

describe("locks at the ends of the film", () => {
  it("hold a length of the last slide where slides lead, whatever it is", () => {
    const ends = Array.from({ length: 60 }, (_, i) => ({ seconds: 2.2 + 2 * i, cost: 1 }));
    for (let length = 1; length <= 9; length += 0.37) {
      const asked = request({
        slides: slides(10, { 9: { wishedSeconds: length, lengthLockSeconds: length } }),
        music: music(300),
        ends: [...ends, { seconds: 150, cost: 0 }],
        slidesLead: true,
      });
      const { slots, endSeconds, unmetLocks } = fitSlides(asked);
      expect(unmetLocks).toEqual([]);
      expect(endSeconds - present(itemAt(slots, 9).landing).seconds).toBeCloseTo(length, 6);
      expect(Math.abs(endSeconds - (36 + length))).toBeLessThan(6);
    }
  });

  it("are kept by themselves at the film's start, and cannot be kept by another slide", () => {
    const first = fitSlides(request({ slides: slides(10, { 0: { landingLockSeconds: 0 } }) }));
    expect([first.conflict, first.unmetLocks]).toEqual([[], []]);
    const passages = [passage(undefined, 0)];
    expect(fitSlides(request({ passages })).unmetLocks).toEqual([]);
    const other = fitSlides(request({ slides: slides(10, { 5: { landingLockSeconds: 0 } }) }));
    expect(other.unmetLocks).toEqual([{ kind: "landing", id: "s5" }]);
  });
});

describe("too many slides for best fit", () => {
  it("leave two seconds for each, whatever others ask for", () => {
    const wishing = Object.fromEntries([0, 1, 2, 3, 4, 5].map((i) => [i, { wishedSeconds: 5 }]));
    const { slots } = fitSlides(request({ slides: slides(30, wishing), music: music(60), endSeconds: 20 }));
    expect(slots.length).toBeGreaterThan(4);
    const starts = [...slots.map(({ landing }) => landing?.seconds ?? 0), 20];
    const lasting = starts.slice(1).map((at, i) => at - itemAt(starts, i));
    for (const seconds of lasting) expect(seconds).toBeGreaterThan(1.48);
    expect(lasting.reduce((sum, seconds) => sum + seconds, 0) / lasting.length).toBeGreaterThan(1.99);
  });
});

describe("which slides are left out", () => {
  it("is first of near-identical pictures the worse one, before any that stands alone", () => {
    const alike = new Set([3, 4, 11, 17]);
    const list = slides(24).map((one, i) => ({ ...one, hasBetterLike: alike.has(i) }));
    const left = fitSlides(request({ slides: list, music: music(84), endSeconds: 42 })).leftOut;
    expect(left.length).toBeGreaterThanOrEqual(3);
    expect(left.filter((index) => alike.has(index)).length).toBe(Math.min(4, left.length));
  });

  it("is never a locked slide, and a hero last", () => {
    const own = { 5: { landingLockSeconds: 9 }, 8: { lengthLockSeconds: 3 }, 13: { hero: true } };
    const { leftOut, unmetLocks } = fitSlides(request({ slides: slides(30, own), music: music(50), endSeconds: 25 }));
    expect(leftOut.length).toBeGreaterThan(12);
    expect(unmetLocks).toEqual([]);
    for (const index of [5, 8, 13]) expect(leftOut).not.toContain(index);
  });

  it("is no dearer than any choice that differs by a slide or two", () => {
    const small = fc.record({
      list: fc.array(
        fc.record({
          rating: fc.constantFrom("keep" as const, "maybe" as const),
          hero: fc.boolean(),
          wishedSeconds: fc.constantFrom(null, null, 2, 4),
        }),
        { minLength: 4, maxLength: 6 },
      ),
      beats: fc.integer({ min: 12, max: 24 }),
    });
    let tried = 0;
    fc.assert(
      fc.property(small, ({ list, beats }) => {
        const asked = request({
          slides: slides(list.length).map((one, i) => ({ ...one, ...itemAt(list, i) })),
          music: music(beats),
          endSeconds: 0.2 + beats / 2,
        });
        const result = fitSlides(asked);
        if (result.leftOut.length === 0) return;
        tried++;
        const all = list.map((_, i) => i);
        const subsets = all.reduce<number[][]>((sets, i) => [...sets, ...sets.map((set) => [...set, i])], [[]]);
        const shown = all.filter((i) => !result.leftOut.includes(i));
        for (const set of subsets) {
          const more = set.filter((i) => !shown.includes(i)).length;
          const less = shown.filter((i) => !set.includes(i)).length;
          if (set.length === 0 || more > 2 || less > 2) continue;
          const other = fitSlides({ ...asked, slides: set.map((i) => itemAt(asked.slides, i)) });
          if (other.leftOut.length + other.repeats > 0) continue;
          const cost = costOfFit(asked, { ...other, leftOut: all.filter((i) => !set.includes(i)) });
          expect(costOfFit(asked, result)).toBeLessThanOrEqual(cost + 1e-9);
        }
      }),
      { numRuns: 60 },
    );
    expect(tried).toBeGreaterThan(20);
  });
});

describe("fast best fit", () => {
  it("leaves fewer out, and each has a second and a half on average", () => {
    const fit = (fast: boolean) =>
      fitSlides(request({ slides: slides(60), music: music(120), endSeconds: 60, pace: { kind: "auto", fast } }));
    const [calm, fast] = [fit(false), fit(true)];
    expect(60 / calm.slots.length).toBeGreaterThan(1.99);
    expect(60 / fast.slots.length).toBeGreaterThan(1.49);
    expect(fast.slots.length).toBeGreaterThan(calm.slots.length + 5);
  });
});

describe("one an accent", () => {
  it("takes the strongest of each phrase, of equal ones the earlier", () => {
    const accents = Array.from({ length: 80 }, (_, i) => ({
      seconds: 0.2 + i / 2,
      strength: itemAt([0.9, 0.3, 0.6, 0.3], i % 4),
    }));
    const phrases = Array.from({ length: 5 }, (_, i) => 0.2 + 8 * i);
    const starts = (perPhrase: number) =>
      fitSlides(
        request({
          slides: slides(60),
          music: music(80, 0.5, 0.2, { accents, phrases }),
          endSeconds: 40,
          pace: { kind: "accents", perPhrase },
        }),
      ).slots.flatMap(({ landing }) => (landing ? [landing.seconds] : []));
    // Four of 0.9 in each phrase of sixteen beats, the first on its first beat.
    const strongest = accents.filter(({ strength }) => strength === 0.9).map(({ seconds }) => seconds);
    for (const at of starts(4)) expect(strongest.some((seconds) => Math.abs(seconds - at) < 1e-9)).toBe(true);
    const first = new Set(phrases.flatMap((from) => [from, from + 2]).map((seconds) => seconds.toFixed(3)));
    for (const at of starts(2)) expect(first).toContain(at.toFixed(3));
    expect(starts(16).length).toBeGreaterThan(starts(4).length);
  });
});

describe("films of clips", () => {
  const anyClips = fc.record({
    seconds: fc.array(fc.double({ min: 2.2, max: 6, noNaN: true }), { minLength: 2, maxLength: 12 }),
    lock: fc.option(fc.record({ slide: fc.nat({ max: 11 }), seconds: fc.integer({ min: 4, max: 50 }) })),
    endSeconds: fc.integer({ min: 8, max: 60 }),
  });

  it("leave none out where there is too little, show clips again before one stands still, and keep locks that can be kept", () => {
    const seen = { again: 0, still: 0, locked: 0 };
    fc.assert(
      fc.property(anyClips, ({ seconds, lock, endSeconds }) => {
        const clips = slides(seconds.length).map((one, i) => ({ ...one, materialSeconds: itemAt(seconds, i) }));
        const at = lock && lock.slide > 0 && lock.slide < clips.length ? lock : null;
        if (at) clips[at.slide] = { ...itemAt(clips, at.slide), landingLockSeconds: at.seconds };
        const result = fitSlides(request({ slides: clips, music: music(120), endSeconds }));
        const all = seconds.reduce((sum, one) => sum + one, 0);
        if (all < endSeconds) expect(result.leftOut).toEqual([]);
        if (result.repeats > 0) seen.again++;
        // A second for each clip before the lock, and for it and each behind it, is enough to keep
        // it.
        const isReachable =
          at && at.slide * 1.5 <= at.seconds && (clips.length - at.slide) * 1.5 <= endSeconds - at.seconds;
        if (isReachable) {
          seen.locked++;
          expect([result.conflict, result.unmetLocks]).toEqual([[], []]);
        }
        if (!result.beyondMaterial) return;
        seen.still++;
        // One clip alone before or behind the lock has nothing to be shown again beside.
        const parts = at ? [at.slide, clips.length - at.slide] : [clips.length];
        const isLate = at !== null && at.seconds > endSeconds - 1;
        expect(parts.includes(1) || isLate || result.repeats === 0).toBe(true);
      }),
      { numRuns: 240 },
    );
    expect(Math.min(seen.again, seen.locked)).toBeGreaterThan(30);
  });
});

describe("slides that must stay", () => {
  it("are named where there is no room for them at a second each", () => {
    const staying = slides(30).map((one) => ({ ...one, stays: true }));
    const asked = request({ slides: staying, music: music(40), endSeconds: 20 });
    const result = fitSlides(asked);
    expect(result.slots.length).toBeGreaterThan(15);
    expect(result.unmetLocks).toEqual(result.leftOut.map((index) => ({ kind: "stays", id: `s${index}` })));
    const said = explainFit(asked, result).find(({ kind }) => kind === "cannot-stay");
    expect(said).toMatchObject({ locks: result.leftOut.map((index) => ({ kind: "stays", slide: index + 1 })) });
  });

  it("stay for less than two seconds each, as long as the shortest length allows", () => {
    const staying = slides(24).map((one) => ({ ...one, stays: true }));
    const { slots, leftOut } = fitSlides(request({ slides: staying, music: music(80), endSeconds: 38 }));
    expect([slots.length, leftOut]).toEqual([24, []]);
    const free = fitSlides(request({ slides: slides(24), music: music(80), endSeconds: 38 }));
    expect(free.leftOut.length).toBeGreaterThan(3);
  });
});

describe("a pace without places", () => {
  it("is said, once for each passage that holds slides, and laid as best fit", () => {
    const tapped: Pace = { kind: "markers", origin: "tapped" };
    const markers = [{ seconds: 10.2, name: "", kind: "note" as const, origin: "tapped" as const }];
    const asked = request({
      slides: slides(10).map((one, i) => ({ ...one, passage: i < 5 ? 0 : 1 })),
      passages: [passage(tapped), passage({ kind: "accents", perPhrase: 4 }, null, "p2"), passage(tapped, null, "p3")],
      music: music(100, 0.5, 0.2, { markers }),
    });
    const said = explainFit(asked, fitSlides(asked)).filter(({ kind }) => kind === "no-places");
    expect(said).toEqual([
      { kind: "no-places", of: "taps", passage: 1, name: "" },
      { kind: "no-places", of: "accents", passage: 2, name: "" },
    ]);
    const cut = [{ ...itemAt(markers, 0), kind: "cut" as const }];
    const found = { ...asked, music: { ...asked.music, markers: cut } };
    expect(explainFit(found, fitSlides(found)).filter(({ kind }) => kind === "no-places")).toHaveLength(1);
  });
});

describe("unmet wishes", () => {
  it("are named with what they cost, the dearest first, and none where all is as wished", () => {
    const asked = request({
      slides: slides(10, { 3: { wishedSeconds: 9 }, 4: { landingLockSeconds: 15.2 }, 3.5: {} }),
    });
    const squeezed = {
      ...asked,
      slides: asked.slides.map((one, i) => (i === 2 ? { ...one, landingLockSeconds: 12.2 } : one)),
    };
    const unmet = unmetWishes(squeezed, fitSlides(squeezed));
    const fourth = unmet.find((wish) => wish.kind === "length" && wish.slide === 4);
    expect(fourth && "wishedSeconds" in fourth && fourth.wishedSeconds).toBeCloseTo(9, 9);
    expect(unmet.map(({ cost }) => cost)).toEqual(unmet.map(({ cost }) => cost).toSorted((a, b) => b - a));
    const met = request({ music: inPhrases(music(100)) });
    expect(unmetWishes(met, fitSlides(met))).toEqual([]);
  });
});
