// npm test: installs what is missing, then format, lint, types, import rules, unused code, unit tests and the real interface.
import { checkNode, ensureBuilt, ensurePackages, ensurePrograms, run } from "./setup.mjs";

checkNode();
ensurePackages();
const complete = ensurePrograms({ ffmpeg: "ffmpeg", chromium: "chromium" });
if (!complete) {
  console.error("The tests drive a real browser and decode real files; they cannot run without these programs.");
  process.exit(1);
}
const steps = ["check:format", "check:lint", "check:types", "check:imports", "check:unused", "test:unit"];
for (const step of steps) {
  console.log(`\n== ${step}`);
  run("npm", ["run", "--silent", step]);
}
ensureBuilt();
console.log("\n== test:e2e");
run("npm", ["run", "--silent", "test:e2e"]);
