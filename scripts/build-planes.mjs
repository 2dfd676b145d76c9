// npm run build:planes: makes server/src/planes/planes.wasm of server/assembly. What it makes is
// committed, so that nothing has to be compiled to run; a test compares both. With a path, the file
// is written there instead.
import path from "node:path";
import asc from "assemblyscript/asc";
import { ROOT } from "./setup.mjs";

const outFile = path.resolve(process.argv[2] ?? path.join(ROOT, "server/src/planes/planes.wasm"));
const { error, stderr } = await asc.main([
  path.join("server", "assembly", "index.ts"),
  ...["--baseDir", ROOT, "--outFile", path.relative(ROOT, outFile)],
  ...["--optimizeLevel", "3", "--shrinkLevel", "0", "--converge", "--noAssert"],
  ...["--enable", "simd", "--runtime", "minimal", "--use", "abort="],
]);
if (error) {
  console.error(stderr.toString());
  process.exit(1);
}
