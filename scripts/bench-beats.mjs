// npm run bench:beats -- FOLDER: how well beats, bars and sections of a corpus with known truth are found.
import { checkNode, ensurePackages, ensurePrograms, run } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg" });
run(process.execPath, ["--import", "tsx", "demo/src/bench/bench-beats.ts", ...process.argv.slice(2)]);
