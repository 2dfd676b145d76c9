import type { Studio } from "@humming-tide/server";
import { commandError } from "./command-errors.ts";
import type { Terminal } from "./terminal.ts";

type StoredShow = Awaited<ReturnType<Studio["shows"]["get"]>>;

/**
 * The show of an id or a name; null where there is none. Throws `show-ambiguous` where several have
 * the name.
 */
async function findShow(studio: Studio, name: string): Promise<StoredShow | null> {
  const shows = (await studio.shelf.list()).filter((show) => show.place !== "deleted");
  const byId = shows.find((show) => show.id === name);
  if (byId) return studio.shows.get(byId.id);
  const named = shows.filter((show) => show.title === name);
  if (named.length > 1) {
    throw commandError("show-ambiguous", { name, ids: named.map(({ id }) => id) });
  }
  return named[0] ? studio.shows.get(named[0].id) : null;
}

export async function findOrBeginShow(studio: Studio, name: string, terminal: Terminal): Promise<StoredShow> {
  const found = await findShow(studio, name);
  if (found) return found;
  const title = name.trim().slice(0, 200);
  if (title === "") throw commandError("show-name");
  terminal.print(`Began the show "${title}"`);
  return studio.shows.create(title);
}

/** Throws `show-unknown`. */
export async function requireShow(studio: Studio, name: string): Promise<StoredShow> {
  const found = await findShow(studio, name);
  if (!found) throw commandError("no-such-show", { name });
  return found;
}
