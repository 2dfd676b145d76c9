import { existsSync } from "node:fs";
import path from "node:path";
import type { PlannedPicture } from "@humming-tide/core/film";
import {
  type FoundFace,
  findSubject,
  importantHeads,
  type Rectangle,
  type Size,
  sharedShare,
  subjectOfHeads,
} from "@humming-tide/core/picture";
import { itemAt } from "@humming-tide/core/presence";
import { FACE_PIXELS, findFaces, openFaceNetwork, withOpenEyes } from "@humming-tide/server";
import sharp from "sharp";
import { writeContactSheets } from "./contact-sheets.ts";
import { PHOTOGRAPHS } from "./face-labels.ts";
import { FRAMES, type FramedPhotograph, framed, pictureShare, wholeHeads } from "./framed-heads.ts";
import { MAIN_THINGS } from "./main-things.ts";

/** Null: as a new show has it. */
const FILLS = { cropped: { kind: "crop" }, "by default": null } as const;

/** A photograph with its labels and what was found in it. */
interface Looked extends FramedPhotograph {
  readonly heads: readonly Rectangle[];
}

/**
 * Faces found and heads kept whole on real photographs, labelled by hand (face-labels.ts). The
 * folder is filled by scripts/fetch-photographs.mjs. `sheets` is a folder for contact sheets: every
 * photograph as each shape of film shows it.
 */
export async function benchFaces(folder?: string, sheets?: string): Promise<void> {
  if (!folder || !existsSync(folder)) {
    console.log("  no photographs here: node scripts/fetch-photographs.mjs FOLDER, then npm run bench:faces -- FOLDER");
    return;
  }
  const network = await openFaceNetwork();
  let [labelled, met, found, wrong, cpuSeconds] = [0, 0, 0, 0, 0];
  const [now, before]: [Looked[], Looked[]] = [[], []];
  const eyes = { closed: 0, closedTold: 0, open: 0, openTold: 0 };
  for (const { name, heads, either, closedEyes, unclearEyes } of PHOTOGRAPHS) {
    const file = path.join(folder, name);
    const seen = await raster(file, FACE_PIXELS);
    const since = process.cpuUsage();
    const faces = withOpenEyes(await findFaces(network, seen), seen);
    const { user, system } = process.cpuUsage(since);
    cpuSeconds += (user + system) / 1e6;
    const missed = heads.filter((head) => !faces.some(({ box }) => isFaceOf(box, head)));
    const others = faces.filter(({ box }) => ![...heads, ...either].some((head) => isFaceOf(box, head)));
    for (const { box, eyesOpen } of faces) {
      const head = heads.findIndex((one) => isFaceOf(box, one));
      if (eyesOpen === undefined || head < 0 || unclearEyes.has(head)) continue;
      const isClosed = closedEyes.has(head);
      eyes[isClosed ? "closed" : "open"]++;
      if (eyesOpen !== isClosed) eyes[isClosed ? "closedTold" : "openTold"]++;
    }
    labelled += heads.length;
    met += heads.length - missed.length;
    found += faces.length;
    wrong += others.length;
    if (missed.length > 0) console.log(`  ${name}: ${missed.length} of ${heads.length} faces not found`);
    if (others.length > 0) console.log(`  ${name}: ${others.length} found where no face is`);
    const { width, height } = seen;
    const standsOut = findSubject(await raster(file, 96));
    const subject = subjectOfHeads(importantHeads(faces, width / height)) ?? standsOut;
    now.push({ name, heads, seen: { width, height, subject } });
    before.push({ name, heads, seen: { width, height, subject: standsOut } });
  }
  const percent = (part: number, whole: number): string => `${((100 * part) / whole).toFixed(1)} %`;
  console.log(`  ${PHOTOGRAPHS.length} photographs, ${labelled} heads`);
  console.log(`  faces found: ${percent(met, labelled)} (wanted 90)`);
  console.log(`  of what was found, no face: ${percent(wrong, found)} (wanted 3 at most)`);
  console.log(`  processor time: ${((1000 * cpuSeconds) / PHOTOGRAPHS.length).toFixed(0)} ms a picture (wanted 250)`);
  console.log(
    `  eyes told where they can be: ${eyes.closedTold} of ${eyes.closed} closed, ${eyes.openTold} of ${eyes.open} open`,
  );
  await reportMainThings(folder);
  console.log("  heads whole at both ends of a move (wanted 97 %), by what stands out alone, picture in the frame:");
  for (const [name, fill] of Object.entries(FILLS))
    for (const [shape, size] of Object.entries(FRAMES)) {
      const [whole, former] = [now, before].map((looked) => wholeOf(looked, framed(looked, size, fill), size));
      const shares = framed(now, size, fill).map((slot) => pictureShare(slot, size));
      const filled = shares.reduce((sum, share) => sum + share, 0);
      console.log(
        `    ${name} ${shape}: ${percent(whole ?? 0, labelled)}, ${percent(former ?? 0, labelled)}, ${percent(filled, shares.length)}`,
      );
    }
  if (sheets) await writeContactSheets(now, folder, sheets);
}

/** Whether what stands out is what somebody would name first, in photographs without people. */
async function reportMainThings(folder: string): Promise<void> {
  let [hit, shared] = [0, 0];
  for (const { name, things } of MAIN_THINGS) {
    const { point, region } = findSubject(await raster(path.join(folder, name), 96));
    const isHit = things.some(({ x, y, width, height }) =>
      [point.x - x, x + width - point.x, point.y - y, y + height - point.y].every((inside) => inside >= 0),
    );
    if (isHit) hit++;
    else console.log(`  ${name}: the point lies beside the main thing`);
    shared += Math.max(...things.map((thing) => sharedShare(thing, region)));
  }
  const count = MAIN_THINGS.length;
  console.log(`  main things hit where nobody is seen: ${hit} of ${count} (wanted 85 %)`);
  console.log(`  of region and thing together both cover: ${((100 * shared) / count).toFixed(0)} %`);
}

/** Heads that are whole where their photograph is the slide's own. */
const wholeOf = (looked: readonly Looked[], slots: readonly PlannedPicture[], size: Size): number =>
  slots.reduce((sum, slot, i) => sum + wholeHeads(slot, size, itemAt(looked, i).heads), 0);

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
