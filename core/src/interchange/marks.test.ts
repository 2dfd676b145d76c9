import { readFileSync } from "node:fs";
import fc from "fast-check";
import { parseMidi } from "midi-file";
import { describe, expect, it } from "vitest";
import { WaveFile } from "wavefile";
import { WebVTTParser } from "webvtt-parser";
import { itemAt, present } from "../presence/index.ts";
import { propertyRuns } from "../testing/index.ts";
import {
  MARKS_FORMATS,
  type Marks,
  readBeatsText,
  readMarks,
  readMarksCsv,
  readMarksMidi,
  readWavCues,
  readWebVtt,
  withWavCues,
  writeBeatsText,
  writeMarks,
  writeMarksCsv,
  writeMarksMidi,
  writeWebVtt,
} from "./index.ts";
import { readMidiFile, writeMidiFile } from "./midi/index.ts";

const markers: Marks["markers"] = [
  { seconds: 0, name: "Boats at the quay", kind: "section" },
  { seconds: 12.345, name: "Lanterns & <fire>", kind: "accent" },
  { seconds: 75.5, name: "", kind: "cut" },
  { seconds: 3671.25, name: "Für später, „leise“", kind: "note" },
];
const beats: Marks["beats"] = [
  { seconds: 0.5, position: 3 },
  { seconds: 1.017, position: 1 },
  { seconds: 1.5, position: 2 },
  { seconds: 2.25, position: 3 },
  { seconds: 2.75, position: 1 },
  { seconds: 3.3, position: 2 },
];

const anyMarks: fc.Arbitrary<Marks> = fc.record({
  beats: fc
    .tuple(
      fc.integer({ min: 0, max: 20_000 }),
      fc.array(fc.integer({ min: 250, max: 2000 }), { maxLength: 40 }),
      fc.integer({ min: 2, max: 7 }),
    )
    .map(([from, gaps, perBar]) => {
      let at = from;
      return gaps.map((gap, i) => ({ seconds: (at += gap) / 1000, position: (i % perBar) + 1 }));
    }),
  markers: fc
    .array(
      fc.record({
        seconds: fc.integer({ min: 0, max: 4_000_000 }).map((ms) => ms / 1000),
        name: fc.string({ unit: "grapheme", maxLength: 30 }).map((text) => text.replace(/[\s\p{C}]+/gu, " ").trim()),
        kind: fc.constantFrom("cut" as const, "accent" as const, "section" as const, "note" as const),
      }),
      { maxLength: 12 },
    )
    .map((list) => list.sort((a, b) => a.seconds - b.seconds)),
});

describe("text", () => {
  it("reads back what it writes: beats", () => {
    expect(readBeatsText(writeBeatsText(beats)).beats).toEqual(beats);
  });

  it("reads what others write: one column, decimals, commas, label tracks, comments, any line ends", () => {
    const { beats: found, markers: labels } = readBeatsText(
      "# beats\r\n0.5\r\n1.0,1.0\n1.5 2\n\n2.0\t2.5\tFirst dance\n3\tKiss",
    );
    expect(found).toEqual([
      { seconds: 0.5, position: 0 },
      { seconds: 1, position: 1 },
      { seconds: 1.5, position: 2 },
    ]);
    expect(labels.map(({ seconds, name }) => [seconds, name])).toEqual([
      [2, "First dance"],
      [3, "Kiss"],
    ]);
  });

  it("names the line that is wrong", () => {
    expect(() => readBeatsText("0.5\n\nsoon\t1")).toThrow(/Line 3: .*"soon" is not/);
    expect(() => readBeatsText("-1")).toThrow(/Line 1/);
    expect(() => readMarksCsv("place,name\n1,a")).toThrow(/Line 1: .*"seconds"/);
    expect(() => readMarksCsv("seconds,name\n1,a\nx,b")).toThrow(/Line 3: .*"x" is not/);
  });

  it("reads back what it writes: CSV, whatever the names hold", () => {
    fc.assert(
      fc.property(anyMarks, (marks) => {
        expect(readMarksCsv(writeMarksCsv(marks))).toEqual(marks);
      }),
      { numRuns: propertyRuns },
    );
    expect(writeMarksCsv({ beats: beats.slice(0, 1), markers: markers.slice(1, 2) })).toBe(
      "seconds,type,position,name\r\n0.500000,beat,3,\r\n12.345000,accent,,Lanterns & <fire>",
    );
  });
});

