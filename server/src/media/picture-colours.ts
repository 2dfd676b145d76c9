import { open } from "node:fs/promises";
import type { VideoColours } from "@humming-tide/core/colour";
import { boxesFrom, type FileBox, HEADER_BYTES } from "./iso-boxes.ts";

/** A file's index lies at its beginning, and is small. */
const MOST_BYTES = 1 << 20;
/** A full box begins with its version and flags. */
const FULL_BYTES = HEADER_BYTES + 4;

/** The numbers of ITU-T H.273 by the names that ffmpeg gives them. */
const PRIMARIES: Readonly<Record<number, string>> = { 1: "bt709", 9: "bt2020", 12: "smpte432" };
const TRANSFERS: Readonly<Record<number, string>> = { 16: "smpte2084", 18: "arib-std-b67" };

/**
 * What a HEIC or AVIF file says of its main picture's colours by number ("nclx", ISO/IEC 14496-12).
 * Null where it says nothing, or nothing that is known here. A profile is not looked for.
 */
export async function pictureColours(original: string): Promise<VideoColours | null> {
  const bytes = await readStart(original);
  try {
    return coloursIn(bytes);
  } catch (error) {
    // Numbers that point out of the index: what else is in the file may still be a picture.
    if (error instanceof RangeError) return null;
    throw error;
  }
}

async function readStart(original: string): Promise<Buffer> {
  const file = await open(original);
  try {
    const { bytesRead, buffer } = await file.read(Buffer.alloc(MOST_BYTES), 0, MOST_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

function coloursIn(bytes: Buffer): VideoColours | null {
  const meta = boxesFrom(bytes, 0).find(({ type }) => type === "meta");
  if (!meta) return null;
  const inMeta = inside(bytes, meta, FULL_BYTES);
  const main = inMeta.find(({ type }) => type === "pitm");
  const properties = inMeta.find(({ type }) => type === "iprp");
  if (!main || !properties) return null;
  const inProperties = inside(bytes, properties, HEADER_BYTES);
  const list = inProperties.find(({ type }) => type === "ipco");
  const links = inProperties.find(({ type }) => type === "ipma");
  if (!list || !links) return null;
  const all = inside(bytes, list, HEADER_BYTES);
  for (const number of propertiesOf(bytes, links, idAt(bytes, main.start + FULL_BYTES, bytes[main.start + 8] !== 0))) {
    const property = all[number - 1];
    if (property?.type !== "colr") continue;
    const at = property.start + HEADER_BYTES;
    if (bytes.toString("latin1", at, at + 4) !== "nclx") continue;
    const primaries = PRIMARIES[bytes.readUInt16BE(at + 4)] ?? null;
    return { primaries, transfer: TRANSFERS[bytes.readUInt16BE(at + 6)] ?? null, peakNits: null };
  }
  return null;
}

/** The boxes in a box, places as in the file. */
const inside = (bytes: Buffer, { start, end }: FileBox, header: number): FileBox[] =>
  boxesFrom(bytes.subarray(0, end), start + header);

const idAt = (bytes: Buffer, at: number, isLong: boolean): number =>
  isLong ? bytes.readUInt32BE(at) : bytes.readUInt16BE(at);

/** The numbers of an item's properties, counted from 1 (ISO/IEC 23008-12, "ipma"). */
function propertiesOf(bytes: Buffer, { start, end }: FileBox, id: number): number[] {
  const isLongId = bytes[start + 8] !== 0;
  const isLongNumber = ((bytes[start + 11] ?? 0) & 1) === 1;
  let at = start + FULL_BYTES + 4;
  for (let items = bytes.readUInt32BE(start + FULL_BYTES); items > 0 && at < end; items--) {
    const item = idAt(bytes, at, isLongId);
    at += isLongId ? 4 : 2;
    const count = bytes[at++] ?? 0;
    // The first bit says only whether the property must be understood.
    const numbers = Array.from({ length: count }, (_, i) =>
      isLongNumber ? bytes.readUInt16BE(at + 2 * i) & 0x7fff : bytes.readUInt8(at + i) & 0x7f,
    );
    if (item === id) return numbers;
    at += count * (isLongNumber ? 2 : 1);
  }
  return [];
}
