import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, present } from "../presence/index.ts";
import { anyEdit, propertyRuns } from "../testing/index.ts";
import {
  AS_ABOVE,
  addPassage,
  addSong,
  applyTemplate,
  changeMarker,
  changeSlides,
  changeSong,
  changeText,
  chooseSong,
  describeChange,
  dividePassages,
  FIRST_CLIENT_OFFER,
  FIRST_STYLE,
  formerSongOf,
  gatherPassage,
  insertSlides,
  joinPassage,
  lockLanding,
  lockOrder,
  lockPassageStart,
  MOST_FORMER_SONGS,
  mainOutput,
  movePassageStart,
  moveSlides,
  naturalOrder,
  newPassage,
  newShowDocument,
  newShowSong,
  newSlide,
  type OpenLock,
  offeredOutput,
  openLocks,
  orderSlides,
  placeLock,
  posterSlide,
  readShowDocument,
  removeSlides,
  removeSong,
  SHOW_DOCUMENT_VERSION,
  type ShowDocument,
  type SongPlace,
  type StyleWishes,
  sameFilm,
  shiftPassage,
  shiftSlides,
  showDocumentSchema,
  splitPassage,
  templateOf,
  templateSchema,
  turnSlides,
  withMarkers,
  withoutMarkers,
} from "./index.ts";

const HASH = "0123456789abcdef".repeat(4);
const OTHER_HASH = "fedcba9876543210".repeat(4);

/** "ab|cd" is a show of two passages; letters are slides. */
function showOf(text: string): ShowDocument {
  const runs = text.split("|");
  return {
    ...newShowDocument("Regatta"),
    passages: runs.map((_, index) => newPassage(`p${index + 1}`, "")),
    slides: runs.flatMap((run, index) =>
      [...run].map((id) => newSlide({ id, sha256: HASH, fileName: `${id}.jpg` }, `p${index + 1}`)),
    ),
  };
}

const textOf = (show: ShowDocument): string =>
  show.passages
    .map((passage) =>
      show.slides
        .filter((slide) => slide.passageId === passage.id)
        .map(({ id }) => id)
        .join(""),
    )
    .join("|");

const set = (ids: string): ReadonlySet<string> => new Set(ids);
const lettersOf = (show: ShowDocument): string => [...textOf(show).replaceAll("|", "")].sort().join("");

describe("markers of a song", () => {
  const made = (seconds: number, kind: "cut" | "accent" = "cut") =>
    ({ seconds, name: "", kind, origin: "placed" }) as const;

  it("stand in order of time, with ids of their own; what is there already is not added", () => {
    const first = withMarkers([], [made(3), made(1), made(1.01)]);
    expect(first.map(({ id, seconds }) => [id, seconds])).toEqual([
      ["m1", 1],
      ["m2", 3],
    ]);
    const more = withMarkers(first, [made(2.99), made(3.01), made(3, "accent"), made(2)]);
    expect(more.map(({ id, seconds, kind }) => [id, seconds, kind])).toEqual([
      ["m1", 1, "cut"],
      ["m3", 2, "cut"],
      ["m2", 3, "cut"],
      ["m4", 3, "accent"],
    ]);
    expect(withoutMarkers(more, new Set(["m2", "m3"])).map(({ id }) => id)).toEqual(["m1", "m4"]);
  });

  it("keep their order when one is moved, and where they came from", () => {
    const moved = changeMarker(withMarkers([], [made(1), made(2)]), "m1", {
      seconds: 5,
      name: "Lanterns",
      kind: "note",
    });
    expect(moved.at(-1)).toEqual({ id: "m1", seconds: 5, name: "Lanterns", kind: "note", origin: "placed" });
    expect(moved).toHaveLength(2);
  });

  it("are refused beyond the most that a song has", () => {
    const many = Array.from({ length: 20_001 }, (_, i) => made(i / 10));
    expect(() => withMarkers([], many)).toThrow(/at most 20000 markers.*20001/);
  });
});

