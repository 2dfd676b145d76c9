import { randomBytes, randomUUID } from "node:crypto";
import { createReadStream } from "node:fs";
import { mkdir, open, stat } from "node:fs/promises";
import path from "node:path";
import express, { type Request, type Response, Router } from "express";
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

interface SiteOptions {
  readonly now: () => number;
  readonly processingMs: number;
}

/**
 * A made-up video site: sign-in, uploads in chunks that go on where they were broken off (tus 1.0,
 * core and creation, from memory). Then some time of processing, and a page for each film.
 */
export function videoRoutes(folder: string, base: () => string, troubles: Troubles, options: SiteOptions): Router {
  const site = new VideoSite(folder, base, troubles, options);
  const router = Router();
  router.use("/video", (request, _response, next) => {
    if (troubles.happens("video-away")) request.socket.destroy();
    else next();
  });
  site.addSignIn(router);
  site.addUploads(router);
  site.addFilms(router);
  return router;
}

class VideoSite {
  readonly #folder: string;
  readonly #base: () => string;
  readonly #troubles: Troubles;
  readonly #now: () => number;
  readonly #processingMs: number;
  readonly #videos: Kept<Video>;
  readonly #sessions: Kept<{ readonly endsAt: number }>;

  constructor(folder: string, base: () => string, troubles: Troubles, { now, processingMs }: SiteOptions) {
    this.#folder = folder;
    this.#base = base;
    this.#troubles = troubles;
    this.#now = now;
    this.#processingMs = processingMs;
    this.#videos = new Kept<Video>(path.join(folder, "videos.json"));
    this.#sessions = new Kept<{ readonly endsAt: number }>(path.join(folder, "sessions.json"));
  }

  addSignIn(router: Router): void {
    router.post("/video/sign-in", express.json({ limit: "4kb" }), (request, response) => {
      const { name, password } = z
        .object({ name: z.string().max(100), password: z.string().max(100) })
        .parse(request.body);
      if (name !== VIDEO_ACCOUNT.name || password !== VIDEO_ACCOUNT.password)
        throw new Refusal(401, "The name or the password is not right.");
      const token = randomBytes(24).toString("base64url");
      this.#sessions.put(token, { endsAt: this.#now() + 1000 * SESSION_SECONDS });
      response.json({ token, account: name, expiresInSeconds: SESSION_SECONDS });
    });
  }

