import { randomUUID } from "node:crypto";
import { rm } from "node:fs/promises";
import path from "node:path";
import { librarySongNotesSchema, markedWavSchema } from "@humming-tide/contract";
import { Router } from "express";
import { writeMarkedWav } from "../media/marked-wav.ts";
import { mediaError } from "../media/media-errors.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { SONG_FILES } from "../media/song-intake.ts";
import { asStorageError } from "../storage-errors.ts";
import type { SongLibraryStore } from "../store/song-library-store.ts";
import { jsonBody } from "./json-body.ts";

/** As many markers as a document holds, with long names. */
const MARKERS_LIMIT_BYTES = 2 * 1024 ** 2;

export function songRoutes(songs: SongLibraryStore, library: MediaLibrary): Router {
  const router = Router();

  /** Every song that was ever brought in. */
  router.get("/", async (_request, response) => {
    response.json(await songs.list());
  });

  router.put("/:sha256/notes", jsonBody(), async (request, response) => {
    response.json(await songs.note(request.params.sha256, librarySongNotesSchema.parse(request.body)));
  });

  /** The song's decode as a WAV that holds the markers of the request as cue points. */
  router.post("/:sha256/marked-wav", jsonBody(MARKERS_LIMIT_BYTES), async (request, response) => {
    const { markers } = markedWavSchema.parse(request.body);
    const { sha256 } = request.params;
    const sound = library.store.derivedPath(/^[0-9a-f]{64}$/.test(sha256) ? sha256 : "none", SONG_FILES.sound);
    if (!(await library.store.has(sound))) throw mediaError("media-unknown", { what: "This song" });
    const wav = library.store.unfinishedPath(`${randomUUID()}.wav`);
    try {
      await writeMarkedWav(sound, markers, wav).catch((error: unknown) => {
        throw asStorageError(error, "the WAV could not be written");
      });
      await new Promise<void>((resolve, reject) => {
        response
          .type("audio/wav")
          .sendFile(path.basename(wav), { root: path.dirname(wav), dotfiles: "allow" }, (error) => {
            // Whoever goes away while a file is sent is no longer answered.
            if (!error || (error as { code?: string }).code === "ECONNABORTED") resolve();
            else reject(error);
          });
      });
    } finally {
      await rm(wav, { force: true });
    }
  });

  return router;
}
