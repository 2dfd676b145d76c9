import {
  createShowSchema,
  duplicateShowSchema,
  keepVariantSchema,
  placeShowSchema,
  type Rescue,
  renameVariantSchema,
} from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { applyTemplate, newShowDocument } from "@humming-tide/core/show";
import { type Request, type Response, Router } from "express";
import type { Background } from "../background/background.ts";
import { LARGEST_DOCUMENT_BYTES } from "../documents/read-document.ts";
import { safeFileName } from "../file-names.ts";
import type { ProxyQueue } from "../jobs/proxy-queue.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import type { ShelfKeeper } from "../shelf/shelf-keeper.ts";
import type { SavedRevision, ShowStore } from "../store/show-store.ts";
import type { Stores } from "../store/stores.ts";
import type { VariantStore } from "../store/variant-store.ts";
import { jsonBody, rawBody, rawJsonBody } from "./json-body.ts";
import { requestError } from "./request-errors.ts";

interface ShowServices {
  readonly shows: ShowStore;
  readonly shelf: ShelfKeeper;
  readonly library: MediaLibrary;
  readonly proxies: ProxyQueue;
  readonly background: Background;
  readonly stores: Pick<Stores, "templates" | "variants">;
}

/** Clips of one question about their playable copies. */
const MOST_CLIPS = 500;

export function showRoutes({
  shows,
  shelf,
  library,
  proxies,
  background,
  stores: { templates, variants },
}: ShowServices): Router {
  const router = Router();
  const json = jsonBody();
  const wholeDocument = rawJsonBody(LARGEST_DOCUMENT_BYTES);

  /**
   * Answers with a show as it is now. The document goes from the store to the page as text: parsing
   * it here would hold everyone.
   */
  const sendShow = async (response: Response, id: string): Promise<void> => {
    const { revision, text: stored } = await shows.getText(id);
    await sendDocument(response, id, revision, stored);
  };
  const sendDocument = async (response: Response, id: string, revision: number, stored: string): Promise<void> => {
    const { text, media } = await background.run("openStored", stored).catch(async (error: unknown) => {
      if (error instanceof HummingTideError) await shelf.noteUnreadable(id, error);
      throw error;
    });
    const hashes = [...media.seen, ...media.songs, ...media.former].map(({ sha256 }) => sha256);
    const facts = JSON.stringify(Object.fromEntries(await library.facts(hashes)));
    response
      .type("application/json")
      .send(`{"id":${JSON.stringify(id)},"revision":${revision},"document":${text},"media":${facts}}`);
  };

  router.get("/", async (_request, response) => {
    response.json(await shelf.list());
    shelf.measureFilms();
  });

  router.post("/", json, async (request, response) => {
    const { title, templateId, ...facts } = createShowSchema.parse(request.body);
    const bare = { ...newShowDocument(title), ...facts };
    const document = templateId ? applyTemplate(bare, (await templates.get(templateId)).template) : bare;
    const { id } = await shows.create(title, document);
    await sendShow(response.status(201), id);
  });

  router.get("/:id", async (request, response) => sendShow(response, request.params.id));

  /** A whole document over the revision that If-Match names; 409 where another save came first. */
  router.put("/:id", wholeDocument, async (request, response) => {
    const revision = revisionIn(request);
    const checked = await background.run("checkSent", rawBody(request));
    response.json(toAnswer(await shows.saveChecked(request.params.id, revision, checked)));
  });

  /**
   * What changed since the revision that If-Match names (core/show, DocumentDelta); 409 where
   * another save came first.
   */
  router.patch("/:id", wholeDocument, async (request, response) => {
    const { id } = request.params;
    response.json(toAnswer(await shows.saveChange(id, revisionIn(request), rawBody(request))));
  });

  router.post("/:id/duplicate", json, async (request, response) => {
    const { title } = duplicateShowSchema.parse(request.body);
    const { document } = await shows.get(request.params.id);
    const { id } = await shows.create(title, { ...document, title });
    await sendShow(response.status(201), id);
  });

  router.post("/:id/place", json, async (request, response) => {
    const { place } = placeShowSchema.parse(request.body);
    await shows.put(request.params.id, place);
    response.status(204).end();
  });

  /** The playable copies of clips. */
  router.get("/:id/copies", async (request, response) => {
    const { clips: named } = request.query;
    const clips = typeof named === "string" ? named.split(",").filter(Boolean).slice(0, MOST_CLIPS) : [];
    await shows.revision(request.params.id);
    response.set("Cache-Control", "no-store").json(await proxies.states(clips));
  });

  /** What a person kept of a show, with the facts of its media, as the show itself is answered. */
  router.get("/:id/variants/:variant", async (request, response) => {
    const { id, variant } = request.params;
    const { revision } = await variants.get(id, variant);
    const document = await shows.documentAt(id, revision);
    await sendDocument(response, id, revision, JSON.stringify(document));
  });
  addVariantRoutes(router, shows, variants);
  addRevisionRoutes(router, shows, background);
  return router;
}

