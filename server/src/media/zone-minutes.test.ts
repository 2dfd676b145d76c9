import { expect, it } from "vitest";
import { zoneMinutesOf } from "./zone-minutes.ts";

it.each([
  ["+02:00", 120],
  ["-0330", -210],
  ["2031-06-21T21:04:11+0200", 120],
  ["2031-06-21T21:04:11Z", 0],
  ["+05:45", 345],
  ["+99:00", null],
  ["2031-06-21T21:04:11", null],
  ["", null],
  ["Z", null],
])("a zone at the end of %o is %o", (text, minutes) => {
  expect(zoneMinutesOf(text)).toBe(minutes);
});
