import { describe, expect, it } from "vitest";
import { type FilmFacts, filmFacts, planFilm, showForOutput } from "../film/index.ts";
import type { MusicAnalysis } from "../music/index.ts";
import { subjectOfHeads } from "../picture/index.ts";
import { itemAt, present } from "../presence/index.ts";
import {
  changeSong,
  lockLanding,
  mainOutput,
  newCard,
  newShowDocument,
  newShowSong,
  newSlide,
  newWords,
  type ShowDocument,
  setView,
  type WordPlace,
} from "../show/index.ts";
import { steadySong } from "../testing/index.ts";
import { applyFix, checkFilm, checkLevels, checkMedia, type Finding, type FindingOf, findingText } from "./index.ts";

const HASH = "a".repeat(64);
const WIDE = { width: 3000, height: 2000 };
const music = steadySong(24);

const factsOf = (size = WIDE, heard: MusicAnalysis = music, subject?: { x: number; y: number }): FilmFacts =>
  filmFacts(
    () => heard,
    () => ({
      ...size,
      subject: subject
        ? { point: subject, region: { x: subject.x - 0.05, y: subject.y - 0.05, width: 0.1, height: 0.1 } }
        : null,
    }),
  );

const show = (count: number, more: Partial<ShowDocument> = {}): ShowDocument => ({
  ...newShowDocument("Regatta"),
  slides: Array.from({ length: count }, (_, i) => newSlide({ id: `s${i}`, sha256: HASH, fileName: `${i}.jpg` })),
  songs: [newShowSong({ id: "song 1", sha256: HASH, fileName: "song.wav" })],
  ...more,
});

const found = (document: ShowDocument, facts: FilmFacts = factsOf()): Finding[] =>
  checkFilm(document, planFilm(document, facts), facts);
const ofKind = <Kind extends Finding["kind"]>(findings: readonly Finding[], kind: Kind): FindingOf<Kind>[] =>
  findings.filter((finding): finding is FindingOf<Kind> => finding.kind === kind);

/**
 * Each of a finding's fixes, applied and planned again, must leave nothing of the kind at that
 * slide.
 */
function expectFixed(document: ShowDocument, finding: Finding, facts: FilmFacts = factsOf()): void {
  expect(finding.fixes.length).toBeGreaterThan(0);
  for (const fix of finding.fixes) {
    const left = ofKind(found(applyFix(document, fix), facts), finding.kind).filter(
      ({ place }) => place.slideId === finding.place.slideId,
    );
    expect([fix.kind, left]).toEqual([fix.kind, []]);
  }
}

describe("a film that is well", () => {
  it("has nothing to be found", () => {
    expect(found(show(12))).toEqual([]);
  });
});

describe("times", () => {
  it("finds slides that are gone before they are kept in mind, on both sides of 0.4 s", () => {
    // 0.5 s a beat; at twice the tempo a beat is 0.25 s.
    expect(ofKind(found(show(12, { pace: { kind: "beats", count: 1 } })), "slide-short")).toEqual([]);
    const quick = steadySong(24, 0.25);
    const document = show(96, { pace: { kind: "beats", count: 1 } });
    const short = ofKind(found(document, factsOf(WIDE, quick)), "slide-short");
    expect(short.length).toBeGreaterThan(10);
    expect(short[0]).toMatchObject({ severity: "warning", values: { leastSeconds: 0.4 } });
    expect(itemAt(short, 0).values.seconds).toBeCloseTo(0.24, 2);
    expectFixed(document, itemAt(short, 3), factsOf(WIDE, quick));
  });

  it("finds words that cannot be read in their time: 0.5 s and a third of a second a word", () => {
    const twelve = "one two three four five six seven eight nine ten eleven twelve";
    const withCaption = (caption: string): ShowDocument => {
      const document = show(12, { pace: { kind: "bars", count: 1 } });
      return { ...document, slides: document.slides.map((slide, i) => (i === 4 ? { ...slide, caption } : slide)) };
    };
    // A bar is 2 s, and a dissolve lets the slide be seen for 0.8 s more: three words are read in
    // 1.5 s, twelve in 4.5 s.
    expect(ofKind(found(withCaption("one two three")), "words-short")).toEqual([]);
    const [finding] = ofKind(found(withCaption(twelve)), "words-short");
    expect(finding).toMatchObject({ place: { slideId: "s4" }, severity: "warning" });
    expect(present(finding).values.neededSeconds).toBeCloseTo(0.5 + 12 / 3, 6);
    expectFixed(withCaption(twelve), present(finding));
    expect(ofKind(found(withCaption(`${twelve} ${twelve}`)), "words-short")[0]).toMatchObject({ severity: "error" });
  });
});

