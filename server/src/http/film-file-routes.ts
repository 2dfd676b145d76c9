import { Router } from "express";
import { isFilmFileFormat } from "../hand-over/film-files.ts";
import { timelineFolder } from "../hand-over/timeline-folder.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import type { ShowStore } from "../store/show-store.ts";
import { requestError } from "./request-errors.ts";
import { sendZip } from "./send-zip.ts";

interface FilmFileServices {
  readonly shows: ShowStore;
  readonly planner: FilmPlanner;
  readonly library: MediaLibrary;
}

/** Files for other tools, made when they are asked for: nothing of them is stored. */
export function filmFileRoutes({ shows, planner, library }: FilmFileServices): Router {
  const router = Router();
  router.get("/shows/:id/film-folder", async (request, response) => {
    const { document } = await shows.get(request.params.id);
    const { name, content } = await timelineFolder(document, planner, library);
    await sendZip(response, name, content);
  });
  router.get("/shows/:id/film-files/:format", async (request, response) => {
    const { id, format } = request.params;
    if (!isFilmFileFormat(format)) throw requestError("not-found");
    const { document } = await shows.get(id);
    const { name, mime, bytes } = await planner.filmFile(document, format);
    response.set("Content-Type", mime).attachment(name).set("Content-Type", mime).send(Buffer.from(bytes));
  });
  return router;
}
