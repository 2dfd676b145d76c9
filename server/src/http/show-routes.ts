import { createShowSchema, type SavedShow, type ShowSummary } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { showDocumentSchema } from "@humming-tide/core/show";
import express, { Router } from "express";
import { mediaStore } from "../store/media-store.ts";
import type { ShowStore, StoredShow } from "../store/show-store.ts";

/** Largest document in JSON: 5,000 slides with long names. */
const DOCUMENT_LIMIT = "16mb";

export function showRoutes(shows: ShowStore): Router {
  const router = Router();
  router.use(express.json({ limit: DOCUMENT_LIMIT }));

  router.get("/", async (_request, response) => {
    response.json(await Promise.all((await shows.list()).map(summary)));
  });

  router.post("/", async (request, response) => {
    const { title } = createShowSchema.parse(request.body);
    response.status(201).json(await withMedia(await shows.create(title)));
  });

  router.get("/:id", async (request, response) => {
    response.json(await withMedia(await shows.get(request.params.id)));
  });

  /** If-Match names the revision that the document was made from; 409 where another save came first. */
  router.put("/:id", async (request, response) => {
    const match = /^"?(\d+)"?$/.exec(request.get("If-Match") ?? "");
    if (!match)
      throw new HummingTideError("revision-missing", "A save names the revision it was made from in If-Match.");
    const saved = await shows.save(request.params.id, Number(match[1]), showDocumentSchema.parse(request.body));
    response.json({ revision: saved.revision });
  });

  return router;
}

async function withMedia(show: StoredShow): Promise<SavedShow> {
  const { document } = show;
  const hashes = [...document.slides.map((slide) => slide.sha256), ...(document.song ? [document.song.sha256] : [])];
  return {
    id: show.id,
    revision: show.revision,
    document,
    media: Object.fromEntries(await mediaStore.getMany(hashes)),
  };
}

async function summary(show: StoredShow): Promise<ShowSummary> {
  const { document } = show;
  const song = document.song ? await mediaStore.get(document.song.sha256) : null;
  return {
    id: show.id,
    title: document.title,
    revision: show.revision,
    updatedAt: show.updatedAt.toISOString(),
    pictureCount: document.slides.length,
    posterSha256: document.slides[0]?.sha256 ?? null,
    songFileName: document.song?.fileName ?? null,
    songSeconds: song?.kind === "song" ? song.durationSeconds : null,
  };
}
