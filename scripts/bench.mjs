// npm run bench: the figures that the project watches, measured on this machine in one run.
import { ensureNodePrograms, nodeProgram } from "./node-programs.mjs";
import { checkNode, ensurePackages, ensurePrograms, run } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg" });
await ensureNodePrograms();
run(process.execPath, [nodeProgram("demo/src/bench/main.ts"), ...process.argv.slice(2)]);
