import { itemAt, present } from "@humming-tide/core/presence";
import { describe, expect, it } from "vitest";
import { TERMS, TERMS_OF_SCREEN } from "./terms/terms.ts";

const DOCS = import.meta.glob<string>("../../docs/language.md", { query: "?raw", import: "default", eager: true });
/** What a screen may show: the page's sources and core's messages. */
const SOURCES = import.meta.glob<string>(["./**/*.{ts,tsx}", "../../core/src/**/*.ts", "!**/*.test.ts"], {
  query: "?raw",
  import: "default",
  eager: true,
});

/** docs/language.md: the last column of its second table has the words that were replaced. */
function replacedWords(): string[] {
  const [, table = ""] = itemAt(Object.values(DOCS), 0).split("| term | where | replaced |");
  const rows = table.split("\n").filter((line) => line.startsWith("| "));
  return rows.flatMap((row) => (row.split("|")[3] ?? "").split(";").map((words) => words.trim()));
}

/** The rows of its first table: term and meaning. */
function ownTerms(): [string, string][] {
  const [, table = ""] = itemAt(Object.values(DOCS), 0).split("| term | meaning | where |");
  const rows = itemAt(table.split("## "), 0)
    .split("\n")
    .slice(2)
    .filter((line) => line.startsWith("| "));
  return rows
    .map((row) => row.split("|").map((cell) => cell.trim()))
    .map(([, term, meaning]) => [present(term), present(meaning)]);
}

const withoutComments = (source: string): string =>
  source.replace(/\/\*[\s\S]*?\*\//g, "").replace(/(^|\s)\/\/.*$/gm, "");

describe("words on the screen", () => {
  const words = replacedWords();
  const sources = Object.entries(SOURCES).map(([file, source]) => ({ file, text: withoutComments(source) }));

  it("explain our own terms as docs/language.md does", () => {
    const documented = Object.fromEntries(ownTerms());
    expect(documented).toMatchObject(TERMS);
    // What is left are the names of things that every screen shows.
    const rest = Object.keys(documented).filter((term) => !Object.hasOwn(TERMS, term));
    expect(rest).toEqual(["show", "Gather, Listen, Score, Dress, Hand over"]);
    expect(new Set(Object.values(TERMS_OF_SCREEN).flat())).toEqual(new Set(Object.keys(TERMS)));
  });

  it("are read from a table that has some, and from sources that have words", () => {
    expect(words.length).toBeGreaterThan(60);
    expect(sources.some(({ text }) => text.includes("Shuffle moves"))).toBe(true);
  });

  it.each(words)("no longer are “%s”", (replaced) => {
    expect(sources.filter(({ text }) => text.includes(replaced)).map(({ file }) => file)).toEqual([]);
  });

  it.each([
    [/=== 1 \? "" : "s"/, "counted (core/language) puts the s"],
    [/\$\{[^}]+\} \$\{[^}]+=== 1 \?/, "counted (core/language) chooses the form"],
    [/toLocaleString\("en", \{ dateStyle/, "instantText (ui/date-text.ts) says instants"],
  ])("never have a number or a date made by hand: %s", (pattern) => {
    expect(sources.filter(({ text }) => pattern.test(text)).map(({ file }) => file)).toEqual([]);
  });
});
