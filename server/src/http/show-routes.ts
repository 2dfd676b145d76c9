import {
  createShowSchema,
  duplicateShowSchema,
  placeShowSchema,
  type SavedShow,
  type ShowState,
  type ShowSummary,
} from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { drawnPicture } from "@humming-tide/core/picture";
import {
  applyTemplate,
  hasPicture,
  newShowDocument,
  posterSlide,
  type ShowDocument,
  sameFilm,
  showDocumentSchema,
} from "@humming-tide/core/show";
import express, { Router } from "express";
import type { ProxyQueue } from "../jobs/proxy-queue.ts";
import { type MediaLibrary, seenHashes } from "../media/media-library.ts";
import { exportStore } from "../store/export-store.ts";
import { mediaStore } from "../store/media-store.ts";
import type { ShowStore, StoredShow } from "../store/show-store.ts";
import { templateStore } from "../store/template-store.ts";

/** Largest document in JSON: 5,000 slides with long names. */
const DOCUMENT_LIMIT = "16mb";

export function showRoutes(shows: ShowStore, library: MediaLibrary, proxies: ProxyQueue): Router {
  const router = Router();
  const json = express.json({ limit: DOCUMENT_LIMIT });

  router.get("/", async (_request, response) => {
    const [stored, exported] = await Promise.all([shows.list(), exportStore.finished()]);
    response.json(await Promise.all(stored.map((show) => summary(show, exported.get(show.id)))));
  });

  router.post("/", json, async (request, response) => {
    const { title, templateId } = createShowSchema.parse(request.body);
    const bare = newShowDocument(title);
    const document = templateId ? applyTemplate(bare, (await templateStore.get(templateId)).template) : bare;
    response.status(201).json(await withMedia(library, await shows.create(title, document)));
  });

  router.get("/:id", async (request, response) => {
    response.json(await withMedia(library, await shows.get(request.params.id)));
  });

  /** If-Match names the revision that the document was made from; 409 where another save came first. */
  router.put("/:id", json, async (request, response) => {
    const match = /^"?(\d{1,9})"?$/.exec(request.get("If-Match") ?? "");
    if (!match)
      throw new HummingTideError("revision-missing", "A save names the revision it was made from in If-Match.");
    const saved = await shows.save(request.params.id, Number(match[1]), showDocumentSchema.parse(request.body));
    response.json({ revision: saved.revision });
  });

  router.post("/:id/duplicate", json, async (request, response) => {
    const { title } = duplicateShowSchema.parse(request.body);
    const { document } = await shows.get(request.params.id);
    response.status(201).json(await withMedia(library, await shows.create(title, { ...document, title })));
  });

  router.post("/:id/place", json, async (request, response) => {
    const { place } = placeShowSchema.parse(request.body);
    await shows.put(request.params.id, place);
    response.status(204).end();
  });

  /** What may have changed without the page: asked for every few seconds. `clips` names the clips it shows. */
  router.get("/:id/state", async (request, response) => {
    const { clips: named } = request.query;
    const clips = typeof named === "string" ? named.split(",").filter(Boolean).slice(0, 500) : [];
    const [revision, states] = await Promise.all([shows.revision(request.params.id), proxies.states(clips)]);
    response.set("Cache-Control", "no-store").json({ revision, proxies: states } satisfies ShowState);
  });

  router.get("/:id/revisions", async (request, response) => {
    const before = request.query["before"];
    response.json(await shows.revisions(request.params.id, before === undefined ? null : revisionNumber(before)));
  });

  router.get("/:id/revisions/:revision", async (request, response) => {
    response.json(await shows.documentAt(request.params.id, revisionNumber(request.params.revision)));
  });

  return router;
}

/** 0, which no revision has, for what is no number of one. */
const revisionNumber = (text: unknown): number =>
  typeof text === "string" && /^\d{1,9}$/.test(text) ? Number(text) : 0;

async function withMedia(library: MediaLibrary, show: StoredShow): Promise<SavedShow> {
  const { document } = show;
  const hashes = [...seenHashes(document), ...document.songs.map((song) => song.sha256)];
  return {
    id: show.id,
    revision: show.revision,
    document,
    media: Object.fromEntries(await library.facts(hashes)),
  };
}

async function summary(show: StoredShow, exported: ShowDocument | undefined): Promise<ShowSummary> {
  const { document } = show;
  const songs = await mediaStore.getMany(document.songs.map((song) => song.sha256));
  const lengths = document.songs
    .map((song) => songs.get(song.sha256))
    .map((facts) => (facts?.kind === "song" ? facts.durationSeconds : 0));
  const poster = posterSlide(document);
  return {
    id: show.id,
    title: document.title,
    event: document.event,
    date: document.date,
    client: document.client,
    revision: show.revision,
    updatedAt: show.updatedAt.toISOString(),
    place: show.place,
    deletedAt: show.deletedAt?.toISOString() ?? null,
    pictureCount: document.slides.filter(hasPicture).length,
    poster: poster ? drawnPicture(poster.sha256, poster.turn) : null,
    songFileName: document.songs.map((song) => song.fileName).join(", ") || null,
    songSeconds: lengths.length > 0 ? lengths.reduce((sum, seconds) => sum + seconds, 0) : null,
    state: stateOf(document, exported),
  };
}

function stateOf(document: ShowDocument, exported: ShowDocument | undefined): ShowSummary["state"] {
  if (document.slides.length === 0) return "pictures-wanted";
  if (document.songs.length === 0) return "song-wanted";
  if (!exported) return "laid-out";
  return sameFilm(exported, document) ? "exported" : "changed-since-export";
}