describe("WebVTT", () => {
  it("is valid in the eyes of another program's parser", () => {
    const { cues, errors } = new WebVTTParser().parse(writeWebVtt(markers, 3700), "chapters");
    expect(errors).toEqual([]);
    expect(cues.map((cue) => [cue.id, cue.startTime, cue.endTime])).toEqual([
      ["section", 0, 12.345],
      ["accent", 12.345, 75.5],
      ["cut", 75.5, 3671.25],
      ["note", 3671.25, 3700],
    ]);
  });

  it("reads back what it writes, to the millisecond", () => {
    fc.assert(
      fc.property(anyMarks, ({ markers: some }) => {
        // An empty name is written as "-", since a cue has text.
        const named = some.filter((marker) => marker.name !== "-");
        expect(readWebVtt(writeWebVtt(named, 5000))).toEqual(named);
      }),
      { numRuns: propertyRuns },
    );
  });

  it("reads cues with settings, tags, notes and short times, and names the line that is wrong", () => {
    const text =
      "WEBVTT - demo\n\nNOTE\nnothing\n\n00:01.500 --> 00:02.000 align:start\n<b>Crews</b>\nready\n\nx9\n01:00:00.000 --> 01:00:01.000\nRace\n";
    expect(readWebVtt(text)).toEqual([
      { seconds: 1.5, name: "Crews ready", kind: null },
      { seconds: 3600, name: "Race", kind: null },
    ]);
    expect(() => readWebVtt("1\n00:01.000 --> 00:02.000")).toThrow(/Line 1/);
    expect(() => readWebVtt("WEBVTT\n\n1:2 --> 00:02.000\nx")).toThrow(/Line 3: .*"1:2 --> 00:02.000"/);
  });
});

