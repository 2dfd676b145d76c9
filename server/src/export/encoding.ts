import type { Quality, VideoContainer } from "@humming-tide/core/show";
import type { FrameRate } from "@humming-tide/core/time";

const COLOURS = ["-color_primaries", "bt709", "-color_trc", "bt709", "-colorspace", "bt709", "-color_range", "tv"];

/** Frames as they are drawn, through a pipe or from a file. */
export const rawVideoInput = (plan: { size: { width: number; height: number }; rate: FrameRate }): string[] => [
  ...["-f", "rawvideo", "-pix_fmt", "yuv420p", "-video_size", `${plan.size.width}x${plan.size.height}`],
  ...["-framerate", `${plan.rate.num}/${plan.rate.den}`, ...COLOURS],
];

/** A key frame at least every two seconds, so that a player finds any place at once. */
const keyFrameEvery = (rate: FrameRate): string => String(Math.round((2 * rate.num) / rate.den));

/** How a film is packed. */
export interface FileForm {
  readonly container: VideoContainer;
  readonly quality: Quality;
}

/** Constant rate factors: of two encoders that count differently. "fine" cannot be told from what was drawn (docs/export.md). */
const RATE_FACTORS = {
  mp4: { small: 25, fine: 18, finest: 12 },
  webm: { small: 36, fine: 26, finest: 16 },
} as const satisfies Record<VideoContainer, Record<Quality, number>>;

/** Kilobits a second of stereo sound. */
const SOUND_KILOBITS = {
  mp4: { small: 128, fine: 256, finest: 320 },
  webm: { small: 96, fine: 192, finest: 256 },
} as const satisfies Record<VideoContainer, Record<Quality, number>>;

/** The encoder settings of a film's picture, shared with the benchmark so that both are measured alike. */
export function videoEncoding(rate: FrameRate, { container, quality }: FileForm): string[] {
  const factor = String(RATE_FACTORS[container][quality]);
  const common = ["-pix_fmt", "yuv420p", "-g", keyFrameEvery(rate), ...COLOURS];
  switch (container) {
    case "mp4":
      // Times in a rate's own ticks: every frame of a 1001 rate lies exactly where it belongs.
      return [
        "-c:v",
        "libx264",
        "-preset",
        "veryfast",
        "-crf",
        factor,
        ...common,
        "-video_track_timescale",
        `${rate.num}`,
      ];
    case "webm":
      // Its careful mode takes eight times as long for half a decibel more (measured at 1080p).
      return [
        ...["-c:v", "libvpx-vp9", "-deadline", "realtime", "-cpu-used", "6", "-row-mt", "1", "-tile-columns", "2"],
        ...["-crf", factor, "-b:v", "0", ...common],
      ];
  }
}

export function soundEncoding({ container, quality }: FileForm): string[] {
  const rate = `${SOUND_KILOBITS[container][quality]}k`;
  switch (container) {
    case "mp4":
      return ["-c:a", "aac", "-b:a", rate];
    case "webm":
      return ["-c:a", "libopus", "-b:a", rate];
  }
}

/** What is said to the file's writer at the end. */
export function fileOptions(container: VideoContainer, rate: FrameRate): string[] {
  switch (container) {
    case "mp4":
      return ["-video_track_timescale", String(rate.num), "-movflags", "+faststart", "-f", "mp4"];
    case "webm":
      return ["-f", "webm"];
  }
}
