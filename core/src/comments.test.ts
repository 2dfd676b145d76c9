import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { expect, it } from "vitest";

const ROOT = fileURLToPath(new URL("../..", import.meta.url));
const CODE = ["core", "contract", "server", "web", "cli", "demo", "stand-ins", "e2e", "scripts"];
const DOCS = ["", "docs", "training"];

const longLines = (files: readonly string[], most: number, counts: (line: string) => boolean): string[] =>
  files.flatMap((file) =>
    readFileSync(path.join(ROOT, file), "utf8")
      .split("\n")
      .flatMap((line, i) => (line.length > most && counts(line) ? [`${file}:${i + 1}`] : [])),
  );

const LONGEST_SENTENCE_WORDS = 25;

/** Sentences of a file's comments; code in them (indented by four) and tags are left out. */
function sentencesOf(source: string): string[] {
  const comments = [...source.matchAll(/\/\*\*?([\s\S]*?)\*\/|((?:^[ \t]*\/\/ .*\n)+)/gm)];
  return comments.flatMap(([, block, lines]) =>
    (block ?? lines ?? "")
      .replace(/^\s*(\*|\/\/)( {4,}.*)?/gm, "")
      .replace(/@\w+/g, ". ")
      .replace(/\s+/g, " ")
      .split(/(?<=[.;:?!])\s+|\s+- /),
  );
}

const wordsOf = (sentence: string): number => sentence.split(/\s+/).filter((word) => /[a-z0-9]/i.test(word)).length;

const isWritten = (name: string): boolean =>
  /\.(ts|tsx|mjs|cjs)$/.test(name) && !/(^|\/)(node_modules|dist)\//.test(name);

const sources = CODE.flatMap((room) =>
  readdirSync(path.join(ROOT, room), { recursive: true, encoding: "utf8" })
    .filter(isWritten)
    .map((name) => `${room}/${name}`),
);

it("sentences of comments have at most 25 words", () => {
  const long = sources.flatMap((file) =>
    sentencesOf(readFileSync(path.join(ROOT, file), "utf8"))
      .filter((sentence) => wordsOf(sentence) > LONGEST_SENTENCE_WORDS)
      .map((sentence) => `${file}: ${sentence}`),
  );
  expect(long).toEqual([]);
});

it("comments in code have at most 100 columns", () => {
  expect(sources.length).toBeGreaterThan(900);
  // A reason for the linter must stand on one line.
  expect(longLines(sources, 100, (line) => /^\s*(\/\/|\/?\*)/.test(line) && !line.includes("biome-ignore"))).toEqual(
    [],
  );
});

it("docs have at most 120 columns, but for rows of tables, which cannot be broken", () => {
  const files = DOCS.flatMap((folder) =>
    readdirSync(path.join(ROOT, folder))
      .filter((name) => name.endsWith(".md"))
      .map((name) => path.join(folder, name)),
  );
  expect(files.length).toBeGreaterThan(15);
  expect(longLines(files, 120, (line) => !line.startsWith("|"))).toEqual([]);
});