describe("Standard MIDI File", () => {
  it("holds beats to the microsecond, in the eyes of another program's parser", () => {
    const midi = parseMidi(writeMarksMidi({ beats, markers: [] }, 4));
    const { ticksPerBeat } = midi.header;
    let [seconds, each] = [0, 500_000];
    const ticks: { tick: number; seconds: number; event: string; numerator?: number | undefined }[] = [];
    let tick = 0;
    for (const event of itemAt(midi.tracks, 0)) {
      seconds += (event.deltaTime * each) / present(ticksPerBeat) / 1e6;
      tick += event.deltaTime;
      ticks.push({ tick, seconds, event: event.type, numerator: event.numerator });
      if (event.type === "setTempo") each = present(event.microsecondsPerBeat);
    }
    // Every tempo change falls on a beat, or on the start of the file.
    for (const at of ticks.filter(({ event }) => event === "setTempo" && tick > 0).slice(1)) {
      expect(Math.min(...beats.map((beat) => Math.abs(beat.seconds - at.seconds)))).toBeLessThan(2e-6);
    }
    expect(
      ticks.filter(({ event }) => event === "timeSignature").map(({ numerator, tick: at }) => [numerator, at]),
    ).toEqual([[3, 960 + 960]]);
  });

  it("reads back what it writes: beats within a microsecond, markers within a tick", () => {
    fc.assert(
      fc.property(anyMarks, (marks) => {
        const back = readMarksMidi(writeMarksMidi(marks, 10));
        for (const beat of marks.beats) {
          const same = back.beats.find((other) => Math.abs(other.seconds - beat.seconds) < 1.5e-6);
          expect(same).toBeDefined();
        }
        expect(back.markers.map(({ name, kind }) => ({ name, kind }))).toEqual(
          marks.markers.map(({ name, kind }) => ({ name, kind })),
        );
        back.markers.forEach((marker, i) =>
          expect(Math.abs(marker.seconds - itemAt(marks.markers, i).seconds)).toBeLessThan(0.002),
        );
      }),
      { numRuns: propertyRuns },
    );
  });

  it("keeps division, tempos, signatures and markers exactly", () => {
    const tick = fc.integer({ min: 0, max: 1_000_000 });
    const inOrder = <Event extends { tick: number }>(event: fc.Arbitrary<Event>) =>
      fc
        .uniqueArray(event, { selector: (e) => e.tick, maxLength: 12 })
        .map((list) => list.sort((a, b) => a.tick - b.tick));
    const times = fc.record({
      division: fc.integer({ min: 1, max: 0x7fff }),
      tempos: inOrder(fc.record({ tick, microsecondsPerQuarter: fc.integer({ min: 1, max: 0xffffff }) })),
      signatures: inOrder(
        fc.record({ tick, numerator: fc.integer({ min: 1, max: 255 }), denominator: fc.constantFrom(1, 2, 4, 8, 16) }),
      ),
      markers: inOrder(fc.record({ tick, text: fc.string({ unit: "grapheme", maxLength: 200 }) })),
      endTick: fc.constant(2_000_000),
    });
    fc.assert(
      fc.property(times, (map) => {
        expect(readMidiFile(writeMidiFile(map))).toEqual(map);
      }),
      { numRuns: propertyRuns },
    );
  });

  it("reads a file that another program wrote: two tracks with notes, running status, three tempos, 3/4 and 6/8", () => {
    const { beats: found, markers: cues } = readMarksMidi(readFileSync(new URL("golden/waltz.mid", import.meta.url)));
    const times = [0, 0.545455, 1.09091, 1.636365, 2.136365, 2.636365, 3.136365, 3.886365];
    expect(found.slice(0, 8).map(({ seconds }) => Math.round(seconds * 1e6) / 1e6)).toEqual(times);
    expect(found.slice(0, 8).map(({ position }) => position)).toEqual([1, 2, 3, 1, 2, 3, 1, 2]);
    expect(cues).toEqual([
      { seconds: 0, name: "Verse", kind: "section" },
      { seconds: expect.closeTo(1.886365, 6) as number, name: "Lanterns lit", kind: null },
    ]);
  });

  it("names the byte where a file is damaged, and never does anything else than refuse", () => {
    const whole = readFileSync(new URL("golden/waltz.mid", import.meta.url));
    expect(() => readMidiFile(whole.subarray(0, 40))).toThrow(/Byte 18: a track of 89 bytes/);
    expect(() => readMidiFile(new Uint8Array(20))).toThrow(/Byte 0/);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat({ max: whole.length - 1 }), fc.nat({ max: 255 })), { maxLength: 6 }),
        (changes) => {
          const damaged = Uint8Array.from(whole);
          for (const [at, value] of changes) damaged[at] = value;
          try {
            readMarksMidi(damaged);
          } catch (error) {
            expect(error).toMatchObject({ code: "marks-unreadable" });
          }
        },
      ),
      { numRuns: propertyRuns },
    );
  });
});

