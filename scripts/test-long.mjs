// npm run test:long: what is long by nature. The seeded properties 10,000 times each instead of
// 500. 100 kills of the server under load, of a first start and of an upgrade. A film of each kind
// of transition, and twelve tabs of one browser. Ends with a table.
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { checkNode, ensureBrowser, ensureBuilt, ensurePackages, ensurePrograms } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg" });
ensureBrowser();
await ensureBuilt();
const files = [
  "core/src/fit",
  "core/src/show",
  "core/src/interchange/slide-list",
  "web/src/store",
  "server/src/documents",
  "server/src/store/opening",
  "server/src/jobs/kill",
  "server/src/outputs/video/film-file",
];
const seed = process.env.HUMMING_TIDE_SEED ?? String(Math.floor(Math.random() * 2 ** 31));
console.log(`Seed of the properties: HUMMING_TIDE_SEED=${seed}`);
const folder = mkdtempSync(path.join(tmpdir(), "humming-tide-long-"));
const results = path.join(folder, "results.json");
const env = { ...process.env, HUMMING_TIDE_LONG: "1", HUMMING_TIDE_SEED: seed };
const call = (...args) => spawnSync("npx", ["--no-install", ...args], { stdio: "inherit", env }).status;
const reporters = ["--reporter=default", "--reporter=json", `--outputFile=${results}`];
const unit = call("vitest", "run", "--testTimeout", "1800000", ...reporters, ...files);
const page = call("playwright", "test", "--config", "e2e/playwright.config.ts", "tabs");
console.log("\n seconds  result   test");
const { testResults } = JSON.parse(readFileSync(results, "utf8"));
for (const { assertionResults } of testResults)
  for (const { duration, status, fullName } of assertionResults)
    if ((duration ?? 0) > 1000)
      console.log(`${((duration ?? 0) / 1000).toFixed(1).padStart(8)}  ${status.padEnd(7)}  ${fullName}`);
console.log(`${"".padStart(8)}  ${(page === 0 ? "passed" : "failed").padEnd(7)}  twelve tabs of one browser`);
rmSync(folder, { recursive: true, force: true });
process.exit(unit || page || 0);