describe("any sequence of edits", () => {
  it("leaves a valid document and every document before it as it was", () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 40 }), (edits) => {
        let show = showOf("abc|def");
        const history: [ShowDocument, string][] = [];
        for (const edit of edits) {
          history.push([show, JSON.stringify(show)]);
          show = edit.apply(show);
          const checked = showDocumentSchema.safeParse(show);
          if (!checked.success) throw new Error(`${edit.name}: ${checked.error.message}`);
        }
        for (const [document, text] of history) expect(JSON.stringify(document)).toBe(text);
      }),
      { numRuns: propertyRuns },
    );
  });
});

describe("order by hand", () => {
  it.each([
    ["ab|cd", "a", "p2", "d", "b|cad"],
    ["ab|cd", "ac", "p1", "b", "acb|d"],
    ["ab|cd", "ab", "p2", null, "|cdab"],
    ["abcd", "bc", "p1", "b", "abcd"],
    ["abcd", "bd", "p1", "b", "abdc"],
    ["ab||cd", "d", "p2", null, "ab|d|c"],
    ["ab|cd", "a", "p1", "c", "ba|cd"],
  ])("%s: %s before %s %s gives %s", (from, ids, passageId, beforeId, to) => {
    expect(textOf(moveSlides(showOf(from), set(ids), { passageId, beforeId }))).toBe(to);
  });

  it.each([
    ["abcd", "b", 1, "acbd"],
    ["abcd", "bd", -1, "bdac"],
    ["abcd", "a", -1, "abcd"],
    ["abcd", "d", 9, "abcd"],
    ["ab|cd", "b", 1, "a|bcd"],
    ["ab|cd", "c", -1, "abc|d"],
    ["ab|cd", "a", 3, "b|ca" + "d"],
    ["ab||c", "b", 1, "a|b|c"],
  ])("%s: %s moved by %d gives %s", (from, ids, steps, to) => {
    expect(textOf(shiftSlides(showOf(from), set(ids), steps))).toBe(to);
  });

  it("never loses or doubles a slide, whatever is moved where", () => {
    const move = fc.tuple(
      fc.uniqueArray(fc.constantFrom(..."abcdef")),
      fc.constantFrom("p1", "p2", "nobody"),
      fc.option(fc.constantFrom(..."abcdefg")),
      fc.integer({ min: -8, max: 8 }),
    );
    fc.assert(
      fc.property(fc.array(move, { maxLength: 20 }), (moves) => {
        let show = showOf("abc|def");
        for (const [ids, passageId, beforeId, steps] of moves) {
          show = shiftSlides(moveSlides(show, new Set(ids), { passageId, beforeId }), new Set(ids), steps);
          expect(lettersOf(show)).toBe("abcdef");
        }
      }),
      { numRuns: propertyRuns },
    );
  });
});

describe("order by itself", () => {
  const named = (...names: string[]): ShowDocument => ({
    ...newShowDocument("Regatta"),
    slides: names.map((fileName, index) => newSlide({ id: `${index}`, sha256: HASH, fileName })),
  });
  const namesOf = (show: ShowDocument): string[] => show.slides.map(({ fileName }) => fileName);

  it("by file name puts 2 before 10", () => {
    const show = named("10.jpg", "2.jpg", "IMG_3.jpg", "img_20.jpg", "1.jpg");
    expect(namesOf(orderSlides(show, null, { kind: "name" }))).toEqual([
      "1.jpg",
      "2.jpg",
      "10.jpg",
      "IMG_3.jpg",
      "img_20.jpg",
    ]);
    expect(["10", "2", "a", "A"].sort(naturalOrder)).toEqual(["2", "10", "A", "a"]);
  });

  it("by time breaks ties by name and puts files without a time last", () => {
    const show = named("b", "a", "late", "none 1", "early", "none 0");
    const times: Record<string, number> = { b: 5, a: 5, late: 9, early: 1 };
    const order = { kind: "time" as const, secondsOf: ({ fileName }: { fileName: string }) => times[fileName] ?? null };
    expect(namesOf(orderSlides(show, null, order))).toEqual(["early", "a", "b", "late", "none 1", "none 0"]);
  });

  it("moves only the named slides, among the places that they held, and only within their passages", () => {
    expect(textOf(orderSlides(showOf("dcba|hgfe"), set("dbhe"), { kind: "name" }))).toBe("bcda|egfh");
  });

  it("shuffles the same way for the same seed and reaches every order of three about as often", () => {
    const seen = new Map<string, number>();
    for (let seed = 0; seed < 3000; seed++) {
      const text = textOf(orderSlides(showOf("abc"), null, { kind: "shuffle", seed }));
      expect(textOf(orderSlides(showOf("abc"), null, { kind: "shuffle", seed }))).toBe(text);
      seen.set(text, (seen.get(text) ?? 0) + 1);
    }
    expect(seen.size).toBe(6);
    // 500 each are expected; five standard deviations of the binomial are 102.
    for (const count of seen.values()) expect(Math.abs(count - 500)).toBeLessThan(102);
  });

  it("agrees with a plain sort, whatever the show", () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.string({ minLength: 1, maxLength: 6 }), { maxLength: 30 }), (names) => {
        expect(namesOf(orderSlides(named(...names), null, { kind: "name" }))).toEqual([...names].sort(naturalOrder));
      }),
      { numRuns: propertyRuns },
    );
  });
});

