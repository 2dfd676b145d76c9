// npm run bench:page: how long the page's main thread is held up, in Chromium.
import { checkNode, ensureBuilt, ensurePackages, ensurePrograms, run } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg", chromium: "chromium" });
ensureBuilt();
// A name runs one of them: npm run bench:page -- shelf.
const wanted = process.argv.slice(2);
const benches = ["listen", "page", "score", "shelf"].filter((name) => wanted.length === 0 || wanted.includes(name));
for (const bench of benches.map((name) => `bench-${name}.ts`))
  run(process.execPath, ["--import", "tsx", `e2e/${bench}`]);
