import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { expect, it } from "vitest";
import { present } from "../presence/index.ts";
import * as errors from "./index.ts";

const ROOT = fileURLToPath(new URL("../../..", import.meta.url));
const PLACES = ["core/src", "contract/src", "server/src", "cli/src", "web/src", "demo/src"];

const sources = PLACES.flatMap((place) =>
  readdirSync(path.join(ROOT, place), { recursive: true, encoding: "utf8" })
    .filter((name) => /\.tsx?$/.test(name) && !/\.test\./.test(name))
    .map((name) => ({ name, text: readFileSync(path.join(ROOT, place, name), "utf8") })),
);
const isCatalogue = ({ text }: { text: string }): boolean => /= errorsOf\(\{$/m.test(text);
/** Codes are the only names in a catalogue that stand two spaces in. */
const codes = sources
  .filter(isCatalogue)
  .flatMap(({ text }) => [...text.matchAll(/^ {2}"?([a-z-]+)"?: \{$/gm)].map(([, code]) => present(code)));

const frameError = errors.errorsOf({
  "size-odd": {
    meaning: errors.BAD,
    text: ({ width, height }: { width: number; height: number }) => `${width} x ${height} is odd.`,
  },
  "no-frame": { meaning: errors.GONE, text: () => "There is no frame." },
});

it("every code belongs to one catalogue and is thrown outside of it", () => {
  expect(codes.length).toBeGreaterThan(100);
  expect(codes.filter((code, i) => codes.indexOf(code) !== i)).toEqual([]);
  const others = sources.filter((source) => !isCatalogue(source)).map(({ text }) => text);
  const users = others.join("\n");
  expect(codes.filter((code) => !users.includes(`"${code}"`))).toEqual([]);
});

it("every answer of 500 and above is logged, and nothing of what the asker did wrong", () => {
  const meanings = Object.entries(errors).flatMap(([name, value]) =>
    typeof value === "object" && "status" in value ? [{ name, ...value }] : [],
  );
  expect(meanings.length).toBeGreaterThan(10);
  for (const { name, status, log } of meanings) {
    expect([name, status >= 400 && status <= 599]).toEqual([name, true]);
    expect([name, log !== "nothing"]).toEqual([name, status >= 500]);
  }
});

it("an error has its code, its values, the sentence that tells them and its meaning", () => {
  const cause = new Error("a bug");
  const error = frameError("size-odd", { width: 641, height: 3 }, { cause });
  expect(error).toMatchObject({
    code: "size-odd",
    values: { width: 641, height: 3 },
    message: "641 x 3 is odd.",
    cause,
  });
  expect(error.meaning).toEqual({ status: 400, log: "nothing" });
  expect(frameError("no-frame")).toMatchObject({ values: {}, message: "There is no frame.", meaning: { status: 410 } });
});

it("the compiler refuses other codes and other values", () => {
  // @ts-expect-error: no code of the catalogue.
  expect(() => frameError("no-such-code")).toThrow(RangeError);
  // @ts-expect-error: a value is missing.
  expect(frameError("size-odd", { width: 641 }).code).toBe("size-odd");
});

it("goes from thread to thread and stays the same", () => {
  const error = frameError("size-odd", { width: 641, height: 3 });
  const arrived = new errors.HummingTideError(structuredClone(error.data));
  expect(arrived.data).toEqual(error.data);
  expect(arrived).toBeInstanceOf(errors.HummingTideError);
});
