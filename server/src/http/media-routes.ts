import path from "node:path";
import { HummingTideError } from "@humming-tide/core";
import { drawnPicture, parseDrawnPicture } from "@humming-tide/core/picture";
import { Router } from "express";
import { CLIP_FILES } from "../media/clip-intake.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { PICTURE_FILES } from "../media/picture-files.ts";
import { SONG_FILES } from "../media/song-intake.ts";

const FILES: Readonly<Record<string, string>> = { ...PICTURE_FILES, ...SONG_FILES, ...CLIP_FILES };
const OF_PICTURES = new Set<string>(Object.values(PICTURE_FILES));

export function mediaRoutes(library: MediaLibrary): Router {
  const router = Router();

  /** `name` is a content hash, or for what is seen the name of a drawn picture (core/picture). */
  router.get("/:name/:file", async (request, response, next) => {
    const { name, file } = request.params;
    const drawn = parseDrawnPicture(name);
    const fileName = FILES[file];
    if (!drawn || !fileName || (drawn.turn !== 0 && !OF_PICTURES.has(fileName))) {
      throw new HummingTideError("media-unknown", "There is no such file.");
    }
    if (drawn.turn !== 0) await library.ensureDrawn(name);
    const place = library.store.derivedPath(drawnPicture(drawn.sha256, drawn.turn), fileName);
    const isHeard = fileName === SONG_FILES.analysis || fileName === SONG_FILES.peaks;
    if (isHeard) await library.ensureHeard(drawn.sha256);
    // Content never changes under its hash. What was heard in a song may, with the program, and page and export must hear the same.
    response.set("Cache-Control", isHeard ? "private, no-cache" : "private, max-age=3600");
    response.sendFile(
      path.basename(place),
      { root: path.dirname(place), dotfiles: "allow", cacheControl: false },
      (error) => {
        // Whoever goes away while a file is sent is not answered any more.
        if (!error || (error as { code?: string }).code === "ECONNABORTED") return;
        next(new HummingTideError("media-unknown", "There is no such file in the data folder."));
      },
    );
  });

  return router;
}
