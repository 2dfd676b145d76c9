// npm run bench:page: how long the page's main thread is held up, in Chromium.
import { nodeProgram } from "./node-programs.mjs";
import { checkNode, ensureBrowser, ensureBuilt, ensurePackages, ensurePrograms, run } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg" });
ensureBrowser();
await ensureBuilt();
// A name runs one of them: npm run bench:page -- shelf.
const wanted = process.argv.slice(2);
const benches = ["listen", "page", "score", "shelf"].filter((name) => wanted.length === 0 || wanted.includes(name));
for (const name of benches) run(process.execPath, [nodeProgram(`e2e/bench-${name}.ts`)]);
