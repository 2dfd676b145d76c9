// npm test: installs what is missing, then lint, types, import rules, unused code, format, unit
// tests and the real interface. docs/checks.md says what each costs.
import { checkNode, ensureBrowser, ensureBuilt, ensurePackages, ensurePrograms, run, runTogether } from "./setup.mjs";

checkNode();
ensurePackages();
const hasPrograms = ensurePrograms({ ffmpeg: "ffmpeg", pdftotext: "poppler-utils" });
if (!ensureBrowser() || !hasPrograms) {
  console.error("The tests drive a real browser and decode real files; they cannot run without these programs.");
  process.exit(1);
}
// The longest first, so that both lanes end together.
const statics = ["check:lint", "check:types", "check:imports", "check:unused", "check:format"];
const failed = await runTogether(statics.map((name) => [name, "npm", ["run", "--silent", name]]));
if (failed !== 0) process.exit(failed);
// Unit tests pack the built page of the web player.
await ensureBuilt();
console.log("\n== test:unit");
run("npm", ["run", "--silent", "test:unit"]);
console.log("\n== test:e2e");
run("npm", ["run", "--silent", "test:e2e"]);
