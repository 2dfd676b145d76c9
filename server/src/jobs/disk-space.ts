import { statfs } from "node:fs/promises";
import { HummingTideError } from "@humming-tide/core";

/** What is left for everything else, and of a small disk no more than this share. */
const SPARE_BYTES = 300_000_000;
const SPARE_SHARE = 0.02;

/**
 * Throws `disk-short` where a folder's disk has less room than that, so that it is said before an
 * hour's work and not after it.
 */
export async function checkDiskSpace(folder: string, bytes: number): Promise<void> {
  const { bavail, blocks, bsize } = await statfs(folder);
  const free = bavail * bsize;
  const spare = Math.min(SPARE_BYTES, SPARE_SHARE * blocks * bsize);
  if (free >= bytes + spare) return;
  throw new HummingTideError(
    "disk-short",
    `The films need about ${gigabytes(bytes + spare)} on the disk of the data folder while they are made, ` +
      `and ${gigabytes(free)} are free. Make room, or choose smaller films.`,
  );
}

const gigabytes = (bytes: number): string => `${(bytes / 1e9).toFixed(bytes < 1e9 ? 2 : 1)} GB`;
