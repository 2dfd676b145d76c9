import { createHash } from "node:crypto";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { filmFacts, planFilm } from "../film/index.ts";
import { itemAt, present } from "../presence/index.ts";
import {
  newCard,
  newPassage,
  newShowDocument,
  newShowSong,
  newSlide,
  newWords,
  type ShowDocument,
} from "../show/index.ts";
import { propertyRuns, steadySong } from "../testing/index.ts";
import { NAMED_FRAME_RATES } from "../time/index.ts";
import {
  compareTimings,
  mediaNames,
  readEditList,
  readOtio,
  type Timeline,
  timelineOf,
  writeEditList,
  writeOtio,
  writeSlotTable,
} from "./index.ts";

const hashOf = (i: number): string => String(i).padStart(64, "0");
const facts = filmFacts(
  () => steadySong(10),
  (sha256) => (sha256 === hashOf(3) ? { width: 640, height: 360, durationSeconds: 30 } : { width: 3000, height: 2000 }),
);
const names = [
  "01 painting.jpg",
  "02 painting.jpg",
  "lanterns ünder the bridge.jpg",
  "race.mp4",
  "=prize.jpg",
  "dance.jpg",
];
const slides = names.map((fileName, i) => newSlide({ id: `s${i}`, sha256: hashOf(i), fileName }));
const base: ShowDocument = {
  ...newShowDocument("Closing night"),
  passages: [newPassage("p1", "The quay"), newPassage("p2", "The dance")],
  slides: [
    newCard("card", [newWords("title", "Closing night\nof the regatta")], "#0d1f26", 3),
    ...slides.map((slide, i) => ({
      ...slide,
      passageId: i < 4 ? "p1" : "p2",
      clip: i === 3 ? { inSeconds: 2, outSeconds: null, momentSeconds: null, speed: 0.5 } : null,
      caption: i === 1 ? "The last coat" : "",
      style:
        i === 2
          ? {
              ...slide.style,
              transition: {
                kind: "wipe" as const,
                length: { unit: "seconds" as const, count: 1 },
                direction: "right" as const,
                softness: 0.1,
              },
            }
          : i === 4
            ? { ...slide.style, transition: { kind: "cut" as const } }
            : slide.style,
    })),
  ],
  songs: [newShowSong({ id: "song 1", sha256: "a".repeat(64), fileName: "Lanterns on the Water.wav" })],
  pace: { kind: "bars", count: 1 },
};
const timelineAt = (rate: keyof typeof NAMED_FRAME_RATES, show = base): Timeline => {
  const document = { ...show, frameRate: NAMED_FRAME_RATES[rate] };
  return timelineOf(document, planFilm(document, facts));
};

