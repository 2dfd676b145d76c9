// npm run bench:house: figures of the house itself, which issues and docs ask for. Counts, no
// times.
import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";

const PLACES = ["core/src", "contract/src", "server/src", "web/src", "cli/src", "demo/src", "stand-ins/src"];
const LONG_LINES = 60;
const LONGEST_LINES = 100;

// What only tests use is part of them.
const isTest = (name) => /\.(test|spec)\.tsx?$|\/testing\//.test(name);
const files = PLACES.flatMap((place) =>
  readdirSync(place, { recursive: true, encoding: "utf8" })
    .filter((name) => /\.tsx?$/.test(name))
    .map((name) => path.join(place, name)),
);
const sources = files.filter((file) => !isTest(file)).map((file) => ({ file, text: readFileSync(file, "utf8") }));
const linesOf = (text) => text.split("\n").length;

/** Lines of each function with more than `LONG_LINES`, without comments and blank lines. */
const functionLengths = () => {
  const folder = mkdtempSync(path.join(tmpdir(), "humming-tide-house-"));
  const config = path.join(folder, "oxlintrc.json");
  const limits = { max: LONG_LINES, skipComments: true, skipBlankLines: true };
  const rules = { "max-lines-per-function": ["error", limits] };
  writeFileSync(config, JSON.stringify({ categories: { correctness: "off" }, rules }));
  const { stdout } = spawnSync("npx", ["oxlint", "-c", config, "-f", "json", ...sources.map(({ file }) => file)], {
    encoding: "utf8",
    maxBuffer: 2 ** 27,
  });
  rmSync(folder, { recursive: true });
  return JSON.parse(stdout).diagnostics.map(({ message }) => Number(/\((\d+)\)/.exec(message)[1]));
};

const count = (pattern, inside = "") =>
  sources
    .filter(({ file }) => file.startsWith(inside))
    .reduce((sum, { text }) => sum + [...text.matchAll(pattern)].length, 0);

const lengths = functionLengths();
const lines = sources.reduce((sum, { text }) => sum + linesOf(text), 0);
const e2e = readdirSync("e2e").filter((name) => name.endsWith(".ts"));
const testFiles = [...files.filter(isTest), ...e2e.map((name) => path.join("e2e", name))];
const testLines = testFiles.reduce((sum, file) => sum + linesOf(readFileSync(file, "utf8")), 0);
const nonNull = count(/[\w)\]]!(?=[.,;)\]\s[])/g);
const rows = [
  [`functions over ${LONG_LINES} lines`, lengths.length, "at most 20"],
  [`functions over ${LONGEST_LINES} lines`, lengths.filter((length) => length > LONGEST_LINES).length, "none"],
  ["plain numbers named as seconds or frames in core", count(/\w*(?:Seconds|[fF]rame): number\b/g, "core"), "fewer"],
  ["non-null ! in 1,000 lines", ((1000 * nonNull) / lines).toFixed(1), "under 5"],
  ["share of tests in all lines", ((100 * testLines) / (lines + testLines)).toFixed(1) + " %", "25 to 33 %"],
  ["lines of docs/architecture.md", linesOf(readFileSync("docs/architecture.md", "utf8")), "84"],
];
for (const [what, figure, wanted] of rows) console.log(`${String(figure).padStart(8)}  ${what} (wanted: ${wanted})`);
