import { CONTAINER_FACTS, type Quality, type VideoContainer } from "@humming-tide/core/show";
import { av1WebM } from "./av1-webm.ts";
import { h264Mp4 } from "./h264-mp4.ts";
import { vc3Mov } from "./vc3-mov.ts";
import type { VideoFormat } from "./video-format.ts";
import { vp9WebM } from "./vp9-webm.ts";

export { h264Mp4 } from "./h264-mp4.ts";
export { COLOURS, type VideoFormat } from "./video-format.ts";

/** How a film is packed. */
export interface FileForm {
  readonly container: VideoContainer;
  readonly quality: Quality;
}

/** A new kind of video file is one file in this folder, and a line here and in core/show. */
export const VIDEO_FORMATS: Readonly<Record<VideoContainer, VideoFormat>> = {
  mp4: h264Mp4,
  webm: vp9WebM,
  av1: av1WebM,
  mezzanine: vc3Mov,
};

export const extensionOf = (container: VideoContainer): string => CONTAINER_FACTS[container].extension;
