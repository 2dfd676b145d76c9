// npm run demo: the closing night of the lantern regatta, laid out and ready to play. Made on first use, under a minute on two cores.
import { existsSync } from "node:fs";
import path from "node:path";
import { serve } from "./serve.mjs";
import { checkNode, ensureBuilt, ensurePackages, ensurePrograms, ROOT, run } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg" });
ensureBuilt();
const data = path.join(ROOT, ".cache", "demo-data");
if (!existsSync(path.join(data, "humming-tide.sqlite")))
  run(process.execPath, ["--import", "tsx", "demo/src/main.ts", data]);
serve(process.argv.slice(2), { HUMMING_TIDE_DATA: data });