describe("a client's order", () => {
  const locked = lockOrder(showOf("abc|de"), true);

  it("refuses every change of order and takes new pictures at its end", () => {
    for (const change of [
      () => moveSlides(locked, set("a"), { passageId: "p1", beforeId: null }),
      () => shiftSlides(locked, set("e"), -1),
      () => orderSlides(locked, null, { kind: "shuffle", seed: 5 }),
      () => gatherPassage(locked, set("a"), "Crews"),
      () => shiftPassage(locked, "p2", -1),
    ]) {
      expect(change).toThrow(expect.objectContaining({ code: "order-locked" }));
    }
    const slide = newSlide({ id: "x", sha256: HASH, fileName: "x.jpg" });
    expect(textOf(insertSlides(locked, [slide], { passageId: "p1", beforeId: "a" }))).toBe("abc|dex");
    expect(textOf(lockOrder(shiftSlides(lockOrder(locked, false), set("a"), 1), true))).toBe("bac|de");
  });

  it("still lets passages be divided, since that moves nothing", () => {
    expect(textOf(splitPassage(locked, "b"))).toBe("a|bc|de");
    expect(textOf(shiftSlides(locked, set("c"), 1))).toBe("ab|cde");
  });
});

describe("passages", () => {
  it("are split, joined, added, gathered, moved and divided", () => {
    const show = showOf("abcd|ef");
    expect(textOf(splitPassage(show, "c"))).toBe("ab|cd|ef");
    expect(splitPassage(show, "a")).toBe(show);
    expect(splitPassage(show, "e")).toBe(show);
    expect(textOf(joinPassage(show, "p2"))).toBe("abcdef");
    expect(textOf(joinPassage(show, "p1"))).toBe("abcdef");
    expect(joinPassage(showOf("ab"), "p1").passages).toHaveLength(1);
    expect(textOf(addPassage(show, "p1", "Race"))).toBe("abcd||ef");
    expect(textOf(gatherPassage(show, set("bde"), "Race"))).toBe("ac|bde|f");
    expect(textOf(shiftPassage(show, "p2", -1))).toBe("ef|abcd");
    const beginnings = [
      { slideId: "c", name: "Race" },
      { slideId: "f", name: "Dance" },
    ];
    const divided = dividePassages(show, beginnings);
    expect(textOf(divided)).toBe("ab|cde|f");
    expect(divided.passages.map(({ name }) => name)).toEqual(["", "Race", "Dance"]);
  });

  it("keep their settings when split, and the first one's when joined", () => {
    const cut = { kind: "cut" as const };
    const show = showOf("ab|cd");
    const styled = {
      ...show,
      passages: show.passages.map((p, i) => ({ ...p, style: { ...AS_ABOVE, transition: i === 0 ? cut : null } })),
    };
    expect(splitPassage(styled, "b").passages.map(({ style }) => style.transition)).toEqual([cut, cut, null]);
    expect(joinPassage(styled, "p2").passages.map(({ style }) => style.transition)).toEqual([cut]);
  });
});

