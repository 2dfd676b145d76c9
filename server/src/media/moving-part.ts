import { open } from "node:fs/promises";
import { boxesFrom, HEADER_BYTES } from "./iso-boxes.ts";

/** A clip inside of a picture's file: phones film a moment around a picture. */
export interface MovingPart {
  readonly startByte: number;
  readonly bytes: number;
}

/** A phone's picture is smaller, and the clip in it a few seconds long. */
const MOST_BYTES = 96 * 2 ** 20;
/** A hostile file may look like the start of many clips. */
const MOST_TRIES = 50;
const FILE_TYPE = Buffer.from("ftyp");

/**
 * The clip in a picture's file, found by its structure alone: in a JPEG an MP4 file lies behind the
 * picture, in a HEIC file it is a box of its own ("mpvd"). Boxes as in ISO/IEC 14496-12. Null where
 * there is none. O(bytes).
 */
export async function movingPart(original: string, mime: string): Promise<MovingPart | null> {
  const isJpeg = mime === "image/jpeg";
  if (!isJpeg && !/^image\/hei[cf]$/.test(mime)) return null;
  const bytes = await readSmall(original);
  if (!bytes) return null;
  if (isJpeg) return clipBehind(bytes, 0);
  const box = boxesFrom(bytes, 0).find(({ type }) => type === "mpvd");
  return box ? clipBehind(bytes.subarray(0, box.end), box.start + HEADER_BYTES) : null;
}

async function readSmall(original: string): Promise<Buffer | null> {
  const file = await open(original);
  try {
    return (await file.stat()).size > MOST_BYTES ? null : await file.readFile();
  } finally {
    await file.close();
  }
}

/** The first place from which on boxes make up a clip: a head, its index and its pictures. */
function clipBehind(bytes: Buffer, from: number): MovingPart | null {
  let at = bytes.indexOf(FILE_TYPE, from + 4);
  for (let tries = 0; tries < MOST_TRIES && at >= 0; tries++, at = bytes.indexOf(FILE_TYPE, at + 1)) {
    const startByte = at - 4;
    const boxes = boxesFrom(bytes, startByte);
    const types = new Set(boxes.map(({ type }) => type));
    const end = boxes.at(-1)?.end ?? startByte;
    if (types.has("moov") && types.has("mdat")) return { startByte, bytes: end - startByte };
  }
  return null;
}
