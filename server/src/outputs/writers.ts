import type { Container } from "@humming-tide/core/show";
import type { OutputWriter } from "./output-writer.ts";
import { playerWriter } from "./player-writer.ts";
import { videoWriter } from "./video-writer.ts";

const WRITERS: Readonly<Record<Container, OutputWriter>> = {
  mp4: videoWriter("mp4"),
  webm: videoWriter("webm"),
  av1: videoWriter("av1"),
  mezzanine: videoWriter("mezzanine"),
  player: playerWriter,
};

/** Whoever writes a kind of file. */
export const writerOf = (container: Container): OutputWriter => WRITERS[container];