describe("other edits", () => {
  it("change, turn, remove and choose a poster", () => {
    const show = showOf("abc");
    const changed = changeSlides(show, set("ac"), { rating: "out" });
    expect(changed.slides.map(({ rating }) => rating)).toEqual(["out", "keep", "out"]);
    expect(changeSlides(changed, set("ac"), { rating: "out" })).toBe(changed);
    expect(present(posterSlide(changed)).id).toBe("b");
    expect(itemAt(turnSlides(show, set("a"), -1).slides, 0).turn).toBe(270);
    expect(itemAt(turnSlides(turnSlides(show, set("a"), 3), set("a"), 1).slides, 0).turn).toBe(0);
    const withPoster = { ...show, posterSlideId: "b" };
    expect(removeSlides(withPoster, set("b"))).toMatchObject({ posterSlideId: null });
    expect(removeSlides(withPoster, set("x"))).toBe(withPoster);
  });

  describe("of songs", () => {
    const race = { sha256: OTHER_HASH, fileName: "race.wav" };
    const waltz = { sha256: HASH, fileName: "waltz.wav" };
    const begun = chooseSong(showOf("ab|c"), race);
    const songId = itemAt(begun.songs, 0).id;
    const at = (seconds: number): SongPlace => ({ songId, seconds, turn: 0 });
    const locked = lockPassageStart(lockLanding(begun, "b", at(12), true), itemAt(begun.passages, 1).id, at(20));
    const decided = changeSong(locked, songId, { gridEdits: [{ kind: "twice" }] });

    it("take another song and lose nothing: locks wait, and the old song comes back as it was", () => {
      const changed = chooseSong(decided, waltz);
      expect(changed.songs).toMatchObject([{ ...waltz, gridEdits: [] }]);
      expect(itemAt(changed.songs, 0).id).not.toBe(songId);
      expect(chooseSong(changed, waltz)).toBe(changed);
      expect(openLocks(changed)).toEqual([
        { kind: "passage", id: itemAt(begun.passages, 1).id, place: at(20), exact: false },
        { kind: "landing", id: "b", place: { ...at(12), exact: true }, exact: true },
      ]);
      expect(formerSongOf(changed, itemAt(openLocks(changed), 0))).toEqual(decided.songs[0]);
      const back = chooseSong(changed, race);
      expect({ ...back, formerSongs: [] }).toEqual(decided);
      expect(openLocks(back)).toEqual([]);
    });

    it("place an open lock on the new song, or free it, and leave the others", () => {
      const changed = chooseSong(decided, waltz);
      const [start, landing] = openLocks(changed) as [OpenLock, OpenLock];
      const place = { songId: itemAt(changed.songs, 0).id, seconds: 3, turn: 0 };
      const placed = placeLock(placeLock(changed, landing, place), start, null);
      expect(itemAt(placed.slides, 1).landingLock).toEqual({ ...place, exact: true });
      expect(itemAt(placed.passages, 1).startLock).toBeNull();
      expect(openLocks(placed)).toEqual([]);
    });

    it("keep what was decided about a song that is taken out, and not its locks apart from it", () => {
      const without = removeSong(decided, songId);
      expect(without.songs).toEqual([]);
      expect(openLocks(without)).toHaveLength(2);
      expect({ ...addSong(without, race), formerSongs: [] }).toEqual(decided);
      // The same file a second time is another song.
      const twice = addSong(decided, race);
      expect(twice.songs.map(({ id, gridEdits }) => [id, gridEdits.length])).toEqual([
        [songId, 1],
        ["song 2", 0],
      ]);
    });

    it("remember the last of many", () => {
      const hash = (i: number): string => String(i).padStart(64, "0");
      let show = begun;
      for (let i = 0; i < 30; i++) show = chooseSong(show, { sha256: hash(i), fileName: `${i}.wav` });
      expect(show.formerSongs).toHaveLength(MOST_FORMER_SONGS);
      expect(itemAt(show.formerSongs, 0).fileName).toBe("28.wav");
      expect(showDocumentSchema.parse(show)).toEqual(show);
    });
  });
});

