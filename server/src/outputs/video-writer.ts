import { chaptersOf, type FilmPlan } from "@humming-tide/core/film";
import { drawnPicture } from "@humming-tide/core/picture";
import {
  CONTAINER_FACTS,
  type FilmOutput,
  posterSlide,
  type Quality,
  type VideoContainer,
} from "@humming-tide/core/show";
import { framesPerSecond } from "@humming-tide/core/time";
import { findFfmpeg } from "../media/ffmpeg.ts";
import { outputError } from "./output-errors.ts";
import {
  type OutputWriter,
  SOUND_BYTES_PER_SECOND,
  TIMES_ON_DISK,
  type WriteRequest,
  type WrittenOutput,
} from "./output-writer.ts";
import { VIDEO_FORMATS } from "./video/formats/index.ts";
import { makeFilm, measureFilm } from "./video/make-film.ts";

function checkSize({ width, height }: FilmOutput["size"], smallest: FilmOutput["size"]): void {
  if (width % 2 !== 0 || height % 2 !== 0) throw outputError("size-odd", { width, height });
  if (width < smallest.width || height < smallest.height)
    throw outputError("size-too-small", {
      width,
      height,
      leastWidth: smallest.width,
      leastHeight: smallest.height,
    });
}

/** Writes a film as one file of video, and measures it. */
export const videoWriter = (container: VideoContainer): OutputWriter => ({
  extension: CONTAINER_FACTS[container].extension,
  mime: CONTAINER_FACTS[container].mime,

  async check({ size }: Pick<FilmOutput, "size">): Promise<void> {
    const { encoders } = await findFfmpeg();
    const { neededEncoder, smallestSize } = VIDEO_FORMATS[container];
    checkSize(size, smallestSize);
    if (neededEncoder === null || encoders.has(neededEncoder)) return;
    throw outputError("encoder-missing", { encoder: neededEncoder });
  },

  estimate({ size: { width, height }, totalFrames, rate }: FilmPlan, quality: Quality): number {
    const picture = (totalFrames * width * height * VIDEO_FORMATS[container].bitsPerPixel[quality]) / 8;
    return TIMES_ON_DISK * picture + (totalFrames / framesPerSecond(rate)) * SOUND_BYTES_PER_SECOND;
  },

  async write({ document, output, plan, place, ...common }: WriteRequest): Promise<WrittenOutput> {
    const poster = posterSlide(document);
    const request = {
      ...common,
      plan,
      title: document.title,
      form: { container, quality: output.quality },
      chapters: chaptersOf(document, plan),
      poster: poster ? drawnPicture(poster.sha256, poster.turn) : null,
      filmPath: place,
      songPathOf: (sha256: string) => document.songs.find((song) => song.sha256 === sha256)?.fileName ?? sha256,
    };
    const made = await makeFilm(request);
    const measurement = await measureFilm(request, made);
    return { bytes: made.bytes, film: { report: JSON.stringify(made.report, null, 1), measurement } };
  },
});
