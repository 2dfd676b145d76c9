// npm test: installs what is missing, then format, import rules, unused code, unit tests, the real interface, types and lint. docs/checks.md says what each costs.
import { checkNode, ensureBuilt, ensurePackages, ensurePrograms, run, runBeside, runTogether } from "./setup.mjs";

checkNode();
ensurePackages();
const complete = ensurePrograms({ ffmpeg: "ffmpeg", chromium: "chromium", pdftotext: "poppler-utils" });
if (!complete) {
  console.error("The tests drive a real browser and decode real files; they cannot run without these programs.");
  process.exit(1);
}
const step = (name) => [name, "npm", ["run", "--silent", name]];
// What takes seconds comes first.
const quick = await runTogether(["check:format", "check:imports", "check:unused"].map(step));
if (quick !== 0) process.exit(quick);
// Unit tests pack the built page of the web player.
ensureBuilt();
console.log("\n== test:unit");
run("npm", ["run", "--silent", "test:unit"]);
// The interface's tests wait for the browser much of their time: types and lint use what they leave.
console.log("\n== test:e2e, beside check:types and check:lint");
const codes = await Promise.all([
  runBeside("npm", ["run", "--silent", "test:e2e"]),
  runTogether(
    ["check:types", "check:lint"].map((name) => [name, "nice", ["npm", "run", "--silent", name]]),
    1,
  ),
]);
process.exit(codes.find((code) => code !== 0) ?? 0);
