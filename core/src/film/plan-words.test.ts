import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, present } from "../presence/index.ts";
import { FIRST_STYLE, newWords, WORD_PLACES, type WordPlace, type Words } from "../show/index.ts";
import type { SlideTimes } from "./laid-slide.ts";
import { liesOnFace } from "./place-off-faces.ts";
import { DEFAULT_PLACES, planWords } from "./plan-words.ts";

const RATE = { num: 30000, den: 1001 };
const { letters, captions } = FIRST_STYLE;
const title: Words = newWords("title", "Closing night");
const credits: Words = newWords("credits", "Boats:\nFirefly");
const slide = { caption: "At the quay", words: [title, credits] };

type Beats = Parameters<typeof planWords>[4];
const beatsEvery = (step: number, offset: number): Beats =>
  Array.from({ length: 400 }, (_, i) => ({ seconds: offset + i * step, position: (i % 4) + 1 })) as unknown as Beats;
const frameOf = (seconds: number): number => Math.round((seconds * 30000) / 1001);

const times: fc.Arbitrary<SlideTimes> = fc
  .record({
    start: fc.nat(2000),
    standing: fc.integer({ min: 1, max: 400 }),
    before: fc.nat(30),
    after: fc.nat(30),
    isLast: fc.boolean(),
  })
  .map(({ start, standing, before, after, isLast }) => ({
    seen: { startFrame: Math.max(0, start - before), endFrame: start + standing + after },
    standing: { startFrame: start, endFrame: start + standing },
    isLast,
  }));

const FREE = { size: { width: 1920, height: 1080 }, heads: [] };

describe("words of a slide", () => {
  it("are its caption, where captions are shown, and then what else is written on it", () => {
    const kinds = (style: Parameters<typeof planWords>[1]) =>
      planWords(
        slide,
        style,
        FREE,
        { seen: { startFrame: 0, endFrame: 90 }, standing: { startFrame: 0, endFrame: 90 }, isLast: false },
        [],
        RATE,
      ).sheet.map(({ kind, place }) => [kind, place]);
    expect(kinds({ letters, captions })).toEqual([
      ["caption", "bottom"],
      ["title", "middle"],
      ["credits", "middle"],
    ]);
    expect(kinds({ letters, captions: { ...captions, shown: false } })[0]).toEqual(["title", "middle"]);
    const blank = { caption: "  ", words: [{ ...title, text: "\n" }] };
    expect(
      planWords(
        blank,
        { letters, captions },
        FREE,
        { seen: { startFrame: 0, endFrame: 9 }, standing: { startFrame: 0, endFrame: 9 }, isLast: false },
        [],
        RATE,
      ).sheet,
    ).toEqual([]);
  });

  it("begin on the first beat and are gone on the last one, of all beats near enough", () => {
    fc.assert(
      fc.property(
        times,
        fc.double({ min: 0.25, max: 2, noNaN: true }),
        fc.double({ min: 0, max: 0.25, noNaN: true }),
        (when, step, offset) => {
          const beats = beatsEvery(step, offset);
          const { times: planned } = planWords(
            { caption: "", words: [title] },
            { letters, captions },
            FREE,
            when,
            beats,
            RATE,
          );
          const { startFrame, endFrame, fadeInFrames, fadeOutFrames } = itemAt(planned, 0);
          const { standing, seen, isLast } = when;
          const wait = (standing.endFrame - standing.startFrame) / 4;
          const frames = beats.map(({ seconds }) => frameOf(seconds));
          const early = frames.filter((frame) => frame >= standing.startFrame && frame <= standing.startFrame + wait);
          const late = frames.filter((frame) => frame >= standing.endFrame - wait && frame <= standing.endFrame);
          const first = early[0] ?? standing.startFrame;
          const last = isLast ? seen.endFrame : (late.at(-1) ?? standing.endFrame);
          // One beat, or what there is room for.
          const beat = Math.min((step * 30000) / 1001, 0.35 * (last - first));
          // Two words at 180 a minute and half a second to find them; while they fade they are half
          // there.
          const toRead = ((0.5 + 2 / 3) * 30000) / 1001;
          const toSpare = last - first - (isLast ? beat : 2 * beat) / 2 - toRead;
          fc.pre(Math.abs(toSpare) > 1);
          if (toSpare < 0) {
            expect([startFrame, endFrame, fadeInFrames, fadeOutFrames]).toEqual([seen.startFrame, seen.endFrame, 0, 0]);
            return;
          }
          expect([startFrame, endFrame]).toEqual([first, last]);
          expect(Math.abs(fadeInFrames - beat)).toBeLessThanOrEqual(1);
          if (isLast) expect(fadeOutFrames).toBe(0);
          else expect(Math.abs(fadeOutFrames - beat)).toBeLessThanOrEqual(1);
        },
      ),
    );
  });

  it("come and go with their slide without a fade, and credits always scroll through all of it", () => {
    fc.assert(
      fc.property(times, (when) => {
        const { times: planned } = planWords(
          slide,
          { letters: { ...letters, fade: null }, captions },
          FREE,
          when,
          beatsEvery(0.5, 0),
          RATE,
        );
        for (const time of planned) expect(time).toMatchObject({ ...when.seen, fadeInFrames: 0, fadeOutFrames: 0 });
        expect(planned.map(({ isScrolling }) => isScrolling)).toEqual([false, false, true]);
      }),
    );
  });

  it("keep off faces where nobody chose a place, in any shape, as far as anything is free", () => {
    const size = fc.constantFrom(
      { width: 1920, height: 1080 },
      { width: 1080, height: 1080 },
      { width: 1080, height: 1920 },
    );
    const kind = fc.constantFrom("title", "text", "lower-third", "end");
    const share = fc.double({ min: 0, max: 0.8, noNaN: true });
    const places = fc.array(fc.tuple(share, share, fc.double({ min: 0.05, max: 0.3, noNaN: true })), { maxLength: 4 });
    fc.assert(
      fc.property(size, kind, places, (frame, what, found) => {
        const unit = Math.min(frame.width, frame.height);
        const heads = found.map(([x, y, side]) => ({
          ...{ x: x * frame.width, y: y * frame.height },
          ...{ width: side * unit, height: 1.2 * side * unit },
        }));
        const words = newWords(what, "Closing night");
        const whole = { startFrame: 0, endFrame: 90 };
        const when = { seen: whole, standing: whole, isLast: false };
        const [planned] = planWords(
          { caption: "", words: [words] },
          { letters, captions },
          { size: frame, heads },
          when,
          [],
          RATE,
        ).sheet;
        const chosen = present(planned);
        // Brute force over all nine places: none that the kind may have is free if this one is not.
        const isFree = (place: WordPlace): boolean => !liesOnFace({ ...chosen, place }, frame, heads);
        if (!isFree(chosen.place)) {
          const free = WORD_PLACES.filter(isFree);
          const usual = what === "end" ? ["middle", "bottom", "top"] : ["middle", "bottom", "top", "bottom-left"];
          expect(free.filter((place) => usual.includes(place))).toEqual([]);
        }
        if (isFree(DEFAULT_PLACES[what])) expect(chosen.place).toBe(DEFAULT_PLACES[what]);
        // What a person chose stays.
        const [kept] = planWords(
          { caption: "", words: [{ ...words, place: "top" }] },
          { letters, captions },
          { size: frame, heads },
          when,
          [],
          RATE,
        ).sheet;
        expect(present(kept).place).toBe("top");
      }),
    );
  });
});
