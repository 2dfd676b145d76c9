import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { MusicAnalysis } from "../music/index.ts";
import { itemAt, lastOf, present } from "../presence/index.ts";
import { newShowSong, type ShowSong } from "../show/index.ts";
import { gainAt, soundSecondsAt } from "../sound/index.ts";
import { propertyRuns, steadySong } from "../testing/index.ts";
import { type ArrangedMusic, arrangeSongs, filmSecondsOf, songPlaceAt } from "./index.ts";

const hash = (letter: string): string => letter.repeat(64);
const song = (letter: string, change: Partial<ShowSong> = {}): ShowSong => ({
  ...newShowSong({ id: letter, sha256: hash(letter), fileName: `${letter}.wav` }),
  ...change,
});

/** a: 20 bars at 120, two seconds each. b: 20 bars at 110 from 0.3 s on. c: a waltz at 180. */
const ANALYSES: Record<string, MusicAnalysis> = {
  [hash("a")]: steadySong(20),
  [hash("b")]: steadySong(20, 60 / 110, 4, 0.3),
  [hash("c")]: steadySong(40, 1 / 3, 3),
  [hash("d")]: steadySong(20, 60 / 235),
};
const arranged = (...songs: ShowSong[]): ArrangedMusic => arrangeSongs(songs, (sha256) => ANALYSES[sha256]);
const barsOf = (music: ArrangedMusic): number[] =>
  music.grid.beats.filter((beat) => beat.position === 1).map((beat) => beat.seconds);

describe("one song", () => {
  it("is the film's time as it is, up to where its music ends", () => {
    const music = arranged(song("b"));
    const heard = present(ANALYSES[hash("b")]);
    expect(music.grid.beats.map((beat) => beat.seconds)).toEqual(heard.beats.map((beat) => beat.seconds));
    expect(music).toMatchObject({ lengthSeconds: heard.musicEndSeconds, materialSeconds: heard.durationSeconds });
  });

  it("trimmed, begins and ends where it was trimmed", () => {
    const music = arranged(song("a", { trimStartSeconds: 4, trimEndSeconds: 12 }));
    expect(music.lengthSeconds).toBe(8);
    expect(barsOf(music)).toEqual([0, 2, 4, 6]);
    expect(itemAt(music.pieces, 0).time).toEqual([
      { filmSeconds: 0, soundSeconds: 4 },
      { filmSeconds: 8, soundSeconds: 12 },
    ]);
  });

  it("jumps at its joins, and every beat comes once for each time it is heard", () => {
    // Bars 0 to 3, then from bar 8 on to bar 11, then again from bar 2 to the end.
    const music = arranged(
      song("a", {
        joins: [
          { fromSeconds: 8, toSeconds: 16 },
          { fromSeconds: 24, toSeconds: 4 },
        ],
      }),
    );
    expect(music.lengthSeconds).toBe(8 + 8 + 36);
    expect(barsOf(music)).toEqual(Array.from({ length: 26 }, (_, bar) => bar * 2));
    const heardAt = [0, 1, 8, 9, 16, 17].map((film) => songPlaceAt(music, film));
    expect(heardAt.map((place) => present(place).seconds)).toEqual([0, 1, 16, 17, 4, 5]);
    expect(heardAt.map((place) => present(place).turn)).toEqual([0, 0, 0, 0, 1, 1]);
    // Joins are faded over before the beat: a moment before it both places sound, their gains
    // adding up to one; at the beat only the new one.
    const [first, second] = music.pieces;
    for (const before of [0.034, 0.02, 0.006]) {
      expect(gainAt(present(first).gain, 8 - before) + gainAt(present(second).gain, 8 - before)).toBeCloseTo(1, 6);
    }
    expect(gainAt(present(second).gain, 7.996)).toBe(1);
    expect(lastOf(present(first).time).filmSeconds).toBeCloseTo(7.995, 9);
  });

  it("passes over a join that is never come to, and says so", () => {
    const music = arranged(song("a", { trimEndSeconds: 20, joins: [{ fromSeconds: 30, toSeconds: 2 }] }));
    expect(music.lengthSeconds).toBe(20);
    expect(itemAt(music.songs, 0).remarks[0]).toMatch(/join at 30.0 s .* cannot be followed/);
  });

  it("plays faster or slower by less than one percent as a whole", () => {
    const music = arranged(song("a", { speed: 1.008 }));
    expect(music.lengthSeconds).toBeCloseTo(40 / 1.008, 9);
    expect(barsOf(music)[10]).toBeCloseTo(20 / 1.008, 9);
  });

  it("follows its level curve in decibels and fades in over bars", () => {
    const music = arranged(
      song("a", {
        fadeInBars: 2,
        level: [
          { seconds: 10, decibels: 0 },
          { seconds: 14, decibels: -12 },
        ],
      }),
    );
    const gain = itemAt(music.pieces, 0).gain;
    const decibels = (seconds: number): number => 20 * Math.log10(gainAt(gain, seconds));
    expect([gainAt(gain, 0), decibels(4), decibels(10)]).toEqual([0, 0, 0]);
    expect(decibels(12)).toBeCloseTo(-6, 1);
    expect(decibels(30)).toBeCloseTo(-12, 6);
  });
});

