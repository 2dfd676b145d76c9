import { open, stat } from "node:fs/promises";
import { setTimeout } from "node:timers/promises";
import { HummingTideError } from "@humming-tide/core";
import { serviceError } from "../services/service-errors.ts";
import type { PublishedVideo, VideoFacts, VideoSite } from "./video-site.ts";

/** Small enough that a broken line costs little, large enough that a good one is used. */
const CHUNK_BYTES = 8 << 20;
const TRIES = 5;
const FIRST_WAIT_MS = 500;
const ASK_EVERY_MS = 700;

export interface UploadRequest {
  readonly site: VideoSite;
  readonly token: string;
  readonly filmPath: string;
  readonly facts: VideoFacts;
  /** What the upload is called at the site from an earlier try; null: it begins. */
  readonly id: string | null;
  readonly signal: AbortSignal;
  /** As soon as it is known: with it the upload goes on after a crash. */
  readonly onBegun: (id: string) => Promise<void>;
  /** 0 to 1. */
  readonly onProgress: (step: string, progress: number) => void;
  readonly chunkBytes?: number;
  readonly firstWaitMs?: number;
}

/** Uploading takes most of the time. */
const UPLOAD_SHARE = 0.9;

/**
 * Uploads a film in chunks from where an earlier try has got to, and waits until the site has
 * processed it. A line that breaks is tried again, a little later each time; how much has arrived
 * is asked for, never assumed. Throws `signed-out`, `service-unreachable` after the last try,
 * `service-refused`, `video-failed` in the site's words, and the signal's reason.
 */
export async function uploadFilm(request: UploadRequest): Promise<PublishedVideo> {
  const { site, token, filmPath, facts, signal, onProgress } = request;
  const { size } = await stat(filmPath);
  const id = request.id ?? (await patiently(request, () => site.begin(token, size, facts)));
  if (request.id === null) await request.onBegun(id);
  const file = await open(filmPath, "r");
  try {
    let offset = await patiently(request, () => site.received(token, id));
    while (offset < size) {
      signal.throwIfAborted();
      onProgress("Uploading", (UPLOAD_SHARE * offset) / size);
      offset = await patiently(request, async () => {
        const at = await site.received(token, id);
        if (at >= size) return at;
        const chunk = Buffer.alloc(Math.min(request.chunkBytes ?? CHUNK_BYTES, size - at));
        await file.read(chunk, 0, chunk.length, at);
        return site.send(token, id, at, chunk, signal);
      });
    }
  } finally {
    await file.close();
  }
  for (;;) {
    signal.throwIfAborted();
    const video = await patiently(request, () => site.video(token, id));
    if (video.state === "ready") return video;
    if (video.state === "failed") throw serviceError("video-failed", { why: video.error ?? null });
    onProgress("The site is processing the film", UPLOAD_SHARE + (1 - UPLOAD_SHARE) * video.progress);
    await setTimeout(ASK_EVERY_MS, undefined, { signal });
  }
}

/** Tries again what failed because the line broke. */
async function patiently<T>(
  { signal, firstWaitMs = FIRST_WAIT_MS }: UploadRequest,
  attempt: () => Promise<T>,
): Promise<T> {
  for (let tried = 1; ; tried++) {
    try {
      return await attempt();
    } catch (error) {
      const isBroken = error instanceof HummingTideError && error.code === "service-unreachable";
      if (!isBroken || tried === TRIES) throw error;
      await setTimeout(firstWaitMs * 2 ** (tried - 1), undefined, { signal });
    }
  }
}
