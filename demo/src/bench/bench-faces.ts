import { existsSync } from "node:fs";
import path from "node:path";
import {
  type FoundFace,
  findSubject,
  importantHeads,
  placedPicture,
  type Rectangle,
  restView,
  ruledViews,
  type Size,
  type Subject,
  subjectOfHeads,
} from "@humming-tide/core/picture";
import type { View } from "@humming-tide/core/values";
import { FACE_PIXELS, findFaces, openFaceNetwork } from "@humming-tide/server";
import sharp from "sharp";
import { PHOTOGRAPHS } from "./face-labels.ts";

/** Shapes that films have. */
const FRAMES: Readonly<Record<string, Size>> = {
  "16:9": { width: 1920, height: 1080 },
  "4:5": { width: 1080, height: 1350 },
  "1:1": { width: 1080, height: 1080 },
  "9:16": { width: 1080, height: 1920 },
};
const FILLS = [{ kind: "crop" }, { kind: "blur" }] as const;
/** A head is cut where more than this of it lies beyond the frame; boxes are no more exact. */
const SLACK = 0.06;
/** A picture that stands for six seconds, and moves as it does by default. */
const MOVE = { direction: "in", strength: 0.5, seconds: 6 } as const;

/** How often heads are whole, of how many, by "fill shape". */
type Kept = Map<string, { whole: number; all: number }>;

/**
 * Faces found and heads kept whole on real photographs, labelled by hand (face-labels.ts). The
 * folder is filled by scripts/fetch-photographs.mjs.
 */
export async function benchFaces(folder?: string): Promise<void> {
  if (!folder || !existsSync(folder)) {
    console.log("  no photographs here: node scripts/fetch-photographs.mjs FOLDER, then npm run bench:faces -- FOLDER");
    return;
  }
  const network = await openFaceNetwork();
  let [labelled, met, found, wrong, cpuSeconds] = [0, 0, 0, 0, 0];
  const [now, before]: [Kept, Kept] = [new Map(), new Map()];
  for (const { name, heads, either } of PHOTOGRAPHS) {
    const file = path.join(folder, name);
    const seen = await raster(file, FACE_PIXELS);
    const since = process.cpuUsage();
    const faces = await findFaces(network, seen);
    const { user, system } = process.cpuUsage(since);
    cpuSeconds += (user + system) / 1e6;
    const missed = heads.filter((head) => !faces.some(({ box }) => isFaceOf(box, head)));
    const others = faces.filter(({ box }) => ![...heads, ...either].some((head) => isFaceOf(box, head)));
    labelled += heads.length;
    met += heads.length - missed.length;
    found += faces.length;
    wrong += others.length;
    if (missed.length > 0) console.log(`  ${name}: ${missed.length} of ${heads.length} faces not found`);
    if (others.length > 0) console.log(`  ${name}: ${others.length} found where no face is`);
    if (heads.length === 0) continue;
    const aspect = seen.width / seen.height;
    const standsOut = findSubject(await raster(file, 96));
    count(now, seen, heads, subjectOfHeads(importantHeads(faces, aspect)) ?? standsOut);
    count(before, seen, heads, standsOut);
  }
  const percent = (part: number, whole: number): string => `${((100 * part) / whole).toFixed(1)} %`;
  console.log(`  ${PHOTOGRAPHS.length} photographs, ${labelled} heads`);
  console.log(`  faces found: ${percent(met, labelled)} (wanted 90)`);
  console.log(`  of what was found, no face: ${percent(wrong, found)} (wanted 3 at most)`);
  console.log(`  processor time: ${((1000 * cpuSeconds) / PHOTOGRAPHS.length).toFixed(0)} ms a picture (wanted 250)`);
  console.log("  heads whole at both ends of a move (wanted 97 %), and by what stands out alone:");
  for (const [key, { whole, all }] of now) {
    const former = before.get(key);
    console.log(`    ${key}: ${percent(whole, all)}, ${former ? percent(former.whole, former.all) : ""}`);
  }
}

async function raster(file: string, pixels: number): Promise<Size & { pixels: Uint8Array }> {
  const { data, info } = await sharp(file)
    .autoOrient()
    .resize(pixels, pixels, { fit: "inside" })
    .toColourspace("srgb")
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, pixels: new Uint8Array(data) };
}

/** The middle of the face lies in the head, and it is about as large as a face in it is. */
function isFaceOf(face: FoundFace["box"], head: Rectangle): boolean {
  const [x, y] = [face.x + face.width / 2, face.y + face.height / 2];
  const share = (face.width * face.height) / (head.width * head.height);
  const isInside = x > head.x && x < head.x + head.width && y > head.y && y < head.y + head.height;
  return isInside && share > 0.1 && share < 1.3;
}

function count(kept: Kept, picture: Size, heads: readonly Rectangle[], subject: Subject): void {
  for (const [shape, frame] of Object.entries(FRAMES))
    for (const fill of FILLS) {
      const rest = restView(picture, frame, subject, fill);
      const { start, end } = ruledViews({ picture, frame, rest, subject, ...MOVE });
      const key = `${fill.kind === "crop" ? "cropped" : "by default"} ${shape}`;
      const counts = kept.get(key) ?? { whole: 0, all: 0 };
      kept.set(key, counts);
      counts.all += heads.length;
      counts.whole += heads.filter((head) => [start, end].every((view) => isWhole(head, view, picture, frame))).length;
    }
}

function isWhole(head: Rectangle, view: View, picture: Size, frame: Size): boolean {
  const placed = placedPicture(view, picture, frame);
  const [width, height] = [head.width * placed.width, head.height * placed.height];
  const [left, top] = [placed.x + head.x * placed.width, placed.y + head.y * placed.height];
  return (
    Math.max(-left, left + width - frame.width) <= SLACK * width &&
    Math.max(-top, top + height - frame.height) <= SLACK * height
  );
}