describe("framing", () => {
  it("finds pictures that are enlarged more than 1.5 times, in whichever output", () => {
    const small = { width: 1440, height: 960 };
    const still = show(12, { standsStill: true });
    expect(ofKind(found(still, factsOf(small)), "enlarged")).toEqual([]);
    const document = {
      ...still,
      outputs: [...still.outputs, { ...mainOutput(still), id: "4k", name: "4K", size: { width: 3840, height: 2160 } }],
    };
    const enlarged = ofKind(found(document, factsOf(small)), "enlarged");
    expect(enlarged).toHaveLength(12);
    // 3840 pixels of the film over 1440 of the picture.
    expect(enlarged[0]).toMatchObject({ place: { outputs: ["4K"] }, values: { mostTimes: 1.5, output: "4K" } });
    expect(itemAt(enlarged, 0).values.times).toBeCloseTo(3840 / 1440, 3);
    expectFixed(document, itemAt(enlarged, 0), factsOf(small));
  });

  it("finds subjects that a frame put by hand, or another shape, cuts off", () => {
    const facts = factsOf(WIDE, music, { x: 0.1, y: 0.5 });
    const view = { centre: { x: 0.75, y: 0.5 }, zoom: 1.6 };
    const document = setView(show(12), "s3", "16:9", { start: view, end: view });
    expect(ofKind(found(show(12), facts), "subject-cut")).toEqual([]);
    const [finding, ...others] = ofKind(found(document, facts), "subject-cut");
    expect(others).toEqual([]);
    expect(present(finding).place).toMatchObject({ slideId: "s3" });
    expectFixed(document, present(finding), facts);
  });

  it("finds heads that a frame by hand cuts, wherever the subject was put, and nothing else of that slide", () => {
    const head = { x: 0.05, y: 0.2, width: 0.12, height: 0.25 };
    const subject = subjectOfHeads([head]);
    const facts = filmFacts(
      () => music,
      () => ({ ...WIDE, subject }),
    );
    expect(ofKind(found(show(12), facts), "head-cut")).toEqual([]);
    // The person points elsewhere, and the frame follows.
    const view = { centre: { x: 0.62, y: 0.5 }, zoom: 1.4 };
    const pointed = show(12);
    const slides = pointed.slides.map((slide) =>
      slide.id === "s3" ? { ...slide, subject: { x: 0.7, y: 0.5 } } : slide,
    );
    const document = setView({ ...pointed, slides }, "s3", "16:9", { start: view, end: view });
    const [finding, ...others] = ofKind(found(document, facts), "head-cut");
    expect(others).toEqual([]);
    expect(present(finding).place).toMatchObject({ slideId: "s3" });
    expect(findingText(present(finding))).toContain("cuts a head");
    expect(ofKind(found(document, facts), "subject-cut")).toEqual([]);
    expectFixed(document, present(finding), facts);
    // By hand, too, but with the head whole.
    const whole = { centre: { x: 0.38, y: 0.5 }, zoom: 1.3 };
    expect(ofKind(found(setView(show(12), "s3", "16:9", { start: whole, end: whole }), facts), "head-cut")).toEqual([]);
  });

  it("finds words that nobody wrote, and cards without any", () => {
    const blank = newWords("title", " \n");
    const slides = show(12).slides.map((slide) => (slide.id === "s3" ? { ...slide, words: [blank] } : slide));
    const card = newCard("card", [blank], "#0d1f26", 5);
    const document = { ...show(12), slides: [card, ...slides] };
    const [first, second, ...others] = ofKind(found(document), "words-empty");
    expect(others).toEqual([]);
    expect([present(first).place.slideId, present(second).place.slideId]).toEqual(["card", "s3"]);
    expect(findingText(present(first))).toContain("card without words");
    expectFixed(document, present(first));
    expect(ofKind(found(show(12)), "words-empty")).toEqual([]);
  });

  it("finds captions and chosen words that lie on a face, offers a free place, and is silent without faces", () => {
    const head = { x: 0.4, y: 0.62, width: 0.2, height: 0.36 };
    const facts = filmFacts(
      () => music,
      () => ({ ...WIDE, subject: subjectOfHeads([head]) }),
    );
    const caption = "The crews go down to the boats";
    const captioned = show(12);
    const slides = captioned.slides.map((slide) => (slide.id === "s3" ? { ...slide, caption } : slide));
    const document = { ...captioned, slides };
    const [finding, ...others] = ofKind(found(document, facts), "words-on-face");
    expect(others).toEqual([]);
    expect(present(finding).place).toMatchObject({ slideId: "s3" });
    expect(findingText(present(finding))).toContain(caption);
    expectFixed(document, present(finding), facts);
    expect(ofKind(found(document), "words-on-face")).toEqual([]);
    // Words without a place of their own keep off by themselves; chosen ones are said.
    const title = newWords("lower-third", "Crew of the year");
    const written = (place: WordPlace | null): ShowDocument => ({
      ...captioned,
      slides: captioned.slides.map((slide) => (slide.id === "s3" ? { ...slide, words: [{ ...title, place }] } : slide)),
    });
    expect(ofKind(found(written(null), facts), "words-on-face")).toEqual([]);
    const [chosen] = ofKind(found(written("bottom"), facts), "words-on-face");
    expectFixed(written("bottom"), present(chosen), facts);
  });

  it("finds a strip beside a picture that a person framed, and not what is shown whole on purpose", () => {
    const beside = { centre: { x: 0.5, y: 0.5 }, zoom: 0.97 };
    const document = setView(show(12), "s3", "16:9", { start: beside, end: beside });
    const [finding, ...others] = ofKind(found(document), "narrow-gap");
    expect(others).toEqual([]);
    expect(present(finding).values.share).toBeCloseTo(0.015, 4);
    expectFixed(document, present(finding));
    const whole = { centre: { x: 0.5, y: 0.5 }, zoom: 0.6 };
    expect(ofKind(found(setView(show(12), "s3", "16:9", { start: whole, end: whole })), "narrow-gap")).toEqual([]);
  });
});

