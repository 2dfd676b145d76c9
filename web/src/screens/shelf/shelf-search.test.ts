import { describe, expect, it } from "vitest";
import { matchesSearch } from "./shelf-search.ts";

describe("searching the shelf", () => {
  const show = {
    title: "Closing night",
    event: "Lantern regatta",
    client: "Café am Kai",
    date: "2031-06-21",
    songFileName: null,
  };
  it.each([
    ["", true],
    ["LANTERN night", true],
    ["cafe", true],
    ["2031-06", true],
    ["regatta wedding", false],
  ])("%j: %s", (search, found) => expect(matchesSearch(show, search)).toBe(found));
});
