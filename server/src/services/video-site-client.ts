import { HummingTideError } from "@humming-tide/core";
import { z } from "zod";
import type { PublishedVideo, VideoFacts, VideoSite } from "../deliveries/video-site.ts";
import { ServiceClient } from "./service-client.ts";
import { serviceError } from "./service-errors.ts";

const TUS = { "Tus-Resumable": "1.0.0" };
/** Slow lines and large chunks. */
const CHUNK_TIMEOUT_MS = 10 * 60_000;
const sessionSchema = z.object({ token: z.string().min(8), account: z.string() });
const videoSchema = z.object({
  state: z.enum(["uploading", "processing", "failed", "ready"]),
  progress: z.number().min(0).max(1),
  address: z.url({ protocol: /^https?$/ }).nullable(),
  error: z.string().nullable(),
});

/** A video site that takes uploads by tus 1.0 (docs/stand-ins.md). */
const SERVICE = "The video site";

export class VideoSiteClient implements VideoSite {
  readonly #service: ServiceClient;

  constructor(base: string) {
    this.#service = new ServiceClient(base, SERVICE);
  }

  async signIn(name: string, password: string): Promise<{ token: string; account: string }> {
    try {
      return await this.#service.ask(sessionSchema, "POST", "/video/sign-in", { name, password });
    } catch (error) {
      if (statusOf(error) !== 401) throw error;
      throw serviceError("sign-in-refused", { why: (error as Error).message }, { cause: error });
    }
  }

  async begin(token: string, bytes: number, { title, description, visibility }: VideoFacts): Promise<string> {
    const encoded = (text: string): string => Buffer.from(text).toString("base64");
    const metadata = Object.entries({ title, description, visibility }).map(
      ([name, text]) => `${name} ${encoded(text)}`,
    );
    const headers = { "Upload-Length": String(bytes), "Upload-Metadata": metadata.join(",") };
    const response = await this.#send("POST", "/video/uploads", token, { headers });
    const id = /\/([\w-]{1,80})$/.exec(response.headers.get("Location") ?? "")?.[1];
    if (!id) throw silent("where the upload goes");
    return id;
  }

  async received(token: string, id: string): Promise<number> {
    return offsetOf(await this.#send("HEAD", `/video/uploads/${id}`, token, {}));
  }

  async send(token: string, id: string, offset: number, chunk: Uint8Array, signal: AbortSignal): Promise<number> {
    const headers = { "Upload-Offset": String(offset), "Content-Type": "application/offset+octet-stream" };
    return offsetOf(
      await this.#send("PATCH", `/video/uploads/${id}`, token, {
        headers,
        body: new Uint8Array(chunk),
        signal: AbortSignal.any([signal, AbortSignal.timeout(CHUNK_TIMEOUT_MS)]),
      }),
    );
  }

  async video(token: string, id: string): Promise<PublishedVideo> {
    return videoSchema.parse(await (await this.#send("GET", `/video/videos/${id}`, token, {})).json());
  }

  async #send(method: string, place: string, token: string, options: RequestInit): Promise<Response> {
    const headers = { ...TUS, Authorization: `Bearer ${token}`, ...(options.headers as Record<string, string>) };
    try {
      return await this.#service.send(method, place, { ...options, headers });
    } catch (error) {
      if (statusOf(error) !== 401) throw error;
      throw serviceError("signed-out");
    }
  }
}

const statusOf = (error: unknown): unknown =>
  error instanceof HummingTideError && error.code === "service-refused" ? error.values["status"] : null;

const silent = (about: string): HummingTideError =>
  serviceError("service-refused", { service: SERVICE, status: null, why: `nothing about ${about}` });

function offsetOf(response: Response): number {
  const offset = Number(response.headers.get("Upload-Offset"));
  if (Number.isSafeInteger(offset) && offset >= 0) return offset;
  throw silent("how much has arrived");
}
