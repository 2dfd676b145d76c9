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

/**
 * A clip that shows patches side by side. Its samples are computed here, by the equations of the
 * standard. Gives back the file's path.
 */
export function patchClip(file: string, clip: PatchClip): string {
  const { patches, matrix, isFullRange = false, bits, chroma = "420", encoding, side = 64 } = clip;
  const [kr, kb] = WEIGHTS[matrix];
  const [width, height] = [patches.length * side, side];
  const scale = 2 ** (bits - 8);
  const top = 2 ** bits - 1;
  const sample = (value: number, isLuma: boolean): number => {
    const code = isFullRange
      ? (isLuma ? value : value + 0.5) * top
      : (isLuma ? 16 + 219 * value : 128 + 224 * value) * scale;
    return Math.max(0, Math.min(top, Math.round(code)));
  };
  const codes = patches.map(([red, green, blue]) => {
    const luma = kr * red + (1 - kr - kb) * green + kb * blue;
    return [
      sample(luma, true),
      sample((blue - luma) / (2 * (1 - kb)), false),
      sample((red - luma) / (2 * (1 - kr)), false),
    ];
  });
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