describe("templates", () => {
  const made = {
    ...showOf("ab|cd"),
    frameRate: { num: 24, den: 1 },
    style: { ...FIRST_STYLE, fill: { kind: "colour" as const, colour: "#102030" } },
  };
  const template = templateOf({
    ...made,
    passages: made.passages.map((p, i) => ({
      ...p,
      name: itemAt(["Crews", "Dance"], i),
      style: { ...AS_ABOVE, transition: { kind: "cut" as const } },
    })),
  });

  it("hold style and rules and no media", () => {
    expect(JSON.stringify(template)).not.toMatch(/sha256|slides|fileName/);
  });

  it("carry outputs and what the client page offers", () => {
    const clientOffer = {
      ...FIRST_CLIENT_OFFER,
      downloads: true,
      price: { minorUnits: 9900, currency: "CHF" },
      watermark: { text: "Proof", place: "middle", strength: 0.5, onPage: true, onDownloads: false },
    } as const;
    const player = { ...mainOutput(made), id: "player", container: "player" } as const;
    const from = templateOf({ ...made, outputs: [player], clientOffer });
    const applied = applyTemplate(newShowDocument("New"), templateSchema.parse(JSON.parse(JSON.stringify(from))));
    expect(applied).toMatchObject({ outputs: [player], clientOffer });
    expect(sameFilm(applied, { ...applied, clientOffer: FIRST_CLIENT_OFFER })).toBe(true);
    expect(sameFilm(applied, { ...applied, seed: applied.seed + 1 })).toBe(false);
    // A client page shows a video: of none but a player there is nothing to show.
    expect(offeredOutput([player], clientOffer)).toBeNull();
    expect(offeredOutput([player, mainOutput(made)], { outputId: "player" })?.id).toBe("main");
  });

  it("give an empty show their passages, and one with pictures the settings of those of the same name", () => {
    const fresh = applyTemplate(newShowDocument("New"), template);
    expect(fresh).toMatchObject({ title: "New", frameRate: { num: 24 }, slides: [] });
    expect(fresh.passages.map(({ name }) => name)).toEqual(["Crews", "Dance"]);
    const full = {
      ...showOf("ab|c"),
      passages: [newPassage("p1", "Dance"), newPassage("p2", "")],
    };
    const applied = applyTemplate(full, template);
    expect(textOf(applied)).toBe("ab|c");
    expect(applied.passages.map(({ style }) => style.transition)).toEqual([{ kind: "cut" }, null]);
    expect(showDocumentSchema.safeParse(applied).success).toBe(true);
  });
});

describe("the border of a passage", () => {
  const list = ["a", "b", "c", "d", "e"].map((id) => newSlide({ id, sha256: HASH, fileName: `${id}.jpg` }));
  const base = splitPassage({ ...newShowDocument("Regatta"), slides: list }, "c", "Race");
  const second = itemAt(base.passages, 1).id;
  const border = (show: ShowDocument): string =>
    show.slides.map(({ id, passageId }) => (passageId === second ? id.toUpperCase() : id)).join("");

  it("moves to a slide of either side, and to the ends, without changing the order", () => {
    expect(border(base)).toBe("abCDE");
    expect(border(movePassageStart(base, second, "d"))).toBe("abcDE");
    expect(border(movePassageStart(base, second, "a"))).toBe("ABCDE");
    expect(border(movePassageStart(base, second, null))).toBe("abcde");
    expect(movePassageStart(base, second, "c")).toBe(base);
    expect(movePassageStart(base, itemAt(base.passages, 0).id, "c")).toBe(base);
  });
});

/** What stood in documents before version 6 where the style is now. */
const LOOK_BEFORE_6 = { transition: { kind: "dissolve", seconds: 0.8 }, fill: { kind: "blur" } } as const;

/** A new show as a program before version 6 would have written it. */
function before6(title: string, version: number): Record<string, unknown> {
  const fresh = newShowDocument(title);
  const passages = fresh.passages.map(({ id, name, pace, startLock }) => ({
    id,
    name,
    pace,
    startLock,
    transition: null,
  }));
  const later = { style: undefined, standsStill: undefined, seed: undefined };
  return { ...fresh, ...later, ...LOOK_BEFORE_6, version, passages };
}

