// npm test: installs what is missing, then format, lint, types, import rules, unused code, unit tests and the real interface.
import { checkNode, ensureBuilt, ensurePackages, ensurePrograms, run, runTogether } from "./setup.mjs";

checkNode();
ensurePackages();
const complete = ensurePrograms({ ffmpeg: "ffmpeg", chromium: "chromium", pdftotext: "poppler-utils" });
if (!complete) {
  console.error("The tests drive a real browser and decode real files; they cannot run without these programs.");
  process.exit(1);
}
// The longest first: lint beside the types of each room.
const checks = ["check:lint", "check:types", "check:format", "check:imports", "check:unused"];
await runTogether(checks.map((step) => [step, "npm", ["run", "--silent", step]]));
// Unit tests pack the built page of the web player.
ensureBuilt();
console.log("\n== test:unit");
run("npm", ["run", "--silent", "test:unit"]);
console.log("\n== test:e2e");
run("npm", ["run", "--silent", "test:e2e"]);