describe("names of media", () => {
  const anyName = fc.oneof(
    fc.constantFrom(
      "IMG_0001.JPG",
      "img_0001.jpg",
      "IMG_0001",
      "a/b/IMG_0001.JPG",
      "..",
      "",
      "\u0000.mp4",
      "é.png",
      "e\u0301.png",
    ),
    fc.string({ unit: "binary", maxLength: 40 }),
  );

  it("are one a content, no two alike for any file system, and the same whatever the order of slides", () => {
    fc.assert(
      fc.property(fc.array(anyName, { maxLength: 12 }), fc.nat(99), (fileNames, seed) => {
        const shown = fileNames.map((fileName, i) =>
          newSlide({ id: `s${i}`, sha256: createHash("sha256").update(`${i}`).digest("hex"), fileName }),
        );
        const given = mediaNames({ slides: shown, songs: [], voices: [] });
        expect(given.size).toBe(fileNames.length);
        const lower = [...given.values()].map((name) => name.normalize("NFC").toLowerCase());
        expect(new Set(lower).size).toBe(fileNames.length);
        for (const name of given.values()) expect(name).toMatch(/^(?!\.)[^\p{C}<>:"/\\|?*]+$/u);
        const turned = [...shown.slice(seed % 12), ...shown.slice(0, seed % 12)];
        expect(new Map([...mediaNames({ slides: turned, songs: [], voices: [] })].sort())).toEqual(
          new Map([...given].sort()),
        );
      }),
      { numRuns: propertyRuns },
    );
  });

  it("of two cameras that both wrote one name are told apart in timeline, edit list and table", () => {
    const twice = {
      ...base,
      slides: base.slides.map((slide) =>
        slide.id === "s0" || slide.id === "s1" ? { ...slide, fileName: "IMG_0001.jpg" } : slide,
      ),
    };
    const timeline = timelineAt("25", twice);
    const [first, second] = [0, 1].map((i) => `IMG_0001-${hashOf(i).slice(0, 6)}`);
    // The hashes of this test differ only at their end.
    const found = timeline.items.map(({ fileName }) => fileName).filter((name) => name?.startsWith("IMG_0001"));
    expect(new Set(found).size).toBe(2);
    expect(found[0]).toContain(first);
    expect(found[1]).toContain(second);
    for (const name of found) {
      expect(writeOtio({ ...timeline, mediaFolder: "media/" })).toContain(`"target_url": "media/${name}"`);
      expect(writeEditList(timeline)).toContain(`CLIP NAME: ${name}`);
      expect(writeSlotTable(timeline)).toContain(`${name}`);
    }
    expect(compareTimings(timeline, readEditList(writeEditList(timeline), timeline.rate))).toEqual([]);
  });
});

describe("an OpenTimelineIO file", () => {
  it("is as it is written down", async () => {
    await expect(writeOtio(timelineAt("25"))).toMatchFileSnapshot("golden/regatta.otio");
  });

  it("comes back with every change in its frame, at every rate", () => {
    for (const rate of Object.keys(NAMED_FRAME_RATES) as (keyof typeof NAMED_FRAME_RATES)[]) {
      const timeline = timelineAt(rate);
      const read = readOtio(writeOtio(timeline));
      expect([read.name, read.rate, read.remarks]).toEqual(["Closing night", timeline.rate, []]);
      expect(read.items).toEqual(
        timeline.items.map(({ name, startFrame, endFrame }) => ({ name, startFrame, endFrame })),
      );
      expect(compareTimings(timeline, read)).toEqual([]);
    }
  });

  it("has transitions that reach as far into their neighbours as they are drawn, and tracks as long as the film", () => {
    const timeline = timelineAt("29.97");
    const { tracks } = JSON.parse(writeOtio(timeline)) as {
      tracks: { children: { kind: string; children: Record<string, never>[] }[] };
    };
    interface Value {
      readonly value: number;
      readonly rate: number;
    }
    const children = itemAt(tracks.children, 0).children as unknown as {
      OTIO_SCHEMA: string;
      in_offset: Value;
      out_offset: Value;
      source_range: { duration: Value };
    }[];
    let at = 0;
    let slot = 0;
    for (const child of children)
      if (child.OTIO_SCHEMA === "Transition.1") {
        const { transition } = itemAt(timeline.items, slot);
        expect([at - child.in_offset.value, at + child.out_offset.value]).toEqual([
          transition.startFrame,
          transition.endFrame,
        ]);
      } else {
        expect(child.source_range.duration.rate).toBe(30_000 / 1001);
        at += child.source_range.duration.value;
        slot++;
      }
    expect([at, slot]).toEqual([timeline.totalFrames, timeline.items.length]);
  });

  it("is read as others write it: the older clip, gaps, another rate; and refused with the place where it is broken", () => {
    const time = (value: number, rate = 50) => ({ OTIO_SCHEMA: "RationalTime.1", rate, value });
    const range = (value: number) => ({ OTIO_SCHEMA: "TimeRange.1", start_time: time(0), duration: time(value) });
    const clip = (name: string, value: number) => ({
      OTIO_SCHEMA: "Clip.1",
      name,
      source_range: range(value),
      media_reference: null,
    });
    const other = (children: unknown[]) => ({
      OTIO_SCHEMA: "Timeline.1",
      name: "back",
      tracks: { OTIO_SCHEMA: "Stack.1", children: [{ OTIO_SCHEMA: "Track.1", kind: "Video", children }] },
    });
    const read = readOtio(
      JSON.stringify(other([clip("a", 100), { OTIO_SCHEMA: "Gap.1", source_range: range(25) }, clip("b", 50)])),
    );
    expect(read.rate).toEqual({ num: 50, den: 1 });
    expect(read.items).toEqual([
      { name: "a", startFrame: 0, endFrame: 100 },
      { name: "b", startFrame: 125, endFrame: 175 },
    ]);
    const refusals: [string, RegExp][] = [
      ["TITLE: x", /no JSON/],
      ["[]", /no object/],
      ['{"OTIO_SCHEMA":"Clip.2"}', /only a Timeline/],
      [JSON.stringify(other([{ OTIO_SCHEMA: "Clip.2", name: "a" }])), /item 1: it has no source range/],
      [JSON.stringify(other([clip("a", -5)])), /item 1: its duration is negative/],
      [JSON.stringify(other([])), /no picture/],
      [JSON.stringify({ ...other([]), tracks: null }), /"tracks" is missing/],
    ];
    for (const [text, message] of refusals) expect(() => readOtio(text)).toThrow(message);
  });
});

describe("a CMX 3600 edit list", () => {
  it.each([
    ["25", "golden/regatta-25.edl"],
    ["29.97", "golden/regatta-29.97.edl"],
  ] as const)("at %s is as it is written down", async (rate, golden) => {
    await expect(writeEditList(timelineAt(rate))).toMatchFileSnapshot(golden);
  });

  it("drops labels at 29.97 and nowhere else, and refuses what it cannot count", () => {
    expect(writeEditList(timelineAt("29.97"))).toMatch(/^FCM: DROP FRAME\r$/m);
    for (const rate of ["23.976", "24", "25", "30"] as const)
      expect(writeEditList(timelineAt(rate))).toMatch(/^FCM: NON-DROP FRAME\r$/m);
    for (const rate of ["50", "59.94", "60"] as const)
      expect(() => writeEditList(timelineAt(rate))).toThrow(/up to 30 frames a second/);
    const timeline = timelineAt("25");
    const long = { ...timeline, items: Array.from({ length: 1000 }, () => itemAt(timeline.items, 1)) };
    expect(() => writeEditList(long)).toThrow(/up to 999 events, and this film has 1000/);
    expect(() => writeEditList({ ...long, items: long.items.slice(1) })).not.toThrow();
  });

  it("tiles the record side, begins a dissolve with itself, and names reels in eight letters", () => {
    const timeline = timelineAt("25");
    const events = writeEditList(timeline)
      .split("\r\n")
      .filter((line) => /^\d{3} /.test(line))
      .map((line) => line.trim().split(/\s+/));
    const coming = events.filter((event) => event.at(-1) !== event.at(-2));
    expect(coming).toHaveLength(timeline.items.length);
    coming.forEach((event, i) => {
      if (i > 0) expect(event.at(-2)).toBe(itemAt(coming, i - 1).at(-1));
      expect(itemAt(event, 1).length).toBeLessThanOrEqual(8);
    });
    // The third slide's dissolve of 19 frames, centred on frame 149.
    const { transition, startFrame } = itemAt(timeline.items, 2);
    expect(startFrame - transition.startFrame).toBe((transition.endFrame - transition.startFrame - 1) / 2);
    const label = present(itemAt(coming, 2).at(-2));
    const [, , secs, frame] = label.split(":").map(Number);
    expect(present(secs) * 25 + present(frame)).toBe(transition.startFrame);
  });

  it("comes back with every change in its frame", () => {
    for (const rate of ["23.976", "24", "25", "29.97", "30"] as const) {
      const timeline = timelineAt(rate);
      const read = readEditList(writeEditList(timeline), timeline.rate);
      expect(read.items.map(({ startFrame }) => startFrame)).toEqual(
        timeline.items.map(({ startFrame }) => startFrame),
      );
      expect(compareTimings(timeline, read)).toEqual([]);
    }
  });

  it("is refused by line where it is broken, and says what it passes over", () => {
    const rate = NAMED_FRAME_RATES["25"];
    const event = "001  AX       V     C        00:00:00:00 00:00:02:00 01:00:00:00 01:00:02:00";
    const refusals: [string, RegExp][] = [
      ["TITLE: nothing", /no picture event/],
      ["TITLE: x\n001  AX V C 00:00:00:00", /line 2/],
      [event.replace("01:00:02:00", "01:00:02:31"), /01:00:02:31 is no timecode at 25/],
      [event.replace("01:00:02:00", "00:59:59:00"), /ends before it begins/],
    ];
    for (const [text, message] of refusals) expect(() => readEditList(text, rate)).toThrow(message);
    const sounded = readEditList(
      `${event}\n002  AX       A     C        00:00:00:00 00:00:02:00 01:00:00:00 01:00:02:00`,
      rate,
    );
    expect(sounded.remarks).toEqual(["1 events of sound or other tracks are passed over."]);
  });
});

describe("a table of slots", () => {
  it("is as it is written down", async () => {
    await expect(writeSlotTable(timelineAt("25"))).toMatchFileSnapshot("golden/regatta-slots.csv");
  });
});

describe("comparing", () => {
  it("tells what lies elsewhere, what came and what went, whatever the names' case and endings", () => {
    const own = timelineAt("25");
    const items = own.items.map(({ name, startFrame, endFrame }) => ({
      name: name.toUpperCase().replace(".JPG", ""),
      startFrame,
      endFrame,
    }));
    const moved = items.map((item, i) => (i === 3 ? { ...item, startFrame: item.startFrame + 2 } : item));
    const [gone, ...rest] = [itemAt(moved, 5), ...moved.slice(0, 5), ...moved.slice(6)];
    const other = {
      name: "",
      rate: own.rate,
      remarks: [],
      items: [...rest, { name: "new.jpg", startFrame: 400, endFrame: 450 }],
    };
    expect(compareTimings(own, other)).toEqual([
      {
        name: itemAt(own.items, 3).name,
        ownSeconds: itemAt(own.items, 3).startFrame / 25,
        otherSeconds: itemAt(own.items, 3).startFrame / 25 + 0.08,
      },
      { name: itemAt(own.items, 5).name, ownSeconds: gone.startFrame / 25, otherSeconds: null },
      { name: "new.jpg", ownSeconds: null, otherSeconds: 16 },
    ]);
  });
});