  /** Uploads by tus: announced, asked about, and sent piece by piece. */
  addUploads(router: Router): void {
    router.post("/video/uploads", async (request, response) => {
      this.#signedIn(request);
      const bytes = Number(request.get("Upload-Length"));
      if (!Number.isSafeInteger(bytes) || bytes <= 0) throw new Refusal(400, "Upload-Length is missing.");
      if (bytes > LARGEST_BYTES) throw new Refusal(413, "Films of more than 256 GB are not taken.");
      const facts = factsSchema.parse(metadataOf(request.get("Upload-Metadata") ?? ""));
      const id = randomUUID();
      await mkdir(path.join(this.#folder, "films"), { recursive: true });
      await (await open(this.#filmPath(id), "w")).close();
      this.#videos.put(id, { id, ...facts, bytes, completeAt: null, failure: null });
      response
        .status(201)
        .set({ "Tus-Resumable": TUS, Location: `${this.#base()}/video/uploads/${id}` })
        .end();
    });

    router.head("/video/uploads/:id", async (request, response) => {
      this.#signedIn(request);
      const { id, bytes } = this.#known(request.params.id);
      response
        .status(200)
        .set({
          "Tus-Resumable": TUS,
          "Upload-Offset": String(await this.#received(id)),
          "Upload-Length": String(bytes),
          "Cache-Control": "no-store",
        })
        .end();
    });

    const chunk = express.raw({ type: "application/offset+octet-stream", limit: LARGEST_CHUNK });
    router.patch("/video/uploads/:id", chunk, (request, response) => this.#takeChunk(request, response));
  }

  /** What became of an upload, and the page of a film. */
  addFilms(router: Router): void {
    router.get("/video/videos/:id", (request, response) => {
      this.#signedIn(request);
      const { id, completeAt, failure, title, visibility } = this.#known(request.params.id);
      const progress = completeAt === null ? 0 : Math.min(1, (this.#now() - completeAt) / this.#processingMs);
      const state = completeAt === null ? "uploading" : progress < 1 ? "processing" : failure ? "failed" : "ready";
      const address = state === "ready" ? `${this.#base()}/watch/${id}` : null;
      response.json({ id, title, visibility, state, progress, address, error: state === "failed" ? failure : null });
    });

    router.get("/watch/:id", (request, response) => {
      const { id, title, description } = this.#watched(request.params.id);
      response.send(
        pageText(
          title,
          `<h1>${escaped(title)}</h1>\n<video controls src="/watch/${id}/film"></video>\n<p>${escaped(description).replaceAll("\n", "<br>")}</p>`,
        ),
      );
    });
    router.get("/watch/:id/film", (request, response) => {
      const { id } = this.#watched(request.params.id);
      response.type("video/mp4").sendFile(id, { root: path.join(this.#folder, "films") });
    });
  }

  async #takeChunk(request: Request<{ id: string }>, response: Response): Promise<void> {
    this.#signedIn(request);
    const { id, bytes, completeAt } = this.#known(request.params.id);
    const offset = await this.#received(id);
    if (Number(request.get("Upload-Offset")) !== offset || completeAt !== null)
      throw new Refusal(409, `The upload stands at ${offset}.`);
    const body = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    if (offset + body.length > bytes) throw new Refusal(413, "That is more than was announced.");
    const isLost = this.#troubles.happens("video-chunk-lost");
    const file = await open(this.#filmPath(id), "a");
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
      this.#videos.put(id, {
        ...this.#known(id),
        completeAt: this.#now(),
        failure: await troubleWith(this.#filmPath(id), this.#troubles),
      });
    response
      .status(204)
      .set({ "Tus-Resumable": TUS, "Upload-Offset": String(there) })
      .end();
  }

  #signedIn(request: Request): void {
    const token = /^Bearer ([\w-]+)$/.exec(request.get("Authorization") ?? "")?.[1] ?? "";
    const session = this.#sessions.get(token);
    if (session && this.#troubles.happens("video-signed-out")) this.#sessions.put(token, { endsAt: 0 });
    if (!session || (this.#sessions.get(token)?.endsAt ?? 0) <= this.#now()) throw new Refusal(401, "Sign in again.");
  }

  #known(id: string): Video {
    const video = this.#videos.get(id);
    if (!video) throw new Refusal(404, "There is no such film.");
    return video;
  }

  #watched(id: string): Video {
    const video = this.#known(id);
    if (video.visibility === "private") throw new Refusal(403, "This film is private.");
    if (video.completeAt === null || video.failure) throw new Refusal(404, "There is no such film.");
    return video;
  }

  #filmPath(id: string): string {
    return path.join(this.#folder, "films", id);
  }

  async #received(id: string): Promise<number> {
    return (await stat(this.#filmPath(id)).catch(() => ({ size: 0 }))).size;
  }
}

/** "title dGl0bGU=,description ..." of tus: values are UTF-8 in base64. */
function metadataOf(header: string): Record<string, string> {
  const pairs = header.split(",").map((pair) => pair.trim().split(" "));
  return Object.fromEntries(
    pairs.flatMap(([name, value]) => (name ? [[name, Buffer.from(value ?? "", "base64").toString("utf8")]] : [])),
  );
}

/**
 * Why a film cannot be shown; null where it can. MP4 names itself behind its first four bytes, WebM
 * by its first four.
 */
async function troubleWith(film: string, troubles: Troubles): Promise<string | null> {
  if (troubles.happens("video-processing-fails")) return "The film could not be processed. Upload it again.";
  for await (const head of createReadStream(film, { end: 11 }) as AsyncIterable<Buffer>) {
    if (head.subarray(4, 8).toString("latin1") === "ftyp" || head.readUInt32BE(0) === 0x1a45dfa3) return null;
  }
  return "This is no film that the site can show.";
}
