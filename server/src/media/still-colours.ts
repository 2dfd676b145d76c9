import type { VideoColours } from "@humming-tide/core/colour";
import sharp, { type Sharp } from "sharp";
import { colourFilters } from "./colour-filters.ts";
import { startFfmpeg } from "./ffmpeg.ts";

const LIMIT_MS = 120_000;
/**
 * Larger pictures are made smaller first: no film shows more, and each pixel takes some twenty
 * bytes on the way.
 */
const LARGEST_SIDE = 8192;

/**
 * A picture with its colours brought to BT.709, by the steps that clips go, at most 8192 pixels
 * wide and high. It has no opacity afterwards: what was clear is black. Throws `ffmpeg-failed`.
 */
export async function stillInBt709(picture: Sharp, colours: VideoColours): Promise<Sharp> {
  // 16 bits: a camera's HDR has 10, and 8 would show as bands in the dark.
  const { data, info } = await picture
    .flatten({ background: "#000000" })
    .resize(LARGEST_SIDE, LARGEST_SIDE, { fit: "inside", withoutEnlargement: true })
    .toColourspace("rgb16")
    .raw({ depth: "ushort" })
    .toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const { folder, filters } = await colourFilters(colours);
  const raw = ["-f", "rawvideo", "-pix_fmt", "rgb48le"];
  const { child, finished } = await startFfmpeg(
    [
      ...[...raw, "-s", `${width}x${height}`, "-i", "pipe:0"],
      ...["-frames:v", "1", "-vf", filters.join(","), "-f", "rawvideo", "-pix_fmt", "rgb24", "pipe:1"],
    ],
    { folder, limitMs: LIMIT_MS },
  );
  try {
    child.stdin.end(data);
    const chunks: Buffer[] = [];
    for await (const chunk of child.stdout) chunks.push(chunk as Buffer);
    await finished;
    return sharp(Buffer.concat(chunks), { raw: { width, height, channels: 3 } });
  } finally {
    child.kill("SIGKILL");
  }
}
