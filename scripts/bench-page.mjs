// npm run bench:page: how long the page's main thread is held up, in Chromium.
import { checkNode, ensureBuilt, ensurePackages, ensurePrograms, run } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg", chromium: "chromium" });
ensureBuilt();
for (const bench of ["bench-listen.ts", "bench-page.ts", "bench-score.ts"])
  run(process.execPath, ["--import", "tsx", `e2e/${bench}`]);
