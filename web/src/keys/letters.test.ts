import { beforeEach, describe, expect, it, vi } from "vitest";
import { SHORTCUTS } from "./keys.ts";
import { assignedBy, assignLetter, LETTER_NAMES, LETTERS, letterOf, resetLetters, setLetterKeys } from "./letters.ts";

/** A browser's store, as far as it is used. */
const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
  removeItem: (key: string) => void kept.delete(key),
});

const press = (key: string, more: Partial<KeyboardEvent> = {}) =>
  letterOf({ key, ctrlKey: false, metaKey: false, altKey: false, ...more });

beforeEach(() => {
  kept.clear();
  resetLetters();
});

describe("letters", () => {
  it("are each for one command, and the sheet of keys has all of them", () => {
    const usual = LETTER_NAMES.map((name) => LETTERS[name].usual);
    expect(new Set(usual).size).toBe(usual.length);
    const listed = new Set(SHORTCUTS.flatMap(({ keys }) => (typeof keys === "string" ? [] : [...keys])));
    expect(listed).toEqual(new Set(LETTER_NAMES));
    // Nothing that has a name is written as a letter beside it.
    for (const { keys } of SHORTCUTS) if (typeof keys === "string") expect(keys).not.toMatch(/^[A-Z?]( \/ [A-Z?])*$/);
  });

  it("mean their command in capitals too, and nothing with Ctrl or Alt or while they are off", () => {
    expect([press("k"), press("K"), press("?"), press("x")]).toEqual(["keep", "keep", "sheet", null]);
    expect([press("k", { ctrlKey: true }), press("k", { altKey: true }), press("k", { metaKey: true })]).toEqual([
      null,
      null,
      null,
    ]);
    setLetterKeys(false);
    expect(press("k")).toBeNull();
    setLetterKeys(true);
    expect(press("k")).toBe("keep");
  });

  it("can be given to another command, but no letter to two", () => {
    expect(assignLetter("keep", "Ö")).toBeNull();
    expect([press("ö"), press("k")]).toEqual(["keep", null]);
    expect(assignLetter("maybe", "ö")).toBe("keep");
    expect(press("b")).toBe("maybe");
    expect(assignLetter("maybe", "k")).toBeNull();
    expect([press("k"), press("b")]).toEqual(["maybe", null]);
    expect([assignLetter("hero", " "), assignLetter("hero", "")]).toEqual(["hero", "hero"]);
    resetLetters();
    expect([press("k"), press("b"), press("ö")]).toEqual(["keep", "maybe", null]);
  });

  it("are as usual where what the browser kept is not theirs", () => {
    const usual = assignedBy(null);
    for (const text of [
      "",
      "{",
      "null",
      "7",
      '{"keep":"b"}',
      '{"keep":12,"__proto__":"x","other":"y"}',
      '{"keep":"ab"}',
    ])
      expect(assignedBy(text)).toEqual(usual);
    expect(assignedBy('{"keep":"X","other":"q"}')).toEqual({ ...usual, keep: "x" });
  });
});
