import { ffmpeg } from "./run-ffmpeg.ts";

/** Red, green and blue as code values, 0 to 1. */
export type Patch = readonly [red: number, green: number, blue: number];

/** How a clip of patches is written. */
export interface PatchClip {
  readonly patches: readonly Patch[];
  /** Kr and Kb of the matrix: ITU-R BT.601, BT.709 or BT.2020. */
  readonly matrix: "bt601" | "bt709" | "bt2020";
  readonly isFullRange?: boolean;
  readonly bits: 8 | 10;
  /** One sample of colour for each pixel across and down, or for every other one across. */
  readonly chroma?: "420" | "422";
  /** Arguments that encode and tag it. */
  readonly encoding: readonly string[];
  readonly side?: number;
}

const WEIGHTS = { bt601: [0.299, 0.114], bt709: [0.2126, 0.0722], bt2020: [0.2627, 0.0593] } as const;
const FRAMES = 8;

type Coding = Pick<PatchClip, "matrix" | "isFullRange" | "bits">;

/** What luma and chroma take of the codes, and where they begin. */
function ranges({ isFullRange = false, bits }: Coding): { luma: [number, number]; chroma: [number, number] } {
  const top = 2 ** bits - 1;
  const scale = 2 ** (bits - 8);
  return isFullRange
    ? { luma: [0, top], chroma: [top / 2, top] }
    : { luma: [16 * scale, 219 * scale], chroma: [128 * scale, 224 * scale] };
}

function samplesOf([red, green, blue]: Patch, coding: Coding): [luma: number, cb: number, cr: number] {
  const [kr, kb] = WEIGHTS[coding.matrix];
  const luma = kr * red + (1 - kr - kb) * green + kb * blue;
  const sample = (value: number, [from, size]: [number, number]): number =>
    Math.max(0, Math.min(2 ** coding.bits - 1, Math.round(from + size * value)));
  const all = ranges(coding);
  return [
    sample(luma, all.luma),
    sample((blue - luma) / (2 * (1 - kb)), all.chroma),
    sample((red - luma) / (2 * (1 - kr)), all.chroma),
  ];
}

/** The colour that a patch's samples mean, which are whole numbers. */
export function writtenPatch(patch: Patch, coding: Coding): Patch {
  const [kr, kb] = WEIGHTS[coding.matrix];
  const all = ranges(coding);
  const [luma, cb, cr] = samplesOf(patch, coding);
  const y = (luma - all.luma[0]) / all.luma[1];
  const red = y + 2 * (1 - kr) * ((cr - all.chroma[0]) / all.chroma[1]);
  const blue = y + 2 * (1 - kb) * ((cb - all.chroma[0]) / all.chroma[1]);
  return [red, (y - kr * red - kb * blue) / (1 - kr - kb), blue];
}

/**
 * A clip that shows patches side by side. Its samples are computed here, by the equations of the
 * standard. Gives back the file's path.
 */
export function patchClip(file: string, clip: PatchClip): string {
  const { patches, isFullRange = false, bits, chroma = "420", encoding, side = 64 } = clip;
  const [width, height] = [patches.length * side, side];
  const codes = patches.map((patch) => samplesOf(patch, clip));
  const bytes = bits === 8 ? 1 : 2;
  const plane = (index: number, across: number, down: number): Buffer => {
    const samples = Buffer.alloc(across * down * bytes);
    for (let i = 0; i < across * down; i++) {
      const code = codes[Math.floor(((i % across) * patches.length) / across)]?.[index] ?? 0;
      if (bytes === 1) samples[i] = code;
      else samples.writeUInt16LE(code, 2 * i);
    }
    return samples;
  };
  const down = chroma === "420" ? height / 2 : height;
  const frame = Buffer.concat([plane(0, width, height), plane(1, width / 2, down), plane(2, width / 2, down)]);
  const format = `yuv${chroma}p${bits === 8 ? "" : "10le"}`;
  const raw = ["-f", "rawvideo", "-pix_fmt", format, "-s", `${width}x${height}`, "-r", "25", "-i", "pipe:0"];
  ffmpeg(
    [...raw, ...["-color_range", isFullRange ? "pc" : "tv"], ...encoding, "-pix_fmt", format, file],
    Buffer.concat(Array.from({ length: FRAMES }, () => frame)),
  );
  return file;
}
