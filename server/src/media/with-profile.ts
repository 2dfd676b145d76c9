import { crc32, deflateSync } from "node:zlib";
import sharp, { type Sharp } from "sharp";

/** A PNG begins with eight bytes of its own and the chunk IHDR of 25. */
const HEADER_BYTES = 33;

/**
 * Decoded pixels (RGBA) together with the colour profile that their file had: phones write Display
 * P3. The image library takes a profile only from a file, so they are wrapped in a PNG that is not
 * compressed. It then converts them as it converts any other file.
 */
export async function withProfile(
  pixels: Uint8Array,
  { width, height }: { readonly width: number; readonly height: number },
  profile: Uint8Array | undefined,
): Promise<Sharp> {
  const plain = sharp(pixels, { raw: { width, height, channels: 4 } });
  if (!profile) return plain;
  const png = await plain.png({ compressionLevel: 0 }).toBuffer();
  const chunk = pngChunk("iCCP", Buffer.concat([Buffer.from("profile\0\0", "latin1"), deflateSync(profile)]));
  return sharp(Buffer.concat([png.subarray(0, HEADER_BYTES), chunk, png.subarray(HEADER_BYTES)]), {
    limitInputPixels: false,
  });
}

/** A chunk of a PNG (ISO/IEC 15948): length, type, data, and the checksum of the last two. */
function pngChunk(type: string, data: Buffer): Buffer {
  const checked = Buffer.concat([Buffer.from(type, "latin1"), data]);
  const chunk = Buffer.alloc(checked.length + 8);
  chunk.writeUInt32BE(data.length, 0);
  checked.copy(chunk, 4);
  chunk.writeUInt32BE(crc32(checked), checked.length + 4);
  return chunk;
}