describe("WAV cue points", () => {
  const sound = (): WaveFile => {
    const file = new WaveFile();
    file.fromScratch(
      1,
      8000,
      "16",
      Array.from({ length: 8001 }, (_, i) => i % 100),
    );
    return file;
  };

  it("are read by another program, which finds the sound untouched", () => {
    const plain = sound().toBuffer();
    const marked = new WaveFile(withWavCues(plain, markers.slice(0, 2)));
    expect(marked.listCuePoints().map(({ position, label }) => [Math.round(position), label])).toEqual([
      [0, "section: Boats at the quay"],
      [12_345, "accent: Lanterns & <fire>"],
    ]);
    expect([...marked.getSamples(false, Int16Array)]).toEqual([...new WaveFile(plain).getSamples(false, Int16Array)]);
  });

  it("are read from a file that another program wrote", () => {
    const file = sound();
    file.setCuePoint({ position: 500, label: "cut: Kiss" });
    file.setCuePoint({ position: 250, label: "Speech" });
    expect(readWavCues(file.toBuffer())).toEqual([
      { seconds: 0.25, name: "Speech", kind: null },
      { seconds: 0.5, name: "Kiss", kind: "cut" },
    ]);
  });

  it("reads back what it writes, to the sample, and refuses what is no WAV", () => {
    fc.assert(
      fc.property(anyMarks, ({ markers: some }) => {
        const back = readWavCues(withWavCues(sound().toBuffer(), some));
        expect(back.map(({ name, kind }) => ({ name, kind }))).toEqual(some.map(({ name, kind }) => ({ name, kind })));
        back.forEach((marker, i) => expect(marker.seconds).toBeCloseTo(itemAt(some, i).seconds, 3));
      }),
      { numRuns: 100 },
    );
    expect(() => readWavCues(new Uint8Array(50))).toThrow(/Byte 0/);
  });
});

describe("files", () => {
  const golden = (name: string): Uint8Array => readFileSync(new URL(`golden/${name}`, import.meta.url));
  /**
   * What quay.* hold; the MIDI file and the table were read by other programs (mido, Python's csv)
   * with the same result.
   */
  const quay = {
    beats,
    markers: [
      { seconds: 0, name: "Boats at the quay", kind: "section" },
      { seconds: 2.25, name: "Lanterns & <fire>", kind: "accent" },
      { seconds: 2.75, name: "", kind: "cut" },
      { seconds: 3.3, name: "Für später, „leise“", kind: "note" },
    ],
  } as const;

  it.each(MARKS_FORMATS)("are written as they always were: %s", (format) => {
    expect(Buffer.from(writeMarks(format, quay, 4))).toEqual(golden(`quay.${format}`));
  });

  it("are told by their content, whatever they are called", () => {
    expect(readMarks(golden("quay.mid"), "marks.txt").markers).toEqual(
      quay.markers.map((marker) => ({ ...marker, seconds: expect.closeTo(marker.seconds, 3) as number })),
    );
    expect(readMarks(golden("quay.vtt"), "marks").markers).toEqual(quay.markers);
    expect(readMarks(golden("quay.csv"), "Marks.CSV")).toEqual(quay);
    expect(readMarks(golden("quay.beats"), "quay.beats")).toEqual({ beats, markers: [] });
  });

  it("of other programs are read: a tracker's list, a table with semicolons, a MIDI package, a sound editor's 24 bits", () => {
    expect(readMarks(golden("aubiotrack.txt"), "aubiotrack.txt").beats.slice(0, 2)).toEqual([
      { seconds: 1.508503, position: 0 },
      { seconds: 2.005828, position: 0 },
    ]);
    expect(readMarks(golden("python.csv"), "python.csv")).toEqual({
      beats: [{ seconds: 4, position: 0 }],
      markers: [
        { seconds: 1.5, name: "Crews; first", kind: "section" },
        { seconds: 3.25, name: 'Lanterns "lit"', kind: null },
      ],
    });
    // 6/8: dotted quarters, at 90 quarters a minute and from the third felt beat on at 120; mido
    // says that the file lasts 3.5 s.
    const { beats: felt, markers: cues } = readMarks(golden("mido.mid"), "mido.mid");
    expect(felt.map(({ seconds, position }) => [Math.round(1000 * seconds), position])).toEqual([
      [0, 1],
      [1000, 2],
      [2000, 1],
      [2750, 2],
      [3500, 1],
    ]);
    expect(cues).toEqual([{ seconds: expect.closeTo(1, 5) as number, name: "First lantern", kind: "accent" }]);
    const marked = withWavCues(golden("sox.wav"), [{ seconds: 0.01, name: "Bell", kind: "cut" }]);
    expect(readMarks(marked, "sox.wav").markers).toEqual([{ seconds: 0.01, name: "Bell", kind: "cut" }]);
    expect(new WaveFile(marked).listCuePoints()).toMatchObject([{ label: "cut: Bell" }]);
  });
});
