import type { FilmFontFile } from "@humming-tide/contract";
import { Router } from "express";
import { filmFontFiles } from "../fonts/film-fonts.ts";
import { requestError } from "./request-errors.ts";

/**
 * The fonts that words in films are written in: the page lays words out with the very files that
 * the export does.
 */
export function fontRoutes(): Router {
  const router = Router();

  router.get("/", (_request, response) => {
    const files = filmFontFiles().map(({ path: _path, ...file }): FilmFontFile => file);
    response.json(files);
  });

  router.get("/:name", (request, response) => {
    const file = filmFontFiles().find(({ name }) => name === request.params.name);
    if (!file) throw requestError("not-found");
    response.set("Cache-Control", "private, max-age=86400");
    response.type("font/woff").sendFile(file.path, { cacheControl: false, dotfiles: "allow" });
  });

  return router;
}
