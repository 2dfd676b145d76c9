import { probe } from "./ffmpeg.ts";

/** When a clip's frames begin, as its container says. */
export interface ClipTimes {
  /** In seconds of the clip's own time, ascending; the first is 0. */
  readonly starts: readonly number[];
  /**
   * Where the first frame lies in seconds of the file, from where the file begins: what a seek
   * counts from.
   */
  readonly firstSeconds: number;
  /** As the stream is tagged; null where it is not. */
  readonly colourSpace: string | null;
}

/**
 * Presentation times of all frames, in seconds of the file, ascending; read without decoding. Empty
 * where nothing can be read.
 */
export async function frameTimes(original: string): Promise<number[]> {
  return (await readTimes(original).catch(() => NOTHING)).times;
}

const NOTHING: { times: number[]; startSeconds: number; colourSpace: string | null } = {
  times: [],
  startSeconds: 0,
  colourSpace: null,
};

/** What reading single frames needs. O(frames) once. */
export async function clipTimes(original: string): Promise<ClipTimes> {
  const { times, startSeconds, colourSpace } = await readTimes(original);
  const first = times[0] ?? 0;
  return { starts: times.map((time) => time - first), firstSeconds: first - startSeconds, colourSpace };
}

async function readTimes(original: string): Promise<typeof NOTHING> {
  const answer = await probe(original, [
    "-select_streams",
    "V:0",
    "-show_entries",
    "packet=pts_time,flags:format=start_time:stream=color_space",
  ]);
  const packets = (answer["packets"] ?? []) as { pts_time?: string; flags?: string }[];
  const times = packets
    .filter(({ flags }) => !flags?.includes("D"))
    .map(({ pts_time }) => Number(pts_time))
    .filter((time) => Number.isFinite(time))
    .sort((a, b) => a - b);
  const start = Number((answer["format"] as { start_time?: string } | undefined)?.start_time);
  const space = (answer["streams"] as { color_space?: string }[] | undefined)?.[0]?.color_space;
  return {
    times,
    startSeconds: Number.isFinite(start) ? start : 0,
    colourSpace: space && space !== "unknown" ? space : null,
  };
}
