import { unzlibSync } from "fflate";
import { fontError } from "./font-errors.ts";

const HEADER_BYTES = 44;
const ENTRY_BYTES = 20;
/** A font that says it is larger is none of ours. */
const LARGEST_BYTES = 64 * 2 ** 20;

/**
 * The font inside a WOFF 1.0 file (W3C Recommendation of 2012), as OpenType. Throws `font-damaged`.
 */
export function openTypeOf(woff: Uint8Array): Uint8Array {
  const view = new DataView(woff.buffer, woff.byteOffset, woff.byteLength);
  if (woff.length < HEADER_BYTES || view.getUint32(0) !== 0x774f4646)
    throw fontError("font-damaged", { why: "it does not begin as WOFF does" });
  const count = view.getUint16(12);
  const size = view.getUint32(16);
  if (size > LARGEST_BYTES || HEADER_BYTES + count * ENTRY_BYTES > woff.length)
    throw fontError("font-damaged", { why: `it says that it holds ${size} bytes` });
  const font = new Uint8Array(size);
  const out = new DataView(font.buffer);
  out.setUint32(0, view.getUint32(4));
  out.setUint16(4, count);
  const powers = Math.floor(Math.log2(count));
  out.setUint16(6, 16 * 2 ** powers);
  out.setUint16(8, powers);
  out.setUint16(10, 16 * count - 16 * 2 ** powers);
  let at = 12 + 16 * count;
  for (let table = 0; table < count; table++) {
    const entry = HEADER_BYTES + table * ENTRY_BYTES;
    const [offset, packedLength, length] = [4, 8, 12].map((field) => view.getUint32(entry + field)) as [
      number,
      number,
      number,
    ];
    const packed = woff.subarray(offset, offset + packedLength);
    const bytes = packedLength < length ? unzlibSync(packed) : packed;
    if (bytes.length !== length || at + length > size)
      throw fontError("font-damaged", { why: `its table ${table + 1} is not as long as it says` });
    font.set(bytes, at);
    const record = 12 + 16 * table;
    out.setUint32(record, view.getUint32(entry));
    out.setUint32(record + 4, view.getUint32(entry + 16));
    out.setUint32(record + 8, at);
    out.setUint32(record + 12, length);
    at += (length + 3) & ~3;
  }
  return font;
}
