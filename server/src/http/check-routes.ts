import type { CheckRun } from "@humming-tide/contract";
import { Router } from "express";
import type { FilmChecks } from "../check/film-checks.ts";
import type { ShowStore } from "../store/show-store.ts";

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

  /** The last run; null where there was none since the server started. */
  router.get("/shows/:id/check", async (request, response) => {
    await shows.revision(request.params.id);
    response.json(checks.get(request.params.id) satisfies CheckRun | null);
  });

  return router;
}
