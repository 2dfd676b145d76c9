import { statfs } from "node:fs/promises";
import { jobError } from "./job-errors.ts";

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
  throw jobError("disk-short", { neededBytes: bytes + spare, freeBytes: free });
}
