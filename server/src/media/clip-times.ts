import { type ClipPicture, clipPicture, PICTURE_ENTRIES, type PictureStream } from "./clip-picture.ts";
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
  readonly picture: ClipPicture;
}

/**
 * Presentation times of all frames, in seconds of the file, ascending; read without decoding. Empty
 * where nothing can be read.
 */
export async function frameTimes(original: string): Promise<number[]> {
  return (await readTimes(original).catch(() => NOTHING)).times;
}

const NOTHING: { times: number[]; startSeconds: number; picture: ClipPicture } = {
  times: [],
  startSeconds: 0,
  picture: clipPicture({}),
};

/** What reading single frames needs. O(frames) once. */
export async function clipTimes(original: string): Promise<ClipTimes> {
  const { times, startSeconds, picture } = await readTimes(original);
  const first = times[0] ?? 0;
  return { starts: times.map((time) => time - first), firstSeconds: first - startSeconds, picture };
}

async function readTimes(original: string): Promise<typeof NOTHING> {
  const answer = await probe(original, [
    "-select_streams",
    "V:0",
    "-show_entries",
    `packet=pts_time,flags:format=start_time:${PICTURE_ENTRIES}`,
  ]);
  const packets = (answer["packets"] ?? []) as { pts_time?: string; flags?: string }[];
  const times = packets
    .filter(({ flags }) => !flags?.includes("D"))
    .map(({ pts_time }) => Number(pts_time))
    .filter((time) => Number.isFinite(time))
    .sort((a, b) => a - b);
  const start = Number((answer["format"] as { start_time?: string } | undefined)?.start_time);
  return {
    times,
    startSeconds: Number.isFinite(start) ? start : 0,
    picture: clipPicture((answer["streams"] as PictureStream[] | undefined)?.[0] ?? {}),
  };
}
