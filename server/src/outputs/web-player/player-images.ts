import { copyFile } from "node:fs/promises";
import path from "node:path";
import { applyLook, type ImageName, imageKey, imagesBetween, type PictureTrack } from "@humming-tide/core/picture";
import type { Quality } from "@humming-tide/core/show";
import type { PlayerImage } from "@humming-tide/core/web-player";
import sharp from "sharp";
import { missingPicture, type PathOfImage } from "../video/picture-cache.ts";

/** Longer sides at most: what a screen shows, less where a player is to be small. */
const LONGEST_SIDE: Readonly<Record<Quality, number>> = { small: 1600, fine: 4800, finest: 4800 };
const JPEG_QUALITY: Readonly<Record<Quality, number>> = { small: 82, fine: 92, finest: 96 };

/**
 * Writes every image that a film is drawn from into a folder, with its look: a page that was opened
 * from a folder may not read pixels, so looks cannot be made there. What needs no change is copied
 * as it is. Graphics keep their alpha. Throws `missing-picture`, and the signal's reason.
 */
export async function writePlayerImages(
  track: PictureTrack & { readonly totalFrames: number },
  { pathOf, quality, folder, signal }: { pathOf: PathOfImage; quality: Quality; folder: string; signal: AbortSignal },
  onDone: (share: number) => void,
): Promise<PlayerImage[]> {
  const names = imagesBetween(track, 0, track.totalFrames);
  const images: PlayerImage[] = [];
  for (const [index, name] of names.entries()) {
    signal.throwIfAborted();
    const stem = `pictures/${String(index + 1).padStart(4, "0")}`;
    const from = pathOf(name.picture, name.of);
    const written = await writeImage(name, from, path.join(folder, stem), quality).catch((cause: unknown) => {
      throw missingPicture(name, cause);
    });
    images.push({ key: imageKey(name), ...written, file: `${stem}${written.ending}` });
    onDone((index + 1) / names.length);
  }
  return images.map(({ key, file, width, height }) => ({ key, file, width, height }));
}

async function writeImage(
  { of, look }: ImageName,
  from: string,
  stem: string,
  quality: Quality,
): Promise<{ readonly ending: string; readonly width: number; readonly height: number }> {
  const { width, height, format } = await sharp(from).metadata();
  if (of === "graphic") {
    await copyFile(from, `${stem}.png`);
    return { ending: ".png", width, height };
  }
  const longest = LONGEST_SIDE[quality];
  // Pictures that were packed well enough already are not packed once more.
  if (!look && format === "jpeg" && quality !== "small" && Math.max(width, height) <= longest) {
    await copyFile(from, `${stem}.jpg`);
    return { ending: ".jpg", width, height };
  }
  const { data, info } = await sharp(from)
    .resize(longest, longest, { fit: "inside", withoutEnlargement: true })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  if (look) applyLook(new Uint8ClampedArray(data.buffer, data.byteOffset, data.length), look);
  await sharp(data, { raw: { width: info.width, height: info.height, channels: 4 } })
    .removeAlpha()
    .jpeg({ quality: JPEG_QUALITY[quality], chromaSubsampling: "4:4:4" })
    .toFile(`${stem}.jpg`);
  return { ending: ".jpg", width: info.width, height: info.height };
}
