// npm run bench:page: how long the page's main thread is held up, in Chromium.
import { spawnSync } from "node:child_process";
import { nodeProgram } from "./node-programs.mjs";
import { checkNode, ensureBrowser, ensureBuilt, ensurePackages, ensurePrograms } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg" });
ensureBrowser();
await ensureBuilt();
// A name runs one of them: npm run bench:page -- shelf.
const wanted = process.argv.slice(2);
const benches = ["intake", "listen", "page", "score", "shelf"].filter(
  (name) => wanted.length === 0 || wanted.includes(name),
);
// Each runs, whatever the one before it found: 1 is a figure over its bound.
for (const name of benches) {
  const { status } = spawnSync(process.execPath, [nodeProgram(`e2e/bench-${name}.ts`)], { stdio: "inherit" });
  if (status !== 0) process.exitCode = status ?? 1;
}
