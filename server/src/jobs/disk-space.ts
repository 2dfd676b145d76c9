import { statfs } from "node:fs/promises";
import { HummingTideError } from "@humming-tide/core";
import type { FilmPlan } from "@humming-tide/core/film";
import { type FilmOutput, isVideo, type Quality } from "@humming-tide/core/show";
import { framesPerSecond } from "@humming-tide/core/time";

/** Bits for a pixel of a film: two to three times what the demo takes (0.05 at "fine"), for photographs with more in them, and for grain. */
const BITS_A_PIXEL: Readonly<Record<Quality, number>> = { small: 0.05, fine: 0.12, finest: 0.3 };
/** Sound as it is mixed and unpacked meanwhile. */
const SOUND_BYTES_A_SECOND = 48_000 * (8 + 2 * 4);
/** Its parts, the film joined from them, and a copy of it for people. */
const TIMES_ON_DISK = 3;
/** What is left for everything else, and of a small disk no more than this share. */
const SPARE_BYTES = 300_000_000;
const SPARE_SHARE = 0.02;

/** A picture of a player, about, with its words. */
const PLAYER_PICTURE_BYTES = 4_000_000;

/** What making a film takes on the disk at most, about. */
export function estimatedBytes(
  plan: FilmPlan,
  { quality, container }: Pick<FilmOutput, "quality" | "container">,
): number {
  const { width, height } = plan.size;
  const video = (plan.totalFrames * width * height * BITS_A_PIXEL[quality]) / 8;
  const seconds = plan.totalFrames / framesPerSecond(plan.rate);
  if (!isVideo(container)) {
    const clips = plan.slots.filter(({ clip }) => clip !== null).length / plan.slots.length;
    const pictures = plan.slots.length * PLAYER_PICTURE_BYTES;
    return TIMES_ON_DISK * (pictures + clips * video) + seconds * SOUND_BYTES_A_SECOND;
  }
  return TIMES_ON_DISK * video + seconds * SOUND_BYTES_A_SECOND;
}

/** Throws `disk-short` where a folder's disk has less room than that, so that it is said before an hour's work and not behind it. */
export async function checkDiskSpace(folder: string, bytes: number): Promise<void> {
  const { bavail, blocks, bsize } = await statfs(folder);
  const free = bavail * bsize;
  const spare = Math.min(SPARE_BYTES, SPARE_SHARE * blocks * bsize);
  if (free >= bytes + spare) return;
  throw new HummingTideError(
    "disk-short",
    `The films ask for about ${gigabytes(bytes + spare)} on the disk of the data folder while they are made, and ${gigabytes(free)} are free. Make room, or choose smaller films.`,
  );
}

const gigabytes = (bytes: number): string => `${(bytes / 1e9).toFixed(bytes < 1e9 ? 2 : 1)} GB`;
