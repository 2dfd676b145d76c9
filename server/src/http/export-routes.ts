import { access } from "node:fs/promises";
import path from "node:path";
import { type ExportJob, exportWishSchema, filmsFolderSchema } from "@humming-tide/contract";
import { type Response, Router } from "express";
import type { ExportQueue } from "../jobs/export-queue.ts";
import type { FilmsFolder } from "../jobs/films-folder.ts";
import type { ShowStore } from "../store/show-store.ts";
import { jsonBody } from "./json-body.ts";
import { requestError } from "./request-errors.ts";

interface ExportParts {
  readonly shows: ShowStore;
  readonly queue: ExportQueue;
  readonly filmsFolder: FilmsFolder;
}

export function exportRoutes({ shows, queue, filmsFolder }: ExportParts): Router {
  const router = Router();

  router.get("/shows/:id/exports", async (request, response) => {
    response.json(await queue.listForShow(request.params.id));
  });

  router.post("/shows/:id/exports", jsonBody(), async (request, response) => {
    const { outputIds } = exportWishSchema.parse(request.body);
    const { id, document } = await shows.get(request.params.id);
    const outputs = outputIds.map((outputId) => {
      const output = document.outputs.find((one) => one.id === outputId);
      if (output) return output;
      throw requestError("output-unknown", { outputId });
    });
    response.status(201).json(await queue.add(id, document, outputs));
  });

  router.get("/films-folder", async (_request, response) => {
    response.json({ folder: await filmsFolder.get() });
  });

  router.put("/films-folder", jsonBody(), async (request, response) => {
    await filmsFolder.choose(filmsFolderSchema.parse(request.body).folder);
    response.json({ folder: await filmsFolder.get() });
  });

  router.post("/exports/:id/cancel", async (request, response) => {
    await queue.cancel(request.params.id);
    response.status(202).json({});
  });

  /** Lets a waiting export be the next. */
  router.post("/exports/:id/first", async (request, response) => {
    await queue.moveToFront(request.params.id);
    response.status(202).json({});
  });

  router.get("/exports/:id/film", async (request, response) => {
    const job = await queue.get(request.params.id);
    await download(response, job, queue.filmPath(job), job.fileName);
  });

  router.get("/exports/:id/report", async (request, response) => {
    const job = await queue.get(request.params.id);
    await download(response, job, queue.reportPath(job.id), `${path.parse(job.fileName).name} report.json`);
  });

  router.get("/exports/:id/measurement", async (request, response) => {
    const job = await queue.get(request.params.id);
    if (!job.measurement) throw requestError("not-measured");
    response.attachment(`${path.parse(job.fileName).name} measured.json`).json(job.measurement);
  });

  return router;
}

async function download(response: Response, job: ExportJob, place: string, name: string): Promise<void> {
  const there =
    job.state === "done" &&
    (await access(place).then(
      () => true,
      () => false,
    ));
  if (!there) throw requestError("film-unfinished");
  response.download(place, name, { dotfiles: "allow" });
}
