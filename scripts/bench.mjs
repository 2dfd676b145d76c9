// npm run bench: the figures that the project watches, measured on this machine in one run.
import { checkNode, ensurePackages, ensurePrograms, run } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg" });
run(process.execPath, ["--import", "tsx", "demo/src/bench/main.ts", ...process.argv.slice(2)]);