describe("the music's end", () => {
  const trimmed = (end: number, fadeOutBars: number | null): ShowDocument =>
    changeSong(show(12), "song 1", { trimEndSeconds: end, fadeOutBars });

  it("finds music that is cut off, and a fade that begins off a bar", () => {
    const cut = found(trimmed(20, 0));
    expect(ofKind(cut, "music-cut")).toMatchObject([{ severity: "error", values: { leastSeconds: 0.5 } }]);
    expect(ofKind(found(applyFix(trimmed(20, 0), itemAt(itemAt(cut, 0).fixes, 0))), "music-cut")).toEqual([]);
    // A band that plays on freely: its last bar begins at 14 s, and nothing tells where one could
    // sink at 40.
    const free = factsOf(WIDE, { ...steadySong(8), durationSeconds: 60, musicEndSeconds: 60 });
    const off = ofKind(found(trimmed(40, null), free), "fade-off-bar");
    expect(off).toMatchObject([{ severity: "warning", place: { seconds: 37 } }]);
    expect(itemAt(off, 0).values.offSeconds).toBeCloseTo(37 - 14, 6);
    // With bars there is always one.
    for (const end of [20, 20.7, 21, 33.3])
      expect(found(trimmed(end, null)).filter(({ kind }) => kind === "music-cut" || kind === "fade-off-bar")).toEqual(
        [],
      );
  });
});

describe("locks", () => {
  it("finds those that contradict each other, and frees them", () => {
    const at = (seconds: number) => ({ songId: "song 1", seconds, turn: 0, exact: false });
    const document = lockLanding(lockLanding(show(12), "s2", at(20)), "s6", at(8));
    const locks = ofKind(found(document), "lock");
    expect(locks.length).toBeGreaterThan(0);
    expect(itemAt(locks, 0).severity).toBe("error");
    expect(ofKind(found(applyFix(document, itemAt(itemAt(locks, 0).fixes, 0))), "lock")).toEqual([]);
  });
});

describe("light flashes", () => {
  it("are refused where one would be the fourth within a second, and said", () => {
    const quick = steadySong(24, 0.25);
    const document: ShowDocument = {
      ...show(60, { pace: { kind: "beats", count: 1 } }),
    };
    const flashing = {
      ...document,
      style: {
        ...document.style,
        transition: { kind: "light-flash" as const, length: { unit: "seconds" as const, count: 0.2 } },
      },
    };
    const facts = factsOf(WIDE, quick);
    const plan = planFilm(flashing, facts);
    const at = plan.slots.flatMap(({ transitionIn, startFrame }) =>
      transitionIn.kind === "light-flash" ? [startFrame / 25] : [],
    );
    expect(at.length).toBeGreaterThan(20);
    for (let i = 3; i < at.length; i++) expect(itemAt(at, i) - itemAt(at, i - 3)).toBeGreaterThanOrEqual(1);
    const refused = ofKind(found(flashing, facts), "flash-refused");
    // Four beats a second: every fourth flash.
    expect(refused.length).toBeGreaterThanOrEqual(Math.floor(at.length / 3) - 2);
    expect(ofKind(found(flashing, factsOf(WIDE, steadySong(24, 0.5))), "flash-refused")).toEqual([]);
  });
});

