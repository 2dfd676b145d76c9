import sharp from "sharp";

/**
 * Detail everywhere, as in a photograph: slow to decode, and large; less of it with a smaller
 * `sigma`.
 */
export async function noisyJpeg(
  { width, height }: { width: number; height: number },
  seed: number,
  sigma = 45,
): Promise<Buffer> {
  const coarse = { width: Math.round(width / 4), height: Math.round(height / 4), channels: 3 } as const;
  const noise = await sharp({
    create: { ...coarse, background: "#000", noise: { type: "gaussian", mean: 90 + seed * 8, sigma } },
  })
    .raw()
    .toBuffer();
  return sharp(noise, { raw: coarse }).resize(width, height).jpeg({ quality: 88 }).toBuffer();
}

/** The same picture with other content: a number behind its end, where decoders do not look. */
export const different = (base: Buffer, index: number): Buffer => Buffer.concat([base, Buffer.from(`${index}`)]);
