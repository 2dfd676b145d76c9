import { chaptersOf, type FilmPlan } from "@humming-tide/core/film";
import { CONTAINER_FACTS, type Quality } from "@humming-tide/core/show";
import { framesPerSecond } from "@humming-tide/core/time";
import { findFfmpeg } from "../media/ffmpeg.ts";
import {
  type OutputWriter,
  SOUND_BYTES_PER_SECOND,
  TIMES_ON_DISK,
  type WriteRequest,
  type WrittenOutput,
} from "./output-writer.ts";
import { h264Mp4 } from "./video/formats/index.ts";
import { writePlayer } from "./web-player/write-player.ts";

/** A picture of a player, about, with its words. */
const PICTURE_BYTES = 4_000_000;

/** Writes a film as a zip whose page plays it. */
export const playerWriter: OutputWriter = {
  extension: CONTAINER_FACTS.player.extension,
  mime: CONTAINER_FACTS.player.mime,

  async check(): Promise<void> {
    await findFfmpeg();
  },

  estimate({ size: { width, height }, slots, totalFrames, rate }: FilmPlan, quality: Quality): number {
    const video = (totalFrames * width * height * h264Mp4.bitsPerPixel[quality]) / 8;
    const clips = (video * slots.filter(({ clip }) => clip !== null).length) / slots.length;
    const pictures = slots.length * PICTURE_BYTES;
    return TIMES_ON_DISK * (pictures + clips) + (totalFrames / framesPerSecond(rate)) * SOUND_BYTES_PER_SECOND;
  },

  async write({ document, partsFolder: _, ...request }: WriteRequest): Promise<WrittenOutput> {
    const chapters = chaptersOf(document, request.plan);
    return { bytes: await writePlayer({ ...request, title: document.title, chapters }), film: null };
  },
};
