import path from "node:path";
import { drawnPicture, parseDrawnPicture } from "@humming-tide/core/picture";
import { lastOf } from "@humming-tide/core/presence";
import { parseSoundName } from "@humming-tide/core/sound";
import { type Response, Router } from "express";
import { CLIP_FILES } from "../media/clip-intake.ts";
import { mediaError } from "../media/media-errors.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { PICTURE_FILES } from "../media/picture-files.ts";
import { SONG_FILES } from "../media/song-intake.ts";
import { SPOKEN_FILES } from "../media/spoken-sound.ts";
import { bodyOf, whileAskerWaits } from "./request-body.ts";
import { requestError } from "./request-errors.ts";

const FILES: Readonly<Record<string, string>> = { ...PICTURE_FILES, ...SONG_FILES, ...CLIP_FILES };
const OF_PICTURES = new Set<string>(Object.values(PICTURE_FILES));

const LONGEST_NAME = 255;

/**
 * A file's own name from a header, without folders; `otherwise` where there is none that can be
 * read.
 */
function fileNameIn(header: string | string[] | undefined, otherwise: string): string {
  try {
    const name = lastOf(decodeURIComponent(String(header ?? "")).split(/[/\\]/)).trim();
    return name.slice(0, LONGEST_NAME) || otherwise;
  } catch {
    return otherwise;
  }
}

const UNCHANGING = "private, max-age=3600";

function sendDerived(place: string, response: Response, cacheControl = UNCHANGING): Promise<void> {
  response.set("Cache-Control", cacheControl);
  return new Promise((resolve, reject) => {
    response.sendFile(
      path.basename(place),
      { root: path.dirname(place), dotfiles: "allow", cacheControl: false },
      (error) => {
        // Whoever goes away while a file is sent is no longer answered.
        if (!error || (error as { code?: string }).code === "ECONNABORTED") resolve();
        else reject(mediaError("media-unknown", { what: "This file" }));
      },
    );
  });
}

export function mediaRoutes(library: MediaLibrary): Router {
  const router = Router();

  /**
   * A graphic of a person's own: taken in as a picture, but on no slide of its own. Its name is
   * percent-encoded in a header.
   */
  router.post("/graphics", async (request, response) => {
    const name = fileNameIn(request.headers["x-file-name"], "graphic");
    const facts = await library.takeIn(bodyOf(request), name, { signal: whileAskerWaits(response) });
    if (facts.kind !== "picture") throw requestError("not-a-picture", { fileName: name });
    await library.ensureGraphic(facts.sha256);
    response.status(201).json(facts);
  });

  /**
   * Something spoken: taken in as a voice, without looking for beats. Its name is percent-encoded
   * in a header.
   */
  router.post("/voices", async (request, response) => {
    const name = fileNameIn(request.headers["x-file-name"], "voice");
    const facts = await library.takeIn(bodyOf(request), name, { wanted: "voice", signal: whileAskerWaits(response) });
    if (facts.kind === "picture" || (facts.kind === "clip" && facts.sound === null))
      throw requestError("no-sound", { fileName: name });
    response.status(201).json(facts);
  });

  /** What is heard of a sound, by content hash; of a spoken decode (core/sound) with its words. */
  router.get("/:name/speech", async (request, response) => {
    const { name } = request.params;
    response.set("Cache-Control", "private, no-cache").json(await library.speech(name));
  });

  /** The clip in a picture's file becomes a medium of its own. */
  router.post("/:name/moving-part", async (request, response) => {
    response.status(201).json(await library.movingPart(request.params.name, whileAskerWaits(response)));
  });

  /** What is proposed for a clip: its moments, trims and stretches. Long on first use. */
  router.get("/:name/proposal", async (request, response) => {
    response.set("Cache-Control", "private, no-cache").json(await library.clipProposal(request.params.name));
  });

  /**
   * `name` is a content hash, that of a decode (core/sound), or for what is seen the name of a
   * drawn picture (core/picture).
   */
  router.get("/:name/:file", async (request, response) => {
    const { name, file } = request.params;
    if (file === "graphic") {
      if (!/^[0-9a-f]{64}$/.test(name)) throw mediaError("media-unknown", { what: "This file" });
      const graphic = await library.ensureGraphic(name);
      await sendDerived(graphic, response);
      return;
    }
    const sound = parseSoundName(name);
    const spokenFile = Object.hasOwn(SPOKEN_FILES, file) ? SPOKEN_FILES[file as keyof typeof SPOKEN_FILES] : undefined;
    if (sound && sound.version !== "song" && spokenFile) {
      await library.ensureSound(name);
      await sendDerived(library.store.derivedPath(name, spokenFile), response);
      return;
    }
    const drawn = parseDrawnPicture(name);
    const fileName = Object.hasOwn(FILES, file) ? FILES[file] : undefined;
    if (!drawn || !fileName || (drawn.turn !== 0 && !OF_PICTURES.has(fileName))) {
      throw mediaError("media-unknown", { what: "This file" });
    }
    if (OF_PICTURES.has(fileName)) await library.ensureDrawn(name);
    else if (fileName === CLIP_FILES.proxy) await library.ensureCopy(name);
    else if (fileName === SONG_FILES.sound) await library.ensureMade(name);
    const place = library.store.derivedPath(drawnPicture(drawn.sha256, drawn.turn), fileName);
    const isHeard = fileName === SONG_FILES.analysis || fileName === SONG_FILES.peaks;
    if (isHeard) await library.ensureHeard(drawn.sha256);
    // Content never changes under its hash. What was heard in a song may, with the program, and
    // page and export must hear the same.
    await sendDerived(place, response, isHeard ? "private, no-cache" : UNCHANGING);
  });

  return router;
}
