import { access } from "node:fs/promises";
import path from "node:path";
import { type ExportJob, outputWishSchema } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import express, { type Response, Router } from "express";
import type { ExportQueue } from "../jobs/export-queue.ts";
import type { ShowStore } from "../store/show-store.ts";

export function exportRoutes(shows: ShowStore, queue: ExportQueue): Router {
  const router = Router();

  router.get("/shows/:id/exports", async (request, response) => {
    response.json(await queue.listForShow(request.params.id));
  });

  router.post("/shows/:id/exports", express.json(), async (request, response) => {
    const wish = outputWishSchema.parse(request.body ?? {});
    const show = await shows.get(request.params.id);
    response.status(201).json(await queue.add(show.id, show.document, wish));
  });

  /** Server-sent events: one "change" for each step of each export of the show. */
  router.get("/shows/:id/exports/events", async (request, response) => {
    const { id } = await shows.get(request.params.id);
    response.set({ "Content-Type": "text/event-stream", "Cache-Control": "no-store", Connection: "keep-alive" });
    response.flushHeaders();
    const tell = (job: ExportJob): void => {
      if (job.showId === id) response.write(`event: change\ndata: ${JSON.stringify(job)}\n\n`);
    };
    for (const job of await queue.listForShow(id)) tell(job);
    queue.on("change", tell);
    request.on("close", () => queue.off("change", tell));
  });

  router.post("/exports/:id/cancel", async (request, response) => {
    await queue.cancel(request.params.id);
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
    if (!job.measurement) throw new HummingTideError("not-found", "This export has not been measured.");
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
  if (!there) throw new HummingTideError("not-found", "This export has no finished film. Export again.");
  response.download(place, name, { dotfiles: "allow" });
}
