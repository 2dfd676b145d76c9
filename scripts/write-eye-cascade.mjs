// Writes core/src/photo-analysis/eye-cascade.json from the file that Debian's package opencv-data
// has (/usr/share/opencv4/haarcascades/haarcascade_eye_tree_eyeglasses.xml): the same numbers in a
// row, as core/src/photo-analysis/eye-cascade.ts reads them.
import { readFileSync, writeFileSync } from "node:fs";

const [source] = process.argv.slice(2);
if (!source) throw new Error("Say where the cascade is: node scripts/write-eye-cascade.mjs FILE.xml");
const xml = readFileSync(source, "utf8");
const numbers = (text) => text.trim().split(/\s+/).map(Number);
/** What stands between a tag and its end, each time. */
const inside = (text, tag) =>
  [...text.matchAll(new RegExp(`<${tag}>([\\s\\S]*?)</${tag}>`, "g"))].map((match) => match[1]);

const stages = xml
  .split("<stageThreshold>")
  .slice(1)
  .flatMap((stage) => {
    const trees = inside(stage, "internalNodes").map(numbers);
    const leaves = inside(stage, "leafValues").map(numbers);
    const threshold = Number(stage.split("<")[0]);
    return [threshold, trees.length, ...trees.flatMap((nodes, i) => [nodes.length / 4, ...nodes, ...leaves[i]])];
  });
const features = inside(xml, "features")[0]
  .split("<rects>")
  .slice(1)
  .flatMap((feature) => {
    const rectangles = [...feature.split("</rects>")[0].matchAll(/<_>([^<]*)<\/_>/g)].map((match) => numbers(match[1]));
    return [/<tilted>1/.test(feature) ? 1 : 0, rectangles.length, ...rectangles.flat()];
  });
const rounded = (value) => Number(value.toPrecision(7));
writeFileSync(
  new URL("../core/src/photo-analysis/eye-cascade.json", import.meta.url),
  `${JSON.stringify({ features: features.map(rounded), stages: stages.map(rounded) })}\n`,
);