describe("sound and files", () => {
  it("finds a loudness that was not reached, and peaks above -1 dBTP", () => {
    const levels = (integratedLufs: number | null, truePeakDbtp: number) => ({
      integratedLufs,
      truePeakDbtp,
      rangeLu: 3,
      shortTermLufs: [],
    });
    const wished = show(1);
    expect(checkLevels(wished, levels(-14.4, -1.2))).toEqual([]);
    expect(checkLevels(wished, levels(-14.6, -0.9)).map(({ kind }) => kind)).toEqual(["loudness", "true-peak"]);
    expect(checkLevels(wished, levels(-14, -0.9)).map(({ kind }) => kind)).toEqual(["true-peak"]);
    const free = { mix: { ...wished.mix, targetLufs: null } };
    expect(checkLevels(free, levels(-20, -3))).toEqual([]);
    expect(itemAt(itemAt(checkLevels(free, levels(-30, -3)), 0).fixes, 0)).toEqual({ kind: "loudness", lufs: -14 });
    expect(itemAt(checkLevels(free, levels(null, -90)), 0).values).toMatchObject({ lufs: null });
  });

  it("names files that are missing or changed with what uses them", () => {
    const [one, two] = ["b".repeat(64), "c".repeat(64)];
    const document = show(0, {
      slides: [
        newSlide({ id: "s1", sha256: one, fileName: "1.jpg" }),
        { ...newSlide({ id: "s2", sha256: two, fileName: "2.jpg" }), rating: "out" },
      ],
    });
    const trouble = new Map([
      [one, "missing"],
      [two, "missing"],
      [HASH, "changed"],
    ] as const);
    const findings = checkMedia(document, trouble);
    expect(findings.map(({ kind, place }) => [kind, place.slideId])).toEqual([
      ["media-missing", "s1"],
      ["media-changed", null],
    ]);
    const fixed = applyFix(document, itemAt(itemAt(findings, 0).fixes, 0));
    expect(checkMedia(fixed, trouble).map(({ kind }) => kind)).toEqual(["media-changed"]);
  });
});

describe("a short film of some bars", () => {
  it("is found apart, by its name, and its slides are the heroes first", () => {
    const base = show(20);
    const heroes = new Set(["s4", "s9", "s15"]);
    const document: ShowDocument = {
      ...base,
      slides: base.slides.map((slide) => ({
        ...slide,
        hero: heroes.has(slide.id),
        caption: slide.hero ? "" : "Many words that nobody can read in so short a time as this film gives",
      })),
      outputs: [
        ...base.outputs,
        {
          ...mainOutput(base),
          id: "teaser",
          name: "Teaser",
          size: { width: 1080, height: 1920 },
          part: { songId: "song 1", startSeconds: 8, endSeconds: 24, barsPerSlide: 1 },
        },
      ],
    };
    const facts = factsOf();
    const teaser = planFilm(showForOutput(document, itemAt(document.outputs, 1)), facts);
    expect(teaser.totalFrames).toBe(16 * 25);
    // Eight bars, a bar each.
    expect(teaser.slots.length).toBe(8);
    const shown = new Set(teaser.slots.map(({ slideId }) => slideId));
    for (const hero of heroes) expect(shown).toContain(hero);
    const inTeaser = found(document, facts).filter(({ place }) => place.outputs.includes("Teaser"));
    expect(inTeaser.length).toBeGreaterThan(0);
    for (const finding of inTeaser) {
      expect(findingText(finding)).toMatch(/^In Teaser: /);
      expect(finding.fixes.map(({ kind }) => kind)).not.toContain("stand");
    }
    const unseen = { ...itemAt(document.outputs, 1), captions: false };
    const silent = planFilm(showForOutput(document, unseen), facts);
    expect(silent.slots.flatMap(({ words }) => words.sheet)).toEqual([]);
  });
});
