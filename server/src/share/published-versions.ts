import { access } from "node:fs/promises";
import { type ExportJob, VERSION_STATES } from "@humming-tide/contract";
import type { FilmPlan } from "@humming-tide/core/film";
import { present } from "@humming-tide/core/presence";
import { type FilmOutput, offeredOutput, type ShowDocument } from "@humming-tide/core/show";
import pLimit from "p-limit";
import { filmKeyOf } from "../documents/checked-document.ts";
import type { ExportQueue } from "../jobs/export-queue.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import type { ClientPageStore, StoredVersion } from "../store/client-page-store.ts";
import type { ExportStore } from "../store/export-store.ts";
import type { ShowStore } from "../store/show-store.ts";
import { clientPageError } from "./client-page-errors.ts";
import { offeredFilms } from "./offered-films.ts";

/**
 * Films that clients look at, of which document and plan are kept: they say which slide is seen
 * when.
 */
const KEPT_FILMS = 8;

export interface LaidFilm {
  readonly document: ShowDocument;
  readonly plan: FilmPlan;
}

/** A version with the films that were exported for it. */
export interface PublishedVersion extends StoredVersion {
  readonly page: ExportJob;
  /** Null where nothing is downloaded. */
  readonly download: ExportJob | null;
}

export interface VersionSources {
  readonly pages: ClientPageStore;
  readonly exports: ExportStore;
  readonly shows: ShowStore;
  readonly queue: ExportQueue;
  readonly planner: FilmPlanner;
}

/**
 * The films that clients see: made by the export queue from the show as it was when a version was
 * published.
 */
export class PublishedVersions {
  readonly #pages: ClientPageStore;
  readonly #exports: ExportStore;
  readonly #shows: ShowStore;
  readonly #queue: ExportQueue;
  readonly #planner: FilmPlanner;
  readonly #laid = new Map<string, Promise<LaidFilm>>();
  /** Two at once would take the same number. */
  readonly #publishing = pLimit(1);

  constructor({ pages, exports, shows, queue, planner }: VersionSources) {
    this.#pages = pages;
    this.#exports = exports;
    this.#shows = shows;
    this.#queue = queue;
    this.#planner = planner;
  }

  /**
   * Publishes the show as it is: what the client sees follows when its films are there. Films that
   * were exported of the very same show are used again. Returns the version's number. Throws
   * `no-video-output`, and what the export queue throws.
   */
  async publish(showId: string, note: string): Promise<number> {
    return this.#publishing(async () => {
      const { document } = await this.#shows.get(showId);
      const offer = document.clientOffer;
      const output = offeredOutput(document.outputs, offer);
      if (!output) throw clientPageError("no-video-output");
      const { page, download } = offeredFilms(output, offer);
      const pageExportId = await this.#filmFor(showId, document, page);
      const downloadExportId = download && (await this.#filmFor(showId, document, download));
      return this.#pages.addVersion(showId, { note, offer, pageExportId, downloadExportId });
    });
  }

  async #filmFor(showId: string, document: ShowDocument, output: FilmOutput): Promise<string> {
    const filmKey = filmKeyOf(document);
    for (const { job, filmKey: exported } of await this.#exports.filmsOfShow(showId)) {
      if (VERSION_STATES[job.state] === "failed" || !isSameOutput(job.output, output)) continue;
      if (exported !== filmKey || (job.state === "done" && !(await this.#hasFilm(job)))) continue;
      return job.id;
    }
    const [job] = await this.#queue.add(showId, document, [output]);
    return present(job).id;
  }

  async #hasFilm(job: ExportJob): Promise<boolean> {
    return access(this.filmPath(job)).then(
      () => true,
      () => false,
    );
  }

  filmPath(job: ExportJob): string {
    return this.#queue.filmPath(job);
  }

  /** The newest first. */
  async list(showId: string): Promise<PublishedVersion[]> {
    const versions = await this.#pages.versions(showId);
    return Promise.all(
      versions.map(async (version) => ({
        ...version,
        page: await this.#queue.get(version.pageExportId),
        download: version.downloadExportId === null ? null : await this.#queue.get(version.downloadExportId),
      })),
    );
  }

  /** Those whose films are there, the newest first. */
  async live(showId: string): Promise<PublishedVersion[]> {
    return (await this.list(showId)).filter(isLive);
  }

  /** The film of a version as it was laid. */
  laid({ id }: Pick<ExportJob, "id">): Promise<LaidFilm> {
    let laid = this.#laid.get(id);
    if (!laid) {
      laid = this.#layAnew(id);
      this.#laid.set(id, laid);
      laid.catch(() => this.#laid.delete(id));
      for (const oldest of this.#laid.keys()) {
        if (this.#laid.size <= KEPT_FILMS) break;
        this.#laid.delete(oldest);
      }
    }
    return laid;
  }

  async #layAnew(exportId: string): Promise<LaidFilm> {
    const [document, { output }] = await Promise.all([this.#queue.documentOf(exportId), this.#exports.get(exportId)]);
    return { document, plan: await this.#planner.plan(document, output) };
  }
}

const isLive = ({ page, download }: PublishedVersion): boolean =>
  page.state === "done" && (download === null || download.state === "done");

/** Whether two outputs make the same file: their names may differ. */
function isSameOutput(a: FilmOutput, b: FilmOutput): boolean {
  const film = ({ id: _, name: __, ...rest }: FilmOutput): string => JSON.stringify(rest);
  return film(a) === film(b);
}
