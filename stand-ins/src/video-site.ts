import { randomBytes, randomUUID } from "node:crypto";
import { createReadStream } from "node:fs";
import { mkdir, open, stat } from "node:fs/promises";
import path from "node:path";
import express, { type Request, Router } from "express";
import { z } from "zod";
import { Kept } from "./kept.ts";
import { escaped, pageText } from "./pages.ts";
import { Refusal } from "./refusal.ts";
import type { Troubles } from "./troubles.ts";

/** The only account there is. */
export const VIDEO_ACCOUNT = { name: "lantern", password: "regatta" } as const;
const SESSION_SECONDS = 3600;
const TUS = "1.0.0";
const LARGEST_BYTES = 256e9;
const LARGEST_CHUNK = "64mb";

const factsSchema = z.object({
  title: z.string().min(1).max(100),
  description: z.string().max(5000),
  visibility: z.enum(["public", "unlisted", "private"]),
});
interface Video extends z.infer<typeof factsSchema> {
  readonly id: string;
  readonly bytes: number;
  /** When the last byte came; null before. */
  readonly completeAt: number | null;
  readonly failure: string | null;
}

/** A made-up video site: sign-in, uploads in chunks that go on where they were broken off (tus 1.0, core and creation, from memory), a while of processing, and a page for each film. */
export function videoRoutes(
  folder: string,
  base: () => string,
  troubles: Troubles,
  { now, processingMs }: { readonly now: () => number; readonly processingMs: number },
): Router {
  const videos = new Kept<Video>(path.join(folder, "videos.json"));
  const sessions = new Kept<{ readonly endsAt: number }>(path.join(folder, "sessions.json"));
  const filmPath = (id: string): string => path.join(folder, "films", id);
  const router = Router();

  router.use("/video", (request, _response, next) => {
    if (troubles.happens("video-away")) request.socket.destroy();
    else next();
  });

  router.post("/video/sign-in", express.json({ limit: "4kb" }), (request, response) => {
    const { name, password } = z
      .object({ name: z.string().max(100), password: z.string().max(100) })
      .parse(request.body);
    if (name !== VIDEO_ACCOUNT.name || password !== VIDEO_ACCOUNT.password)
      throw new Refusal(401, "The name or the password is not right.");
    const token = randomBytes(24).toString("base64url");
    sessions.put(token, { endsAt: now() + 1000 * SESSION_SECONDS });
    response.json({ token, account: name, expiresInSeconds: SESSION_SECONDS });
  });

  const signedIn = (request: Request): void => {
    const token = /^Bearer ([\w-]+)$/.exec(request.get("Authorization") ?? "")?.[1] ?? "";
    const session = sessions.get(token);
    if (session && troubles.happens("video-signed-out")) sessions.put(token, { endsAt: 0 });
    if (!session || (sessions.get(token)?.endsAt ?? 0) <= now()) throw new Refusal(401, "Sign in again.");
  };
  const known = (id: string): Video => {
    const video = videos.get(id);
    if (!video) throw new Refusal(404, "There is no such film.");
    return video;
  };
  const received = async (id: string): Promise<number> => (await stat(filmPath(id)).catch(() => ({ size: 0 }))).size;

  router.post("/video/uploads", async (request, response) => {
    signedIn(request);
    const bytes = Number(request.get("Upload-Length"));
    if (!Number.isSafeInteger(bytes) || bytes <= 0) throw new Refusal(400, "Upload-Length is missing.");
    if (bytes > LARGEST_BYTES) throw new Refusal(413, "Films of more than 256 GB are not taken.");
    const facts = factsSchema.parse(metadataOf(request.get("Upload-Metadata") ?? ""));
    const id = randomUUID();
    await mkdir(path.join(folder, "films"), { recursive: true });
    await (await open(filmPath(id), "w")).close();
    videos.put(id, { id, ...facts, bytes, completeAt: null, failure: null });
    response
      .status(201)
      .set({ "Tus-Resumable": TUS, Location: `${base()}/video/uploads/${id}` })
      .end();
  });

  router.head("/video/uploads/:id", async (request, response) => {
    signedIn(request);
    const { id, bytes } = known(request.params.id);
    response
      .status(200)
      .set({
        "Tus-Resumable": TUS,
        "Upload-Offset": String(await received(id)),
        "Upload-Length": String(bytes),
        "Cache-Control": "no-store",
      })
      .end();
  });

  const chunk = express.raw({ type: "application/offset+octet-stream", limit: LARGEST_CHUNK });
  router.patch("/video/uploads/:id", chunk, async (request, response) => {
    signedIn(request);
    const { id, bytes, completeAt } = known(request.params.id);
    const offset = await received(id);
    if (Number(request.get("Upload-Offset")) !== offset || completeAt !== null)
      throw new Refusal(409, `The upload stands at ${offset}.`);
    const body = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    if (offset + body.length > bytes) throw new Refusal(413, "That is more than was announced.");
    const isLost = troubles.happens("video-chunk-lost");
    const file = await open(filmPath(id), "a");
    try {
      // What came before the line broke is kept, as the protocol wants it.
      await file.write(isLost ? body.subarray(0, body.length >> 1) : body);
    } finally {
      await file.close();
    }
    if (isLost) {
      request.socket.destroy();
      return;
    }
    const there = offset + body.length;
    if (there === bytes)
      videos.put(id, { ...known(id), completeAt: now(), failure: await troubleWith(filmPath(id), troubles) });
    response
      .status(204)
      .set({ "Tus-Resumable": TUS, "Upload-Offset": String(there) })
      .end();
  });

  router.get("/video/videos/:id", (request, response) => {
    signedIn(request);
    const { id, completeAt, failure, title, visibility } = known(request.params.id);
    const progress = completeAt === null ? 0 : Math.min(1, (now() - completeAt) / processingMs);
    const state = completeAt === null ? "uploading" : progress < 1 ? "processing" : failure ? "failed" : "ready";
    const address = state === "ready" ? `${base()}/watch/${id}` : null;
    response.json({ id, title, visibility, state, progress, address, error: state === "failed" ? failure : null });
  });

  const isWatched = (id: string): Video => {
    const video = known(id);
    if (video.visibility === "private") throw new Refusal(403, "This film is private.");
    if (video.completeAt === null || video.failure) throw new Refusal(404, "There is no such film.");
    return video;
  };
  router.get("/watch/:id", (request, response) => {
    const { id, title, description } = isWatched(request.params.id);
    response.send(
      pageText(
        title,
        `<h1>${escaped(title)}</h1>\n<video controls src="/watch/${id}/film"></video>\n<p>${escaped(description).replaceAll("\n", "<br>")}</p>`,
      ),
    );
  });
  router.get("/watch/:id/film", (request, response) => {
    const { id } = isWatched(request.params.id);
    response.type("video/mp4").sendFile(id, { root: path.join(folder, "films") });
  });

  return router;
}

/** "title dGl0bGU=,description ..." of tus: values are UTF-8 in base64. */
function metadataOf(header: string): Record<string, string> {
  const pairs = header.split(",").map((pair) => pair.trim().split(" "));
  return Object.fromEntries(
    pairs.filter(([name]) => name).map(([name, value]) => [name!, Buffer.from(value ?? "", "base64").toString("utf8")]),
  );
}

/** Why a film cannot be shown; null where it can. MP4 names itself behind its first four bytes, WebM by its first four. */
async function troubleWith(film: string, troubles: Troubles): Promise<string | null> {
  if (troubles.happens("video-processing-fails")) return "The film could not be processed. Upload it again.";
  for await (const head of createReadStream(film, { end: 11 }) as AsyncIterable<Buffer>) {
    if (head.subarray(4, 8).toString("latin1") === "ftyp" || head.readUInt32BE(0) === 0x1a45dfa3) return null;
  }
  return "This is no film that the site can show.";
}
