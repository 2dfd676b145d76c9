import path from "node:path";
import type { Readable } from "node:stream";
import type { MediaFacts } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import busboy from "busboy";
import { type Request, Router } from "express";
import { isSha256 } from "../media/content-store.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { PICTURE_FILES } from "../media/picture-intake.ts";
import { SONG_FILES } from "../media/song-intake.ts";

const FILES: Readonly<Record<string, string>> = {
  thumbnail: PICTURE_FILES.thumbnail,
  working: PICTURE_FILES.working,
  fill: PICTURE_FILES.fill,
  sound: SONG_FILES.sound,
  analysis: SONG_FILES.analysis,
  peaks: SONG_FILES.peaks,
};

export function mediaRoutes(library: MediaLibrary): Router {
  const router = Router();

  /** One file a request, as multipart form data in the field "file", so that every file has its own progress and result. */
  router.post("/", async (request, response) => {
    response.status(201).json(await receiveFile(request, (stream, name) => library.takeIn(stream, name)));
  });

  router.get("/:sha256/:file", (request, response, next) => {
    const { sha256, file } = request.params;
    const name = FILES[file];
    if (!isSha256(sha256) || !name) throw new HummingTideError("media-unknown", "There is no such file.");
    const place = library.store.derivedPath(sha256, name);
    // Content never changes under its hash; what is derived from it may improve with the program.
    response.set("Cache-Control", "private, max-age=3600");
    response.sendFile(
      path.basename(place),
      { root: path.dirname(place), dotfiles: "allow", cacheControl: false },
      (error) => {
        if (!error) return;
        next(
          (error as { code?: string }).code === "ECONNABORTED"
            ? error
            : new HummingTideError("media-unknown", "There is no such file in the data folder."),
        );
      },
    );
  });

  return router;
}

function receiveFile(
  request: Request,
  take: (stream: Readable, name: string) => Promise<MediaFacts>,
): Promise<MediaFacts> {
  return new Promise((resolve, reject) => {
    const fail = (error: Error): void => {
      // Whatever is left of the body is read away, so that the answer reaches the sender.
      request.unpipe();
      request.resume();
      reject(error);
    };
    let parser: busboy.Busboy;
    try {
      parser = busboy({ headers: request.headers, defParamCharset: "utf8", limits: { files: 1, fields: 0 } });
    } catch (cause) {
      fail(
        new HummingTideError("request-invalid", 'A file is sent as multipart form data in the field "file".', {
          cause,
        }),
      );
      return;
    }
    let taken: Promise<MediaFacts> | null = null;
    parser.on("file", (_field, stream, info) => {
      const name = path.basename((info.filename ?? "").replaceAll("\\", "/")).slice(0, 1024) || "unnamed";
      taken = take(stream, name);
      taken.catch(fail);
    });
    parser.on("close", () => {
      if (taken) taken.then(resolve, fail);
      else fail(new HummingTideError("request-invalid", "The request holds no file."));
    });
    parser.on("error", fail);
    request.on("aborted", () => parser.destroy(new Error("The upload was broken off.")));
    request.pipe(parser);
  });
}
