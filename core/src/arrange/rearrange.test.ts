import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { BarFeatures } from "../music/index.ts";
import { itemAt, lastOf, present } from "../presence/index.ts";
import { propertyRuns, seededNormal, seededRandom } from "../testing/index.ts";
import { rearrange, type SongBars } from "./rearrange.ts";

/**
 * A song written as letters, a bar each: equal letters sound alike, others at random. Bars of two
 * seconds unless told.
 */
function songOf(text: string, barSeconds: (bar: number) => number = () => 2, lead = 0.5): SongBars {
  const length = 64;
  const sounds = new Map<string, number[]>();
  const rows = new Float32Array(text.length * length);
  for (const [bar, letter] of [...text].entries()) {
    let sound = sounds.get(letter);
    if (!sound) {
      const random = seededRandom(letter.charCodeAt(0));
      const normal = seededNormal(random);
      const raw = Array.from({ length }, normal);
      const size = Math.hypot(...raw);
      sound = raw.map((value) => value / size);
      sounds.set(letter, sound);
    }
    rows.set(sound, bar * length);
  }
  const starts = [lead];
  for (let bar = 0; bar < text.length; bar++) starts.push(itemAt(starts, bar) + barSeconds(bar));
  const features: BarFeatures = { barCount: text.length, length, rows };
  return { starts, features, phraseBars: 4 };
}

/** The letters that are heard. */
function heard(song: SongBars, text: string, joins: readonly { fromSeconds: number; toSeconds: number }[]): string {
  const barAt = (seconds: number): number => song.starts.findIndex((start) => Math.abs(start - seconds) < 1e-9);
  let out = "";
  let at = 0;
  for (const { fromSeconds, toSeconds } of joins) {
    out += text.slice(at, barAt(fromSeconds));
    at = barAt(toSeconds);
  }
  return out + text.slice(at);
}

/** Intro, verse, chorus twice, a bridge, a chorus, the ending. */
const TEXT = "ijkl" + "abcdabce" + "fghfgmno" + "abcdabce" + "fghfgmno" + "pqrs" + "fghfgmno" + "tuvw";

