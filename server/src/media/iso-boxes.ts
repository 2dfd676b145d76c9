/** A part of a file in the form of ISO/IEC 14496-12: length, type, and what it holds. */
export interface FileBox {
  readonly type: string;
  readonly start: number;
  /** Exclusive. */
  readonly end: number;
}

/** Bytes of length and type. */
export const HEADER_BYTES = 8;
/** A hostile file may have any number. */
const MOST_BOXES = 200;

/** Boxes one behind the other, until there is none any more. */
export function boxesFrom(bytes: Buffer, from: number): FileBox[] {
  const boxes: FileBox[] = [];
  let start = from;
  while (boxes.length < MOST_BOXES && start + HEADER_BYTES <= bytes.length) {
    const type = bytes.toString("latin1", start + 4, start + 8);
    const length = lengthOf(bytes, start);
    if (!/^[a-z0-9 ]{4}$/i.test(type) || length < HEADER_BYTES || start + length > bytes.length) break;
    boxes.push({ type, start, end: start + length });
    start += length;
  }
  return boxes;
}

/** 0 means to the end of the file, 1 that the length is written in 64 bits behind the type. */
function lengthOf(bytes: Buffer, start: number): number {
  const length = bytes.readUInt32BE(start);
  if (length === 0) return bytes.length - start;
  if (length !== 1) return length;
  return start + 16 <= bytes.length ? Number(bytes.readBigUInt64BE(start + 8)) : 0;
}
