import { open } from "node:fs/promises";
import { setImmediate } from "node:timers/promises";
import { itemAt } from "@humming-tide/core/presence";
import { mediaError } from "./media-errors.ts";

/** Types of files as the sensor saw them end with the usual ending of their names. */
const RAW_TYPE = /^image\/x-.*-(arw|cr2|cr3|dng|nef|orf|raf|rw2)$/;

export const isRaw = (mime: string): boolean => RAW_TYPE.test(mime);

/** A film needs so many pixels along the longer side. */
const LEAST_PIXELS = 1600;
/** Twice what the largest cameras write. */
const MOST_BYTES = 512 * 2 ** 20;
/** Cameras write three or four; a file that pretends more is no camera's. */
const MOST_PICTURES = 40;
const STEP_BYTES = 4 * 2 ** 20;

/** A JPEG inside of a file. */
interface Embedded {
  readonly start: number;
  readonly width: number;
  readonly height: number;
}

/**
 * The largest JPEG that a camera put into its RAW file, as it lies there. The sensor's own values
 * are not developed. Throws `raw-preview-small` where none has `LEAST_PIXELS` along its longer
 * side. O(bytes), a few megabytes at a time.
 */
export async function rawPreview(original: string): Promise<Buffer> {
  const bytes = await readWhole(original);
  let largest: Embedded | null = null;
  let found = 0;
  for (let from = 0; from < bytes.length && found < MOST_PICTURES; from += STEP_BYTES) {
    // Three bytes may lie across the border of two steps.
    const part = bytes.subarray(from, from + STEP_BYTES + 2);
    for (let at = part.indexOf(START); at >= 0 && found < MOST_PICTURES; at = part.indexOf(START, at + 1)) {
      const picture = jpegAt(bytes, from + at);
      if (!picture) continue;
      found++;
      if (!largest || picture.width * picture.height > largest.width * largest.height) largest = picture;
    }
    // The server goes on answering.
    await setImmediate();
  }
  const longest = largest ? Math.max(largest.width, largest.height) : 0;
  if (!largest || longest < LEAST_PIXELS) {
    throw mediaError("raw-preview-small", { pixels: longest, leastPixels: LEAST_PIXELS });
  }
  // What lies behind its end is passed over by every decoder.
  return bytes.subarray(largest.start);
}

async function readWhole(original: string): Promise<Buffer> {
  const file = await open(original);
  try {
    const { size } = await file.stat();
    if (size > MOST_BYTES) throw mediaError("file-too-large", { mostGigabytes: MOST_BYTES / 2 ** 30 });
    return await file.readFile();
  } finally {
    await file.close();
  }
}

/** Start of image, and the first byte of the next marker (ITU-T T.81, annex B). */
const START = Buffer.from([0xff, 0xd8, 0xff]);
/** Frames of baseline, extended and progressive DCT. Lossless ones are the sensor's own values. */
const FRAMES: ReadonlySet<number> = new Set([0xc0, 0xc1, 0xc2]);
const SCAN = 0xda;
const MOST_SEGMENTS = 200;

/** Reads the headers of a JPEG; null where there is none that a screen could show. */
function jpegAt(bytes: Buffer, start: number): Embedded | null {
  let at = start + 2;
  for (let segment = 0; segment < MOST_SEGMENTS && at + 9 < bytes.length; segment++) {
    if (bytes[at] !== 0xff) return null;
    const marker = itemAt(bytes, at + 1);
    if (FRAMES.has(marker)) {
      const [bits, height, width] = [bytes[at + 4], bytes.readUInt16BE(at + 5), bytes.readUInt16BE(at + 7)];
      return bits === 8 && width > 0 && height > 0 ? { start, width, height } : null;
    }
    const isFrame = marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc;
    if (isFrame || marker === SCAN) return null;
    at += 2 + bytes.readUInt16BE(at + 2);
  }
  return null;
}
