import path from "node:path";
import { buildDemo } from "./build-demo.ts";

/**
 * Builds the demo in the data folder named by the first argument; files to try things with go
 * beside it.
 */
const dataFolder = path.resolve(process.argv[2] ?? ".cache/demo-data");
const filesFolder = path.join(path.dirname(dataFolder), "demo-files");
const terminal = process.stdout.isTTY;
await buildDemo({
  dataFolder,
  filesFolder,
  onProgress: (text) => (terminal ? process.stdout.write(`\r\x1b[K${text}`) : undefined),
});
if (terminal) process.stdout.write("\r\x1b[K");
console.log(`The demo is ready. Its pictures and songs, to try things with: ${filesFolder}`);
