import { z } from "zod";

/**
 * The kinds of files that a show is handed over as: MP4 with H.264 and AAC; WebM with VP9 and Opus;
 * WebM with AV1 and Opus; a mezzanine for further editing, MOV with VC-3 and PCM; and a player, a
 * zip whose page plays pictures and sound in a browser.
 */
export const containerSchema = z.enum(["mp4", "webm", "av1", "mezzanine", "player"]);
export type Container = z.infer<typeof containerSchema>;
/** Those that hold a film as one file of video. */
export type VideoContainer = Exclude<Container, "player">;

/** What everybody has to know of a kind of file. */
export interface ContainerFacts {
  /** Of the file's name, without the dot. */
  readonly extension: string;
  readonly mime: string;
  /** Whether it is one file of video. */
  readonly isVideo: boolean;
  /** Whether any browser of today plays it. */
  readonly playsInBrowsers: boolean;
  /** Whether the quality can be chosen. */
  readonly hasQuality: boolean;
}

export const CONTAINER_FACTS: Readonly<Record<Container, ContainerFacts>> = {
  mp4: { extension: "mp4", mime: "video/mp4", isVideo: true, playsInBrowsers: true, hasQuality: true },
  webm: { extension: "webm", mime: "video/webm", isVideo: true, playsInBrowsers: true, hasQuality: true },
  // Not in every browser that is in use.
  av1: { extension: "webm", mime: "video/webm", isVideo: true, playsInBrowsers: false, hasQuality: true },
  // A file to save: no browser is expected to play it.
  mezzanine: {
    extension: "mov",
    mime: "application/octet-stream",
    isVideo: true,
    playsInBrowsers: false,
    hasQuality: false,
  },
  player: { extension: "zip", mime: "application/zip", isVideo: false, playsInBrowsers: false, hasQuality: true },
};

/** Whether a kind of file is one file of video. */
export const isVideo = (container: Container): container is VideoContainer => CONTAINER_FACTS[container].isVideo;