const toAnswer = ({ revision }: SavedRevision): { readonly revision: number } => ({ revision });

/** Revisions with a name: what is listed, kept, renamed and let go. */
function addVariantRoutes(router: Router, shows: ShowStore, variants: VariantStore): void {
  const json = jsonBody();

  router.get("/:id/variants", async (request, response) => {
    await shows.revision(request.params.id);
    response.set("Cache-Control", "no-store").json(await variants.list(request.params.id));
  });

  router.post("/:id/variants", json, async (request, response) => {
    const { name, revision } = keepVariantSchema.parse(request.body);
    await shows.revision(request.params.id);
    response.status(201).json(await variants.keep(request.params.id, name, revision));
  });

  router.patch("/:id/variants/:variant", json, async (request, response) => {
    const { name } = renameVariantSchema.parse(request.body);
    await shows.revision(request.params.id);
    response.json(await variants.rename(request.params.id, request.params.variant, name));
  });

  router.delete("/:id/variants/:variant", async (request, response) => {
    await shows.revision(request.params.id);
    await variants.remove(request.params.id, request.params.variant);
    response.status(204).end();
  });
}

/** What was saved before, and what can be done about a show that cannot be read. */
function addRevisionRoutes(router: Router, shows: ShowStore, background: Background): void {
  router.get("/:id/revisions", async (request, response) => {
    const before = request.query["before"];
    response.json(await shows.revisions(request.params.id, before === undefined ? null : revisionNumber(before)));
  });

  router.get("/:id/revisions/:revision", async (request, response) => {
    response.json(await shows.documentAt(request.params.id, revisionNumber(request.params.revision)));
  });

  router.get("/:id/rescue", async (request, response) => {
    const { id } = request.params;
    const { text } = await shows.getText(id);
    const problem = await background.run("checkStored", text).then(
      () => "",
      (error: Error) => error.message,
    );
    const found = problem === "" ? null : await shows.lastReadable(id);
    const lastReadable = found && { revision: found.revision, savedAt: found.savedAt.toISOString() };
    response.json({ problem, lastReadable } satisfies Rescue);
  });

  router.post("/:id/restore", async (request, response) => {
    response.json(toAnswer(await shows.restore(request.params.id)));
  });

  /** The saved text as it is, readable or not. */
  router.get("/:id/raw", async (request, response) => {
    const { text } = await shows.getText(request.params.id);
    response
      .attachment(`${safeFileName("Show as it was saved", "Show")}.json`)
      .type("application/json")
      .send(text);
  });
}

/** Throws `revision-missing`. */
function revisionIn(request: Request): number {
  const match = /^"?(\d{1,9})"?$/.exec(request.get("If-Match") ?? "");
  if (match) return Number(match[1]);
  throw requestError("revision-missing");
}

/** 0, which no revision has, for what is no number of one. */
const revisionNumber = (text: unknown): number =>
  typeof text === "string" && /^\d{1,9}$/.test(text) ? Number(text) : 0;
