import { describe, expect, it } from "vitest";
import { counted, wordFor } from "./index.ts";

describe("numbers in sentences", () => {
  it.each([
    [0, "0 pictures"],
    [1, "1 picture"],
    [2, "2 pictures"],
    [1.5, "1.5 pictures"],
    [21, "21 pictures"],
    [1024, "1,024 pictures"],
  ])("counts %d", (count, text) => {
    expect(counted(count, "picture")).toBe(text);
  });

  it("takes another plural, and other words that go with a number", () => {
    expect(counted(2, "copy", "copies")).toBe("2 copies");
    expect([0, 1, 2].map((count) => wordFor(count, "is", "are"))).toEqual(["are", "is", "are"]);
  });
});