describe("several songs", () => {
  it("follow each other with the gap that was wished", () => {
    const music = arranged(
      song("a", { entry: { kind: "gap", seconds: 1 } }),
      song("c", { entry: { kind: "gap", seconds: 0.5 } }),
    );
    expect(music.songs.map(({ startSeconds }) => startSeconds)).toEqual([1, 41.5]);
    expect(music.lengthSeconds).toBe(41.5 + 40);
    expect(songPlaceAt(music, 41.6)).toMatchObject({ songId: "c" });
  });

  it("cross with bars of both kept together, over a tempo that goes evenly from one to the other", () => {
    const music = arranged(song("a"), song("b", { entry: { kind: "crossfade", bars: 4 } }));
    const bridge = present(itemAt(music.songs, 1).bridge);
    // The last four of 20 bars that begin before the music's end.
    expect(bridge).toMatchObject({ startSeconds: 30, bars: 4 });
    expect(bridge.fromBpm).toBeCloseTo(120, 6);
    expect(bridge.toBpm).toBeCloseTo(110, 6);
    const [first, second] = music.pieces;
    const shared = present(first).time.filter((point) => point.filmSeconds >= bridge.startSeconds - 1e-9);
    expect(shared.map((point) => point.soundSeconds)).toEqual([30, 32, 34, 36, 38]);
    for (const [bar, { filmSeconds }] of shared.entries()) {
      // Where bar 15 + n of the one is heard, bar n of the other is heard too.
      expect(soundSecondsAt(present(second).time, filmSeconds)).toBeCloseTo(0.3 + (bar * 4 * 60) / 110, 9);
      expect(
        gainAt(present(first).gain, filmSeconds) ** 2 + gainAt(present(second).gain, filmSeconds) ** 2,
      ).toBeCloseTo(1, 3);
    }
    const lengths = shared.slice(1).map(({ filmSeconds }, i) => filmSeconds - itemAt(shared, i).filmSeconds);
    // (2 * (1 - share) + 24/11 * share) at shares 1/8, 3/8, 5/8, 7/8: by hand.
    for (const [i, share] of [0.125, 0.375, 0.625, 0.875].entries()) {
      expect(lengths[i]).toBeCloseTo(2 + (24 / 11 - 2) * share, 9);
    }
    const bars = barsOf(music);
    expect(bars).toEqual([...bars].sort((x, y) => x - y));
    for (let i = 1; i < bars.length; i++) expect(itemAt(bars, i) - itemAt(bars, i - 1)).toBeGreaterThan(1.99);
  });

  it("cross two bars to one where a song counts twice as fast", () => {
    const music = arranged(song("a"), song("d", { entry: { kind: "crossfade", bars: 4 } }));
    expect(present(itemAt(music.songs, 1).bridge).largestChange).toBeLessThan(0.03);
    const [, second] = music.pieces;
    expect(soundSecondsAt(present(second).time, 30)).toBeCloseTo(0, 9);
    expect(soundSecondsAt(present(second).time, present(itemAt(music.songs, 1).bridge).endSeconds)).toBeCloseTo(
      (8 * 4 * 60) / 235,
      6,
    );
  });

  it("follow without a crossfade where there is none, and say why", () => {
    const silent = { ...ANALYSES, [hash("b")]: { ...present(ANALYSES[hash("b")]), beats: [], bars: [] } };
    const music = arrangeSongs([song("a"), song("b", { entry: { kind: "crossfade", bars: 4 } })], (sha) => silent[sha]);
    expect(music.songs[1]).toMatchObject({ startSeconds: 40, bridge: null });
    expect(itemAt(music.songs, 1).remarks[0]).toMatch(/without a crossfade/);
  });
});

const anySong = fc.record({
  letter: fc.constantFrom("a", "b", "c", "d"),
  trim: fc.tuple(fc.double({ min: 0, max: 12, noNaN: true }), fc.option(fc.double({ min: 14, max: 40, noNaN: true }))),
  joins: fc.array(
    fc.record({ fromSeconds: fc.integer({ min: 2, max: 36 }), toSeconds: fc.integer({ min: 0, max: 30 }) }),
    {
      maxLength: 4,
    },
  ),
  speed: fc.constantFrom(1, 0.991, 1.007),
  entry: fc.oneof(
    fc.record({ kind: fc.constant("gap" as const), seconds: fc.double({ min: 0, max: 5, noNaN: true }) }),
    fc.record({ kind: fc.constant("crossfade" as const), bars: fc.integer({ min: 1, max: 8 }) }),
  ),
});

describe("any arrangement", () => {
  it("has rising beats, pieces in which time runs forward, and places that are found again", () => {
    fc.assert(
      fc.property(
        fc.array(anySong, { minLength: 1, maxLength: 4 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (list, share) => {
          const music = arranged(
            ...list.map(({ letter, trim, ...rest }, i) =>
              song(letter, { id: `${i}`, trimStartSeconds: trim[0], trimEndSeconds: trim[1], ...rest }),
            ),
          );
          const times = music.grid.beats.map((beat) => beat.seconds);
          for (let i = 1; i < times.length; i++) expect(itemAt(times, i)).toBeGreaterThan(itemAt(times, i - 1) + 0.01);
          for (const { time, startSeconds, endSeconds } of music.pieces) {
            for (let i = 1; i < time.length; i++) {
              expect(itemAt(time, i).filmSeconds).toBeGreaterThan(itemAt(time, i - 1).filmSeconds);
              expect(itemAt(time, i).soundSeconds).toBeGreaterThan(itemAt(time, i - 1).soundSeconds);
            }
            expect(endSeconds).toBeGreaterThanOrEqual(startSeconds);
            expect(endSeconds).toBeLessThanOrEqual(music.lengthSeconds + 1e-9);
          }
          const film = share * music.lengthSeconds;
          const place = songPlaceAt(music, film);
          const piece = music.pieces.find(
            (other) => film >= other.startSeconds + 0.03 && film < other.endSeconds - 0.03,
          );
          if (piece) expect(filmSecondsOf(music, present(place))).toBeCloseTo(film, 6);
        },
      ),
      { numRuns: propertyRuns },
    );
  });
});
