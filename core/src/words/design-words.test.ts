import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import {
  type BlockWishes,
  FILM_FONTS,
  FIRST_STYLE,
  lineWishes,
  newWords,
  TITLE_SETS,
  type Words,
  withLineWishes,
  withText,
} from "../show/index.ts";
import { designWords } from "./design-words.ts";
import { TITLE_SET_DESIGNS } from "./title-sets.ts";

const { letters } = FIRST_STYLE;
const TEXT = "Firefly\nfirst across\nat midnight";
const design = (words: Words, style = letters) => designWords({ ...words, place: "middle" }, style);
const fonts = (words: Words, style = letters): string[] => design(words, style).lines.map(({ font }) => font);

describe("title sets", () => {
  it("give the first line one face and the others the second, and captions what is read", () => {
    for (const titleSet of TITLE_SETS) {
      const { main, second, body } = TITLE_SET_DESIGNS[titleSet];
      const style = { ...letters, titleSet };
      expect(fonts(newWords("title", TEXT), style)).toEqual([main.font, second.font, second.font]);
      expect(fonts(newWords("text", TEXT), style)).toEqual([body.font, body.font, body.font]);
      // The first line that says something is the main one.
      expect(fonts(newWords("end", `\n${TEXT}`), style)[1]).toBe(main.font);
      expect(fonts(newWords("credits", "Boats:\nFirefly"), style)).toEqual([second.font, body.font]);
    }
  });

  it("are all different, of fonts that ship with the program", () => {
    const designs = TITLE_SETS.map((titleSet) => TITLE_SET_DESIGNS[titleSet]);
    expect(designs.length).toBeGreaterThanOrEqual(8);
    expect(new Set(designs.map((one) => JSON.stringify(one))).size).toBe(designs.length);
    for (const { main, second, body } of designs)
      for (const { font } of [main, second, body]) expect(FILM_FONTS).toContain(font);
  });

  it("give way to one font, in which every line is written alike", () => {
    const style = { ...letters, titleSet: null, font: "Oswald", weight: 700, spacing: 0.1 } as const;
    for (const line of design(newWords("title", TEXT), style).lines)
      expect(line).toMatchObject({ font: "Oswald", weight: 700, spacing: 0.1 });
    expect(design(newWords("title", TEXT), style).ornament).toBe("none");
  });
});

describe("a block's own letters", () => {
  it("go before the slide's, and a line's before the block's", () => {
    const block: Partial<BlockWishes> = { titleSet: "lantern", colour: "#102030", shadow: 0, entrance: "rise" };
    const title = newWords("title", TEXT);
    const own = withLineWishes({ ...title, letters: { ...title.letters, ...block } }, 1, {
      font: "Cinzel",
      colour: "#ff0000",
      size: 2,
    });
    const planned = design(own);
    expect(planned).toMatchObject({ colour: "#102030", shadow: 0, entrance: "rise" });
    expect(planned.lines.map(({ font, colour }) => [font, colour])).toEqual([
      ["Great Vibes", "#102030"],
      ["Cinzel", "#ff0000"],
      ["Cinzel", "#102030"],
    ]);
    expect(itemAt(planned.lines, 1).size).toBeCloseTo(2 * itemAt(planned.lines, 2).size);
  });

  it("may have no outline and no ground where the slide has them", () => {
    const style = {
      ...letters,
      outline: { width: 0.4, colour: "#000000" },
      backing: { colour: "#000000", strength: 1 },
    };
    const title = newWords("title", TEXT);
    const none = { outline: { width: 0, colour: "#000000" }, backing: { colour: "#000000", strength: 0 } };
    expect(design(title, style)).toMatchObject({ outline: style.outline, backing: style.backing });
    expect(design({ ...title, letters: { ...title.letters, ...none } }, style)).toMatchObject({
      outline: null,
      backing: null,
    });
  });
});

describe("letters of lines", () => {
  const line = fc.constantFrom("a", "b", "c", "", "d");
  const lines = fc.array(line, { minLength: 1, maxLength: 6 });
  // Alike lines could be taken for one another: those around the change are told apart.
  const named = (name: string) => lines.map((all) => all.map((text, i) => `${name} ${i} ${text}`));

  it("stay with their lines when others come, go or change", () => {
    fc.assert(
      fc.property(named("head"), lines, lines, named("tail"), (head, before, after, tail) => {
        const join = (middle: readonly string[]): string => [...head, ...middle, ...tail].join("\n");
        let words = newWords("title", join(before));
        // A size by place in the text, so that each line is known again.
        const count = words.text.split("\n").length;
        for (let i = 0; i < count; i++) words = withLineWishes(words, i, { size: 1 + i / 100 });
        const changed = lineWishes(withText(words, join(after)), [...head, ...after, ...tail].length);
        for (const i of head.keys()) expect(changed[i]?.size).toBe(1 + i / 100);
        for (const i of tail.keys()) expect(changed.at(-1 - i)?.size).toBe(1 + (count - 1 - i) / 100);
      }),
    );
  });

  it("are not stored for lines that do nothing differently", () => {
    const words = newWords("title", TEXT);
    const own = withLineWishes(words, 1, { italic: true });
    expect(own.lines).toHaveLength(2);
    expect(withLineWishes(own, 1, { italic: null }).lines).toEqual([]);
    expect(withText(own, "Firefly").lines).toEqual([]);
  });
});
