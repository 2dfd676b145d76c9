/**
 * Writes what the beat network hears of each WAV in a folder: NAME.features, little-endian float32
 * rows.
 */
import { readdirSync, writeFileSync } from "node:fs";
import path from "node:path";
import { heardBeatFeatures } from "@humming-tide/core/music";
import { decodeMono } from "@humming-tide/server";

const [folder, part = "0", parts = "1"] = process.argv.slice(2);
if (!folder) throw new Error("Usage: write-features.ts FOLDER [PART PARTS]");
const files = readdirSync(folder)
  .filter((name) => name.endsWith(".wav"))
  .sort()
  .filter((_, i) => i % Number(parts) === Number(part));
for (const name of files) {
  const features = heardBeatFeatures(await decodeMono(path.join(folder, name)));
  writeFileSync(path.join(folder, `${path.parse(name).name}.features`), new Uint8Array(features.buffer));
}
