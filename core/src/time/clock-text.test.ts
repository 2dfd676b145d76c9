import { expect, it } from "vitest";
import { clockText, timeLeftText } from "./index.ts";

it.each([
  [0, "0:00"],
  [59.6, "1:00"],
  [243, "4:03"],
  [700, "11:40"],
  [3723, "1:02:03"],
])("says %d seconds as %s", (seconds, text) => {
  expect(clockText(seconds)).toBe(text);
});

it.each([
  [2, "a few seconds"],
  [42, "about 40 seconds"],
  [200, "about 3 minutes"],
])("says that %d seconds are left as %j", (seconds, text) => {
  expect(timeLeftText(seconds)).toBe(text);
});
