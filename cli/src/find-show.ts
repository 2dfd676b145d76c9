import { HummingTideError } from "@humming-tide/core";
import type { Studio } from "@humming-tide/server";
import type { Terminal } from "./terminal.ts";

type StoredShow = Awaited<ReturnType<Studio["shows"]["get"]>>;

/** The show of an id or a name; null where there is none. Throws `show-ambiguous` where several have the name. */
async function findShow(studio: Studio, name: string): Promise<StoredShow | null> {
  const shows = (await studio.shelf.list()).filter((show) => show.place !== "deleted");
  const byId = shows.find((show) => show.id === name);
  if (byId) return studio.shows.get(byId.id);
  const named = shows.filter((show) => show.title === name);
  if (named.length > 1) {
    throw new HummingTideError(
      "show-ambiguous",
      `${named.length} shows are named "${name}". Use the id of one: ${named.map(({ id }) => id).join(", ")}.`,
    );
  }
  return named[0] ? studio.shows.get(named[0].id) : null;
}

export async function findOrBeginShow(studio: Studio, name: string, terminal: Terminal): Promise<StoredShow> {
  const found = await findShow(studio, name);
  if (found) return found;
  const title = name.trim().slice(0, 200);
  if (title === "") throw new HummingTideError("show-name", "A show needs a name.");
  terminal.print(`Began the show "${title}"`);
  return studio.shows.create(title);
}

/** Throws `show-unknown`. */
export async function requireShow(studio: Studio, name: string): Promise<StoredShow> {
  const found = await findShow(studio, name);
  if (!found) throw new HummingTideError("show-unknown", `There is no show named "${name}" in this data folder.`);
  return found;
}
