// npm run bench:beats -- FOLDER: how well beats, bars and sections of a corpus with known truth are
// found.
import { ensureNodePrograms, nodeProgram } from "./node-programs.mjs";
import { checkNode, ensurePackages, ensurePrograms, run } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg" });
await ensureNodePrograms();
run(process.execPath, [nodeProgram("demo/src/bench/bench-beats.ts"), ...process.argv.slice(2)]);
