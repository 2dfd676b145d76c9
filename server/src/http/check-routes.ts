import type { CheckRun } from "@humming-tide/contract";
import { Router } from "express";
import type { FilmChecks } from "../check/film-checks.ts";
import type { ShowStore } from "../store/show-store.ts";
import { sendEvents } from "./send-events.ts";

/** Thorough checks of a show. */
export function checkRoutes(shows: ShowStore, checks: FilmChecks): Router {
  const router = Router();

  router.post("/shows/:id/check", async (request, response) => {
    response.status(202).json(await checks.start(await shows.get(request.params.id)));
  });

  router.post("/shows/:id/check/cancel", async (request, response) => {
    await checks.cancel(request.params.id);
    response.status(202).json({});
  });

  /** Server-sent events: the last run, and one "change" for each step of it. */
  router.get("/shows/:id/check/events", async (request, response) => {
    const { id } = await shows.get(request.params.id);
    const tell = sendEvents<CheckRun>(response, ({ showId }) => showId === id);
    const last = checks.get(id);
    if (last) tell(last);
    checks.on("change", tell);
    request.on("close", () => checks.off("change", tell));
  });

  return router;
}
