import type { Chapter } from "@humming-tide/core/film";
import type { FrameRate } from "@humming-tide/core/time";

/**
 * Chapters as ffmpeg reads them (its metadata format, version 1): times in frames, so that each
 * begins on its own.
 */
export function chapterList(chapters: readonly Chapter[], rate: FrameRate): string {
  const entries = chapters.map(({ title, startFrame, endFrame }) =>
    [
      "[CHAPTER]",
      `TIMEBASE=${rate.den}/${rate.num}`,
      `START=${startFrame}`,
      `END=${endFrame}`,
      `title=${escaped(title)}`,
      "",
    ].join("\n"),
  );
  return [";FFMETADATA1", ...entries, ""].join("\n");
}

/** A line break in a title would begin another entry. */
const escaped = (text: string): string => text.replace(/[\r\n]+/g, " ").replace(/[=;#\\]/g, "\\$&");