/**
 * A new show as it is after such a one was read: what was there has its look, and still stands
 * still.
 */
const readFrom5 = (title: string): ShowDocument => ({
  ...newShowDocument(title),
  style: {
    ...FIRST_STYLE,
    fill: { kind: "blur" },
    move: { kind: "still", strength: 0.5, withMusic: false },
    letters: { ...FIRST_STYLE.letters, titleSet: null },
    captions: { ...FIRST_STYLE.captions, shown: false },
  },
});

function slideBefore6(id: string): Record<string, unknown> {
  const slide: Record<string, unknown> = newSlide({ id, sha256: HASH, fileName: `${id}.jpg` });
  for (const later of ["style", "subject", "views", "words", "more", "layout"]) delete slide[later];
  return slide;
}

describe("documents of other versions", () => {
  it("reads one of version 1 with everything that it held", () => {
    const { frameRate, size } = newShowDocument("Old");
    const slide = { id: "a", sha256: HASH, fileName: "a.jpg" };
    const song = { sha256: OTHER_HASH, fileName: "race.wav" };
    const gridEdits = [{ kind: "nudge", milliseconds: 7 }];
    const read = readShowDocument({
      ...{ version: 1, title: "Old", frameRate, size, ...LOOK_BEFORE_6 },
      ...{ slides: [{ ...slide, landingLockSeconds: 12.5 }], pace: { kind: "bar" }, song, gridEdits },
    });
    const songId = itemAt(read.songs, 0).id;
    expect(read).toMatchObject({
      version: SHOW_DOCUMENT_VERSION,
      title: "Old",
      lead: { kind: "song" },
      pace: { kind: "bars", count: 1 },
      songs: [{ ...song, gridEdits, markers: [], joins: [], speed: 1 }],
      slides: [
        {
          ...slide,
          rating: "keep",
          landingLock: { songId, seconds: 12.5, turn: 0, exact: false },
          length: null,
          stays: false,
        },
      ],
      passages: [{ pace: null, startLock: null }],
    });
    expect(showDocumentSchema.parse(read)).toEqual(read);
    const silent = readShowDocument({ ...before6("New", 2), song: null, gridEdits: [] });
    expect(silent).toEqual(readFrom5("New"));
  });

  it("reads one of version 3, whose pace was the whole show's", () => {
    const three = {
      ...before6("Three", 3),
      lead: undefined,
      pace: { kind: "bar" },
      passages: [{ id: "p1", name: "Race", transition: null }],
      slides: [
        {
          id: "a",
          sha256: HASH,
          fileName: "a.jpg",
          passageId: "p1",
          caption: "",
          rating: "keep",
          hero: true,
          turn: 0,
          landingLock: null,
        },
      ],
    };
    expect(readShowDocument(three)).toEqual({
      ...readFrom5("Three"),
      pace: { kind: "bars", count: 1 },
      passages: [newPassage("p1", "Race")],
      slides: [{ ...newSlide({ id: "a", sha256: HASH, fileName: "a.jpg" }), hero: true }],
    });
  });

  it("reads one of version 4, whose locks were beats and whose transitions landed with their middle", () => {
    const lock = { songId: "song 1", seconds: 3, turn: 0 };
    const slide = { ...slideBefore6("a"), clip: undefined };
    const four = {
      ...before6("Four", 4),
      transitionLanding: undefined,
      slides: [
        { ...slide, landingLock: lock },
        { ...slide, id: "b" },
      ],
    };
    const read = readShowDocument(JSON.parse(JSON.stringify(four)));
    expect(read.transitionLanding).toEqual({ point: "middle", leadFrames: 0 });
    expect(read.slides.map((one) => [one.landingLock, one.clip])).toEqual([
      [{ ...lock, exact: false }, null],
      [null, null],
    ]);
  });

  it("reads one of version 5, whose look was a fill and one transition a passage", () => {
    const five = {
      ...before6("Five", 5),
      fill: { kind: "colour", colour: "#102030" },
      passages: [
        { id: "p1", name: "Race", transition: { kind: "dissolve", seconds: 2 }, pace: null, startLock: null },
        { id: "p2", name: "", transition: null, pace: null, startLock: null },
      ],
      slides: [slideBefore6("a")],
    };
    const read = readShowDocument(five);
    expect(read.style).toEqual({
      ...FIRST_STYLE,
      fill: { kind: "colour", colour: "#102030" },
      move: { kind: "still", strength: 0.5, withMusic: false },
      letters: { ...FIRST_STYLE.letters, titleSet: null },
      captions: { ...FIRST_STYLE.captions, shown: false },
    });
    const length = { unit: "seconds", count: 2 };
    expect(read.passages.map(({ style }) => style)).toEqual([
      { ...AS_ABOVE, transition: { kind: "dissolve", length } },
      AS_ABOVE,
    ]);
    expect(read.slides).toEqual([newSlide({ id: "a", sha256: HASH, fileName: "a.jpg" })]);
    expect(showDocumentSchema.parse(read)).toEqual(read);
    const { frameRate, size, pace, transition, fill, passages } = five as unknown as Record<string, unknown>;
    const template = templateSchema.parse({ frameRate, size, pace, transition, fill, passages });
    expect(template.style).toEqual(read.style);
    expect(template.passages.map(({ style }) => style.transition)).toEqual([{ kind: "dissolve", length }, null]);
  });

  it("reads one of version 6, which drew no words: captions stay unseen until somebody asks for them", () => {
    const style = { transition: { kind: "cut" }, fill: { kind: "crop" }, move: FIRST_STYLE.move };
    const own = { transition: null, fill: { kind: "blur" }, move: null };
    const slide: Record<string, unknown> = newSlide({ id: "a", sha256: HASH, fileName: "a.jpg" });
    for (const later of ["words", "more", "layout"]) delete slide[later];
    const passages = [{ id: "p1", name: "Race", style: own, pace: null, startLock: null }];
    const slides = [{ ...slide, caption: "At the quay", style: own }];
    const read = readShowDocument({ ...newShowDocument("Six"), version: 6, style, passages, slides });
    expect(showDocumentSchema.parse(read)).toEqual(read);
    const captions = { ...FIRST_STYLE.captions, shown: false };
    const letters = { ...FIRST_STYLE.letters, titleSet: null };
    expect(read.style).toEqual({ ...FIRST_STYLE, ...style, letters, captions });
    expect(itemAt(read.passages, 0).style).toEqual({ ...AS_ABOVE, fill: { kind: "blur" } });
    expect(read.slides[0]).toMatchObject({
      caption: "At the quay",
      words: [],
      style: { letters: null, captions: null },
    });
    const template = templateSchema.parse({ ...templateOf(newShowDocument("")), style, passages });
    expect(template.style).toEqual(read.style);
  });

  it("reads one of version 7, which had no voices: its films are as loud as they were, and their clips silent", () => {
    const seven: Record<string, unknown> = { ...newShowDocument("Seven"), version: 7 };
    const slide: Record<string, unknown> = newSlide({ id: "a", sha256: HASH, fileName: "a.mp4" });
    const song: Record<string, unknown> = newShowSong({ id: "song 1", sha256: HASH, fileName: "song.wav" });
    for (const later of ["voices", "mix"]) delete seven[later];
    delete slide["sound"];
    for (const later of ["decibels", "muted"]) delete song[later];
    const read = readShowDocument({ ...seven, slides: [slide], songs: [song] });
    expect(showDocumentSchema.parse(read)).toEqual(read);
    expect(read).toMatchObject({ voices: [], mix: { targetLufs: null, evensSongs: false } });
    expect(itemAt(read.slides, 0).sound).toBeNull();
    expect(read.songs[0]).toMatchObject({ decibels: 0, muted: false });
    const { mix, ...old } = templateOf(newShowDocument("")) as unknown as Record<string, unknown>;
    expect(templateSchema.parse(old).mix).toEqual(mix);
  });

  it("reads one of version 9, which had no client page", () => {
    const { clientOffer, ...nine } = newShowDocument("Nine");
    expect(readShowDocument({ ...nine, version: 9 })).toEqual({ ...nine, clientOffer });
    const old: Record<string, unknown> = { ...templateOf(newShowDocument("")) };
    delete old["clientOffer"];
    expect(templateSchema.parse(old).clientOffer).toEqual(clientOffer);
  });

  it("reads one of version 15, whose fills were for films of all shapes, and templates of that time", () => {
    const without = <T extends { readonly style: object }>(one: T): object => {
      const style: Partial<StyleWishes> = { ...(one.style as StyleWishes) };
      delete style.shapeFills;
      return { ...one, style };
    };
    const show = { ...newShowDocument("Fifteen"), slides: [newSlide({ id: "a", sha256: HASH, fileName: "a.jpg" })] };
    const { passages, slides } = show;
    const old = { ...without(show), passages: passages.map(without), slides: slides.map(without), version: 15 };
    expect(readShowDocument(old)).toEqual(show);
    const card = { words: [], length: null, stays: true, style: AS_ABOVE };
    const passage = { name: "Race", style: AS_ABOVE, pace: null, opening: [card], closing: [card] };
    const template = { ...templateOf(show), passages: [passage] };
    const cards = [without(card)];
    const read = templateSchema.parse({
      ...without(template),
      passages: [{ ...without(passage), opening: cards, closing: cards }],
    });
    expect(read).toEqual(template);
  });

  it("refuses one of a later program with the reason, and what is no document", () => {
    expect(() => readShowDocument({ version: 99 })).toThrow(expect.objectContaining({ code: "document-too-new" }));
    for (const nothing of [null, 7, {}, { version: 3 }, { version: 2, song: 7 }])
      expect(() => readShowDocument(nothing)).toThrow();
  });

  it("refuses slides outside their passage's run, and ids that come twice", () => {
    const show = showOf("ab|c");
    const [a, b, c] = show.slides;
    for (const slides of [
      [present(c), present(a), present(b)],
      [present(a), present(a)],
      [{ ...present(a), passageId: "p9" }],
    ]) {
      expect(showDocumentSchema.safeParse({ ...show, slides }).success).toBe(false);
    }
    expect(showDocumentSchema.safeParse({ ...show, passages: [show.passages[0], show.passages[0]] }).success).toBe(
      false,
    );
  });
});

