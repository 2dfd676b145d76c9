import { SMALL_FRAME } from "@humming-tide/core/measure";
import { lastOf } from "@humming-tide/core/presence";
import { inputFile, probe, startFfmpeg } from "../../media/ffmpeg.ts";
import { outputError } from "../output-errors.ts";

export interface FilmFileFacts {
  readonly width: number;
  readonly height: number;
  /** When each frame is shown, in order, as a player shows it (edit lists honoured). */
  readonly frameSeconds: readonly number[];
}

/** Reads what a film file holds. Throws `film-unreadable`. */
export async function readFilmFacts(path: string): Promise<FilmFileFacts> {
  const facts = await probe(path, [
    "-select_streams",
    "v:0",
    "-show_entries",
    "stream=width,height:packet=pts_time,flags",
  ]).catch((cause: unknown) => {
    throw outputError("film-unreadable", { path, why: lastOf((cause as Error).message.split("\n")) }, { cause });
  });
  const stream = (facts["streams"] as { width: number; height: number }[] | undefined)?.[0];
  if (!stream) throw outputError("film-unreadable", { path, why: "it has no picture." });
  const packets = (facts["packets"] ?? []) as { pts_time?: string; flags?: string }[];
  const frameSeconds = packets
    .filter((packet) => !packet.flags?.includes("D"))
    .map((packet) => Number(packet.pts_time))
    .sort((a, b) => a - b);
  return { width: stream.width, height: stream.height, frameSeconds };
}

/**
 * All frames of a film in order, decoded as small as they are looked at (core/measure); none
 * repeated or dropped to keep a rate.
 */
export async function* readSmallFrames(path: string): AsyncGenerator<Uint8Array> {
  const { child, finished } = await startFfmpeg([
    ...inputFile(path),
    ...["-map", "0:v:0", "-an", "-vsync", "0", "-vf", `scale=${SMALL_FRAME.width}:${SMALL_FRAME.height}:flags=area`],
    ...["-f", "rawvideo", "-pix_fmt", "yuv444p", "pipe:1"],
  ]);
  try {
    let rest: Buffer = Buffer.alloc(0);
    for await (const chunk of child.stdout as AsyncIterable<Buffer>) {
      rest = rest.length ? Buffer.concat([rest, chunk]) : chunk;
      let from = 0;
      for (; rest.length - from >= SMALL_FRAME.bytes; from += SMALL_FRAME.bytes)
        yield Uint8Array.prototype.slice.call(rest, from, from + SMALL_FRAME.bytes);
      rest = rest.subarray(from);
    }
    await finished;
  } finally {
    child.kill("SIGKILL");
  }
}