describe("rearranging a song to a length", () => {
  it.each([40, 60, 76, 90, 96, 120, 150, 200])(
    "of %d s ends on the real ending, joined where equal bars follow",
    (seconds) => {
      const song = songOf(TEXT);
      const { joins, lengthSeconds } = rearrange(song, { seconds, finish: "bars", refused: [] });
      expect(Math.abs(lengthSeconds - seconds)).toBeLessThanOrEqual(4);
      const music = heard(song, TEXT, joins);
      expect(lengthSeconds).toBeCloseTo(0.5 + 2 * music.length, 9);
      expect(music.startsWith("ijkl") && music.endsWith("tuvw")).toBe(true);
      // Every two neighbouring bars that are heard are neighbours somewhere in the song: no join is
      // audible at all.
      for (let i = 1; i < music.length; i++) expect(TEXT).toContain(music.slice(i - 1, i + 1));
    },
  );

  it("leaves a song of the wished length as it is, and meets another one exactly by its tempo", () => {
    const song = songOf(TEXT, (bar) => 2 + 0.02 * Math.sin(bar));
    const whole = lastOf(song.starts);
    expect(rearrange(song, { seconds: whole, finish: "bars", refused: [] }).joins).toEqual([]);
    const exact = rearrange(song, { seconds: 75.3, finish: "tempo", refused: [] });
    expect(exact.lengthSeconds).toBeCloseTo(75.3, 9);
    expect(Math.abs(exact.speed - 1)).toBeLessThanOrEqual(0.01);
    expect(exact.speed).not.toBe(1);
  });

  it("meets a length exactly by a fade: whole bars that are a little too long, stopped inside their last two", () => {
    const song = songOf(TEXT, (bar) => 2 + 0.02 * Math.sin(bar));
    const { joins, lengthSeconds, speed, trimEndSeconds, fadeOutBars } = rearrange(song, {
      seconds: 75.3,
      finish: "fade",
      refused: [],
    });
    const bars = heard(song, TEXT, joins);
    expect([lengthSeconds, speed, fadeOutBars]).toEqual([75.3, 1, 2]);
    // By hand: what is played of the song up to the stop lasts as long as was wished.
    const runs = [0, ...joins.map(({ toSeconds }) => toSeconds)];
    const ends = [...joins.map(({ fromSeconds }) => fromSeconds), present(trimEndSeconds)];
    expect(runs.reduce((sum, start, i) => sum + itemAt(ends, i) - start, 0)).toBeCloseTo(75.3, 9);
    expect(lastOf(song.starts) - present(trimEndSeconds)).toBeLessThan(4.2);
    expect(bars.endsWith("tuvw")).toBe(true);
  });

  it("does not propose a join that was refused, and finds another way", () => {
    const song = songOf(TEXT);
    const first = rearrange(song, { seconds: 72, finish: "bars", refused: [] });
    const second = rearrange(song, { seconds: 72, finish: "bars", refused: first.joins });
    for (const join of second.joins) {
      expect(
        first.joins.some(
          ({ fromSeconds, toSeconds }) => fromSeconds === join.fromSeconds && toSeconds === join.toSeconds,
        ),
      ).toBe(false);
    }
    expect(heard(song, TEXT, second.joins).endsWith("tuvw")).toBe(true);
  });

  it("says why where it cannot", () => {
    const refused = expect.objectContaining({ code: "not-rearrangeable" }) as Error;
    expect(() => rearrange(songOf("abcabc"), { seconds: 20, finish: "bars", refused: [] })).toThrow(refused);
    const unlike = songOf("abcdefghijklmnopqrstuvwxyz");
    expect(() => rearrange(unlike, { seconds: 20, finish: "bars", refused: [] })).toThrow(
      /No joins that would go unheard/,
    );
  });

  it("finds as cheap a way as trying all of them does", () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(..."abc"), { minLength: 8, maxLength: 10 }),
        fc.integer({ min: 5, max: 14 }),
        (letters, wished) => {
          const text = letters.join("");
          const song = songOf(text, () => 2, 0);
          const wish = { seconds: 2 * wished, finish: "bars" as const, refused: [] };
          const brute = cheapestByTrying(text, wished);
          let found: number | null = null;
          try {
            const { joins, lengthSeconds } = rearrange(song, wish);
            found = costOf(text, song, joins) + 0.08 * Math.abs(lengthSeconds / 2 - wished);
          } catch {
            found = null;
          }
          if (brute === null) expect(found).toBeNull();
          else expect(found).toBeCloseTo(brute, 5);
        },
      ),
      { numRuns: Math.min(150, propertyRuns) },
    );
  });
});

const sameness = (text: string, a: number, b: number): number => {
  if (text[a] === text[b]) return 1;
  const { features } = songOf(text);
  let sum = 0;
  for (let i = 0; i < features.length; i++)
    sum += itemAt(features.rows, a * features.length + i) * itemAt(features.rows, b * features.length + i);
  return sum;
};

/** The cost of a join by the rule in docs/listen.md, or null where it is not allowed. */
function joinCost(text: string, bar: number, to: number): number | null {
  const likeness = (sameness(text, bar + 1, to) + sameness(text, bar, to - 1)) / 2;
  if (likeness < 0.6) return null;
  return 1 - likeness + 0.05 + ((to - bar - 1) % 4 === 0 ? 0 : 0.15);
}

function costOf(text: string, song: SongBars, joins: readonly { fromSeconds: number; toSeconds: number }[]): number {
  const barAt = (seconds: number): number => song.starts.indexOf(seconds);
  return joins.reduce(
    (sum, join) => sum + present(joinCost(text, barAt(join.fromSeconds) - 1, barAt(join.toSeconds))),
    0,
  );
}

/** All ways of playing bars one after the other, by recursion. */
function cheapestByTrying(text: string, wished: number): number | null {
  let best: number | null = null;
  const go = (bar: number, played: number, since: number, cost: number): void => {
    if (best !== null && cost >= best) return;
    if (bar === text.length - 1 && since >= 4 && Math.abs(played - wished) <= 2) {
      const total = cost + 0.08 * Math.abs(played - wished);
      if (best === null || total < best) best = total;
    }
    if (played >= wished + 2) return;
    if (bar + 1 < text.length) go(bar + 1, played + 1, since + 1, cost);
    if (since < 4 || bar === text.length - 1) return;
    for (let to = 1; to < text.length; to++) {
      const price = to === bar + 1 ? null : joinCost(text, bar, to);
      if (price !== null) go(to, played + 1, 1, cost + price);
    }
  };
  go(0, 1, 1, 0);
  return best;
}
