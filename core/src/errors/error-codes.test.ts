import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { expect, it } from "vitest";
import { ERROR_CODES, HummingTideError } from "./index.ts";

const ROOT = fileURLToPath(new URL("../../..", import.meta.url));
const PLACES = ["core/src", "contract/src", "server/src", "cli/src", "web/src", "demo/src"];

/** All sources but the catalogue and the tests, as one text. */
const sources = PLACES.flatMap((place) =>
  readdirSync(path.join(ROOT, place), { recursive: true, encoding: "utf8" })
    .filter((name) => /\.tsx?$/.test(name) && !/\.test\.|error-codes/.test(name))
    .map((name) => readFileSync(path.join(ROOT, place, name), "utf8")),
).join("\n");

it("every code of the catalogue is thrown somewhere", () => {
  const unused = Object.keys(ERROR_CODES).filter((code) => !sources.includes(`"${code}"`));
  expect(unused).toEqual([]);
});

it("every answer of 500 and above is logged, and nothing of what the asker did wrong", () => {
  for (const [code, { status, log }] of Object.entries(ERROR_CODES)) {
    expect([code, status >= 400 && status <= 599]).toEqual([code, true]);
    expect([code, log !== "nothing"]).toEqual([code, status >= 500]);
  }
});

it("an error knows what its code means", () => {
  expect(new HummingTideError("show-deleted", "It was deleted.").meaning).toEqual({ status: 410, log: "nothing" });
});
