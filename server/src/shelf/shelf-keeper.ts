import type { ShowSummary } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import type { FilmPlanner } from "../media/film-planner.ts";
import type { ShowListings } from "../store/show-listings.ts";
import type { ShowStore } from "../store/show-store.ts";

interface ShelfSources {
  readonly listings: ShowListings;
  readonly shows: ShowStore;
  readonly planner: FilmPlanner;
  /** Hears when lengths of films were measured. */
  readonly onMeasured: () => void;
}

/** So many films are measured before whoever looks at the shelf hears of them. */
const TOLD_AFTER = 12;

/**
 * The shelf: its list, and the lengths of its films, which are measured in the background while
 * somebody looks.
 */
export class ShelfKeeper {
  readonly #sources: ShelfSources;
  #measuring: Promise<void> | null = null;
  #isClosed = false;

  constructor(sources: ShelfSources) {
    this.#sources = sources;
  }

  list(): Promise<ShowSummary[]> {
    return this.#sources.listings.list();
  }

  /**
   * Begins to measure films that have changed since they were measured, unless it is being done
   * already.
   */
  measureFilms(): void {
    this.#measuring ??= this.#measureAll()
      .catch((error: unknown) => {
        if (!this.#isClosed) console.error("Lengths of films could not be measured:", error);
      })
      .finally(() => {
        this.#measuring = null;
      });
  }

  /**
   * A show whose document cannot be read is listed as such from now on. Other errors are no news of
   * the document.
   */
  async noteUnreadable(id: string, error: HummingTideError): Promise<void> {
    if (error.code === "show-damaged" || error.code === "show-newer")
      await this.#sources.listings.unreadable(id, error);
  }

  /** Waits until nothing is measured any more. */
  async close(): Promise<void> {
    this.#isClosed = true;
    await this.#measuring;
  }

  async #measureAll(): Promise<void> {
    const { listings, onMeasured } = this.#sources;
    let untold = 0;
    for (const { id, revision } of await listings.unmeasured()) {
      if (this.#isClosed) return;
      const seconds = await this.#secondsOf(id, revision);
      if (seconds === undefined) continue;
      await listings.measured(id, revision, seconds);
      if (seconds !== null) untold++;
      if (untold >= TOLD_AFTER) {
        onMeasured();
        untold = 0;
      }
    }
    if (untold > 0) onMeasured();
  }

  /**
   * Null: there is no film; undefined: the show has changed, or its songs have to be listened to
   * first: it comes again with the next look.
   */
  async #secondsOf(id: string, revision: number): Promise<number | null | undefined> {
    const { shows, planner } = this.#sources;
    try {
      const show = await shows.get(id);
      return show.revision === revision ? await planner.secondsIfKnown(show.document) : undefined;
    } catch (error) {
      if (!(error instanceof HummingTideError)) throw error;
      await this.noteUnreadable(id, error);
      return null;
    }
  }
}