describe("what changed", () => {
  const show = showOf("abc");
  it.each([
    ["nothing", show, []],
    ["order", shiftSlides(show, set("a"), 1), [{ kind: "order" }]],
    ["one removed", removeSlides(show, set("b")), [{ kind: "gone", slides: { count: 1, fileName: "b.jpg" } }]],
    [
      "ratings",
      changeSlides(show, set("ab"), { rating: "maybe" }),
      [{ kind: "rated", slides: { count: 2, fileName: null } }],
    ],
    ["name", { ...show, title: "Race" }, [{ kind: "title", title: "Race" }]],
    ["passages", splitPassage(show, "b"), [{ kind: "passages" }]],
    [
      "lengths",
      changeSlides(show, new Set(["a"]), { length: { seconds: 3, locked: true } }),
      [{ kind: "lengthened", slides: { count: 1, fileName: "a.jpg" } }],
    ],
    ["lead", { ...show, lead: { kind: "slides" as const } }, [{ kind: "lead" }]],
  ])("%s", (_what, after, changes) => {
    expect(describeChange(show, after)).toEqual(changes);
  });

  it("is said in a few words, with numbers in singular and plural", () => {
    const said = (slides: { count: number; fileName: string | null }): string => changeText({ kind: "rated", slides });
    expect(said({ count: 2, fileName: null })).toBe("2 pictures rated");
    expect(said({ count: 1, fileName: "a.jpg" })).toBe("“a.jpg” rated");
    expect(changeText({ kind: "title", title: "Race" })).toBe("named “Race”");
    expect(changeText({ kind: "songs", fileNames: [] })).toBe("song removed");
  });
});
