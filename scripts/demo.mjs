// npm run demo: the closing night of the lantern regatta, laid out and ready to play, with
// stand-ins for the services outside. Made on first use, under a minute on two cores.
import { existsSync } from "node:fs";
import path from "node:path";
import { nodeProgram } from "./node-programs.mjs";
import { serve } from "./serve.mjs";
import { checkNode, ensureBuilt, ensurePackages, ensurePrograms, ROOT, run } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg" });
await ensureBuilt();
const data = path.join(ROOT, ".cache", "demo-data");
if (!existsSync(path.join(data, "humming-tide.sqlite"))) run(process.execPath, [nodeProgram("demo/src/main.ts"), data]);
// Services outside of the house, made up: payments, a video site, a drive for discs. Without them
// the rest works all the same.
const STAND_INS_PORT = "4820";
serve(process.argv.slice(2), { HUMMING_TIDE_DATA: data, HUMMING_TIDE_SERVICES: `http://127.0.0.1:${STAND_INS_PORT}` }, [
  {
    program: "stand-ins/src/main.ts",
    options: ["--port", STAND_INS_PORT, "--folder", path.join(ROOT, ".cache", "stand-ins")],
  },
]);
