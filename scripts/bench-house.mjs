// npm run bench:house: figures of the house itself, which issues and docs ask for. Counts, no times.
import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { ESLint } from "eslint";
import tseslint from "typescript-eslint";

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

const functionLengths = async () => {
  const eslint = new ESLint({
    overrideConfigFile: true,
    allowInlineConfig: false,
    overrideConfig: [
      {
        files: ["**/*.ts", "**/*.tsx"],
        languageOptions: { parser: tseslint.parser },
        rules: { "max-lines-per-function": ["error", { max: LONG_LINES, skipComments: true, skipBlankLines: true }] },
      },
    ],
  });
  const results = await eslint.lintFiles(sources.map(({ file }) => file));
  return results.flatMap(({ messages }) =>
    messages
      .filter(({ ruleId }) => ruleId === "max-lines-per-function")
      .map(({ message }) => Number(/\((\d+)\)/.exec(message)[1])),
  );
};

const count = (pattern, inside = "") =>
  sources
    .filter(({ file }) => file.startsWith(inside))
    .reduce((sum, { text }) => sum + [...text.matchAll(pattern)].length, 0);

const lengths = await functionLengths();
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
