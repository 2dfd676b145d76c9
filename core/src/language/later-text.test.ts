import { expect, it } from "vitest";
import { laterText } from "./index.ts";

it.each([
  [1, "1 second later"],
  [89, "89 seconds later"],
  [90, "2 minutes later"],
  [12 * 60 + 20, "12 minutes later"],
  [89 * 60, "89 minutes later"],
  [90 * 60, "2 hours later"],
  [35 * 3600, "35 hours later"],
  [36 * 3600, "2 days later"],
  [10 * 86_400 + 3600, "10 days later"],
])("%d seconds are %s", (seconds, text) => expect(laterText(seconds)).toBe(text));
