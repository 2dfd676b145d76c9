// npm test: installs what is missing, then lint, types, import rules, unused code, format, unit
// tests and the real interface. docs/checks.md says what each costs.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { nodeProgram } from "./node-programs.mjs";
import { checkNode, ensureBrowser, ensureBuilt, ensurePackages, ensurePrograms, run, runTogether } from "./setup.mjs";

checkNode();
ensurePackages();
const hasPrograms = ensurePrograms({ ffmpeg: "ffmpeg", pdftotext: "poppler-utils" });
if (!ensureBrowser() || !hasPrograms) {
  console.error("The tests drive a real browser and decode real files; they cannot run without these programs.");
  process.exit(1);
}
// Unit tests pack the built page of the web player.
await ensureBuilt();
// Made beside the static checks: alone it would leave a core without work.
const demo = mkdtempSync(path.join(tmpdir(), "humming-tide-e2e-demo-"));
process.on("exit", () => rmSync(demo, { recursive: true, force: true }));
process.env.HUMMING_TIDE_E2E_DEMO = demo;
const makesDemo = [process.execPath, [nodeProgram("demo/src/main.ts"), path.join(demo, "data")]];
// The longest first, so that both lanes end together.
const statics = ["check:types", "check:lint", "check:imports", "check:unused", "check:format"];
const failed = await runTogether([
  ["the demo, for the tests of the interface", ...makesDemo],
  ...statics.map((name) => [name, "npm", ["run", "--silent", name]]),
]);
if (failed !== 0) process.exit(failed);
console.log("\n== test:unit");
run("npm", ["run", "--silent", "test:unit"]);
console.log("\n== test:e2e");
run("npm", ["run", "--silent", "test:e2e"]);
