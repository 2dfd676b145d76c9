import { mkdir, mkdtemp, rm, writeFile } from "node:fs/promises";
import { availableParallelism, tmpdir } from "node:os";
import path from "node:path";
import { itemAt } from "@humming-tide/core/presence";
import { takeInPicture } from "@humming-tide/server";
import sharp, { type Sharp } from "sharp";
import { different, noisyJpeg } from "./bench-pictures.ts";
import { wallSeconds } from "./measure.ts";

const PICTURES = 1024;
const ROUNDS = 4;
const SIZE = { width: 4000, height: 3000 };

/**
 * The intake of a picture (thumbnail, working copy, fill, and what is measured), against sharp
 * alone. Sharp makes the same three files from the same originals, each the straight way; side by
 * side on all cores, in turns, so that a busy machine hurts both.
 */
export async function benchThumbnails(): Promise<void> {
  const folder = await mkdtemp(path.join(tmpdir(), "humming-tide-bench-"));
  try {
    const bases = await Promise.all(Array.from({ length: 8 }, (_, i) => noisyJpeg(SIZE, i)));
    const originals = bases.map((_, i) => path.join(folder, `${i}.jpg`));
    for (const [i, base] of bases.entries()) await writeFile(itemAt(originals, i), different(base, i));
    const all = (work: (original: string, to: string) => Promise<unknown>): Promise<number> =>
      wallSeconds(async () => {
        let next = 0;
        const oneAfterAnother = async (): Promise<void> => {
          for (let i = next++; i < PICTURES / ROUNDS; i = next++) {
            const to = path.join(folder, "made", String(i));
            await mkdir(to, { recursive: true });
            await work(itemAt(originals, i % originals.length), to);
          }
        };
        await Promise.all(Array.from({ length: availableParallelism() }, oneAfterAnother));
      });
    let [ours, theirs, thumbnails] = [0, 0, 0];
    for (let round = 0; round < ROUNDS; round++) {
      ours += await all((original, to) => takeInPicture(original, "image/jpeg", to));
      theirs += await all(sharpAlone);
      thumbnails += await all((original, to) => thumbnail(original).toFile(path.join(to, "thumbnail.webp")));
    }
    const each = (seconds: number): string => `${((1000 * seconds) / PICTURES).toFixed(0)} ms`;
    console.log(`  ${PICTURES} pictures of ${SIZE.width} x ${SIZE.height}, each, all cores at work`);
    console.log(`  thumbnail, working copy, fill and measures: ${each(ours)}`);
    console.log(
      `  sharp alone, the same three files: ${each(theirs)}; share ${(ours / theirs).toFixed(2)}, wanted: 1.6`,
    );
    console.log(`  sharp alone, nothing but a thumbnail from a file decoded small: ${each(thumbnails)}`);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

const inside = { fit: "inside", withoutEnlargement: true } as const;
const thumbnail = (original: string): Sharp =>
  sharp(original).autoOrient().resize(400, 400, inside).webp({ quality: 80, effort: 2 });

async function sharpAlone(original: string, to: string): Promise<void> {
  await thumbnail(original).toFile(path.join(to, "thumbnail.webp"));
  await sharp(original)
    .autoOrient()
    .resize(2400, 2400, inside)
    .jpeg({ quality: 92, chromaSubsampling: "4:4:4", optimiseCoding: false })
    .toFile(path.join(to, "working.jpg"));
  await sharp(original)
    .autoOrient()
    .resize(256, null, { fit: "inside" })
    .blur(9)
    .modulate({ brightness: 0.55, saturation: 0.8 })
    .jpeg({ quality: 95, chromaSubsampling: "4:4:4" })
    .toFile(path.join(to, "fill.jpg"));
}
