import { announceSchema, type IntakeFile } from "@humming-tide/contract";
import { Router } from "express";
import type { Intake } from "../media/intake.ts";
import type { ShowStore } from "../store/show-store.ts";
import { jsonBody } from "./json-body.ts";
import { bodyOf, whileAskerWaits } from "./request-body.ts";

/** 5,000 files with long paths. */
const FILES_LIMIT_BYTES = 4 * 1024 ** 2;

export function intakeRoutes(shows: ShowStore, intake: Intake): Router {
  const router = Router();

  /** Announces files; the answer says of each, in the same order, whether it must be sent. */
  router.post("/:showId/intake", jsonBody(FILES_LIMIT_BYTES), async (request, response) => {
    const { showId } = request.params;
    await shows.revision(showId);
    const { files } = announceSchema.parse(request.body);
    response.json((await intake.announce(showId, files)) satisfies IntakeFile[]);
  });

  /** What was announced and has not come in. */
  router.get("/:showId/intake", async (request, response) => {
    response.json(await intake.waiting(request.params.showId));
  });

  router.delete("/:showId/intake", async (request, response) => {
    await intake.forgetWaiting(request.params.showId);
    response.status(204).end();
  });

  /** The content of an announced file is the body of the request as it is, whatever its type. */
  router.put("/:showId/intake/:fileId", async (request, response) => {
    const { showId, fileId } = request.params;
    response.status(201).json(await intake.take(showId, fileId, () => bodyOf(request), whileAskerWaits(response)));
  });

  return router;
}
