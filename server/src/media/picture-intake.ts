import path from "node:path";
import { HummingTideError } from "@humming-tide/core";
import exifr from "exifr";
import sharp from "sharp";

/** Files made from each picture. Names are part of the data folder's layout. */
export const PICTURE_FILES = { thumbnail: "thumbnail.webp", working: "working.jpg", fill: "fill.jpg" } as const;

const THUMBNAIL_PIXELS = 400;
/** 1.25 times a 1080p film's width: enough to crop a little without softness, small enough to draw fast. */
const WORKING_PIXELS = 2400;
const FILL_WIDTH = 256;
/** Larger declared sizes are refused before anything is decoded: 400 million pixels take 1.6 GB. */
const LARGEST_PIXELS = 400_000_000;

export interface PictureIntake {
  readonly width: number;
  readonly height: number;
  readonly capturedAt: string | null;
}

// One decode at a time uses all cores itself; the cache only costs memory here.
sharp.cache(false);

/**
 * Decodes a picture in full and writes its thumbnail, its working size and the small blurred copy that fills the frame beside it, all turned
 * the right way up. Throws `picture-damaged` for what cannot be decoded to the end, and `picture-too-large`.
 */
export async function takeInPicture(original: string, folder: string): Promise<PictureIntake> {
  try {
    const { width, height } = await sharp(original, { limitInputPixels: LARGEST_PIXELS }).metadata();
    if (width * height > LARGEST_PIXELS) throw new Error("exceeds pixel limit");
    const working = await sharp(original, { limitInputPixels: LARGEST_PIXELS, failOn: "truncated" })
      .autoOrient()
      .flatten({ background: "#000000" })
      .toColourspace("srgb")
      .resize(WORKING_PIXELS, WORKING_PIXELS, { fit: "inside", withoutEnlargement: true })
      .raw()
      .toBuffer({ resolveWithObject: true });
    const raw = { raw: { width: working.info.width, height: working.info.height, channels: working.info.channels } };
    await Promise.all([
      sharp(working.data, raw)
        .jpeg({ quality: 92, chromaSubsampling: "4:4:4" })
        .toFile(path.join(folder, PICTURE_FILES.working)),
      sharp(working.data, raw)
        .resize(THUMBNAIL_PIXELS, THUMBNAIL_PIXELS, { fit: "inside", withoutEnlargement: true })
        .webp({ quality: 80 })
        .toFile(path.join(folder, PICTURE_FILES.thumbnail)),
      sharp(working.data, raw)
        .resize(FILL_WIDTH, null, { fit: "inside" })
        .blur(9)
        .modulate({ brightness: 0.55, saturation: 0.8 })
        .jpeg({ quality: 95, chromaSubsampling: "4:4:4" })
        .toFile(path.join(folder, PICTURE_FILES.fill)),
    ]);
    return { ...(await orientedSize(original)), capturedAt: await captureTime(original) };
  } catch (cause) {
    if (cause instanceof HummingTideError) throw cause;
    const text = (cause as Error).message;
    if (/pixel limit/i.test(text)) {
      throw new HummingTideError(
        "picture-too-large",
        "The picture has more than 400 million pixels. Make it smaller and bring it in again.",
        { cause },
      );
    }
    if ((cause as { code?: string }).code === "ENOSPC" || /no space|write error|unable to write/i.test(text)) {
      throw Object.assign(new Error(text, { cause }), { code: "ENOSPC" });
    }
    throw new HummingTideError(
      "picture-damaged",
      `The picture cannot be decoded to its end: it is damaged or cut short (${text.split("\n")[0]}).`,
      { cause },
    );
  }
}

async function orientedSize(original: string): Promise<{ width: number; height: number }> {
  const { autoOrient } = await sharp(original).metadata();
  return { width: autoOrient.width, height: autoOrient.height };
}

/** Metadata is a stranger's text: whatever is wrong with it, the picture itself is welcome. */
async function captureTime(original: string): Promise<string | null> {
  try {
    const tags = (await exifr.parse(original, { pick: ["DateTimeOriginal"], reviveValues: false })) as
      | { DateTimeOriginal?: unknown }
      | undefined;
    const match = /^(\d{4}):(\d{2}):(\d{2}) (\d{2}:\d{2}:\d{2})/.exec(
      typeof tags?.DateTimeOriginal === "string" ? tags.DateTimeOriginal : "",
    );
    return match ? `${match[1]}-${match[2]}-${match[3]}T${match[4]}` : null;
  } catch {
    return null;
  }
}
