import type { FrameRate } from "@humming-tide/core/time";
import { COLOURS } from "./formats/index.ts";

/** Frames as they are drawn, through a pipe or from a file. */
export const rawVideoInput = (plan: { size: { width: number; height: number }; rate: FrameRate }): string[] => [
  ...["-f", "rawvideo", "-pix_fmt", "yuv420p", "-video_size", `${plan.size.width}x${plan.size.height}`],
  ...["-framerate", `${plan.rate.num}/${plan.rate.den}`, ...COLOURS],
];
