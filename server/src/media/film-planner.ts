import type { FilmPlan } from "@humming-tide/core/film";
import type { FilmOutput, ShowDocument } from "@humming-tide/core/show";
import type { Background } from "../background/background.ts";
import type { PlanTask } from "../background/tasks.ts";
import type { FilmFile, FilmFileFormat } from "../hand-over/film-files.ts";
import type { MediaLibrary } from "./media-library.ts";

/**
 * Plans films off the server's thread. Everything throws what `planFilm` throws, `song-missing`,
 * and `time-limit`.
 */
export class FilmPlanner {
  readonly #library: MediaLibrary;
  readonly #background: Background;

  constructor(library: MediaLibrary, background: Background) {
    this.#library = library;
    this.#background = background;
  }

  /** The film of an output, or of the show itself. */
  async plan(document: ShowDocument, output: FilmOutput | null): Promise<FilmPlan> {
    return this.#background.run("plan", await this.#task(document, output));
  }

  /**
   * How long the film is; null where there is none yet, undefined where files would have to be
   * measured for it, which takes long.
   */
  async secondsIfKnown(document: ShowDocument): Promise<number | null | undefined> {
    const facts = await this.#library.knownFacts(document);
    return facts && this.#background.run("filmSeconds", { document, output: null, facts });
  }

  /** A file for other tools. `mediaFolder` is where the media lie, seen from it: "media/". */
  async filmFile(document: ShowDocument, format: FilmFileFormat, mediaFolder = ""): Promise<FilmFile> {
    const task = await this.#task(document, null);
    return this.#background.run("filmFile", { task, format, folder: this.#library.store.folder, mediaFolder });
  }

  async #task(document: ShowDocument, output: FilmOutput | null): Promise<PlanTask> {
    return { document, output, facts: await this.#library.storedFacts(document) };
  }
}
