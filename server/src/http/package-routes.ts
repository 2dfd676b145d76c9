import type { PackageEvent } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import type { ShowDocument } from "@humming-tide/core/show";
import { Router } from "express";
import type { Background } from "../background/background.ts";
import { safeFileName } from "../file-names.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { openPackage, writePackage } from "../package/index.ts";
import type { ShowStore } from "../store/show-store.ts";
import { bodyOf, brokenOff } from "./request-body.ts";
import { sendZip } from "./send-zip.ts";

interface PackageServices {
  readonly shows: ShowStore;
  readonly library: MediaLibrary;
  readonly background: Background;
}

export function packageRoutes({ shows, library, background }: PackageServices): Router {
  const router = Router();

  /** The show, or where it cannot be read the newest revision that can. */
  const readable = async (id: string): Promise<ShowDocument> => {
    try {
      return (await shows.get(id)).document;
    } catch (error) {
      const code = error instanceof HummingTideError ? error.code : "";
      const last = code === "show-damaged" || code === "show-newer" ? await shows.lastReadable(id) : null;
      if (!last) throw error;
      return shows.documentAt(id, last.revision);
    }
  };

  router.get("/shows/:id/package", async (request, response) => {
    const document = await readable(request.params.id);
    const content = await writePackage(document, library);
    await sendZip(response, `${safeFileName(document.title, "Show")}.tide.zip`, content);
  });

  /**
   * The package is the body of the request. The answer is a line of JSON for each step; breaking
   * off the request stops the work.
   */
  router.post("/packages", async (request, response) => {
    const stopping = new AbortController();
    const received = await library.store.receive(bodyOf(request));
    response.on("close", () => stopping.abort(brokenOff()));
    response.status(200).set({ "Content-Type": "application/x-ndjson", "Cache-Control": "no-store" });
    const tell = (event: PackageEvent): void => void response.write(`${JSON.stringify(event)}\n`);
    try {
      const show = await openPackage({
        path: received.path,
        bytes: received.bytes,
        library,
        shows,
        background,
        signal: stopping.signal,
        onProgress: (done, total) => tell({ kind: "progress", done, total }),
      });
      tell({ kind: "opened", showId: show.id });
    } catch (error) {
      if (stopping.signal.aborted) return;
      const known = error instanceof HummingTideError;
      if (!known) console.error("Opening a package:", error);
      tell({
        kind: "failed",
        code: known ? error.code : "internal",
        message: known ? error.message : "The server made a mistake while opening the package. No show was changed.",
      });
    } finally {
      await library.store.discard(received);
      response.end();
    }
  });

  return router;
}
