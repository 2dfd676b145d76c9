import { type LibrarySong, type LibrarySongNotes, mediaFactsSchema } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { literal, QueryTypes } from "sequelize";
import { asStorageError } from "../storage-errors.ts";
import { MediaRow, SongNotesRow } from "./database.ts";

/** Every song that was ever brought in, across shows, with what a person noted about it. */
export const songLibraryStore = {
  /** Favourites first, then by title. */
  async list(): Promise<LibrarySong[]> {
    const songs = await MediaRow.findAll({ where: literal("json_extract(facts, '$.kind') = 'song'") });
    const notes = new Map((await SongNotesRow.findAll()).map((row) => [row.sha256, row]));
    const shows = await showCounts();
    const listed = songs.map((row) => toLibrarySong(row, notes.get(row.sha256), shows.get(row.sha256) ?? 0));
    return listed.sort((a, b) => Number(b.isFavourite) - Number(a.isFavourite) || a.title.localeCompare(b.title, "en"));
  },

  /** Throws `song-missing`. */
  async note(sha256: string, { title, tags, isFavourite }: LibrarySongNotes): Promise<LibrarySong> {
    const song = await MediaRow.findByPk(sha256);
    if (!song || mediaFactsSchema.parse(JSON.parse(song.facts)).kind !== "song")
      throw new HummingTideError("song-missing", "This song is not in the library any more.");
    try {
      await SongNotesRow.upsert({ sha256, title, tags: JSON.stringify([...new Set(tags)]), isFavourite });
    } catch (error) {
      throw asStorageError(error, "what you noted about the song could not be saved");
    }
    const row = await SongNotesRow.findByPk(sha256);
    return toLibrarySong(song, row ?? undefined, (await showCounts()).get(sha256) ?? 0);
  },
};

async function showCounts(): Promise<Map<string, number>> {
  const rows = await MediaRow.sequelize!.query<{ sha256: string; shows: number }>(
    // From summaries: a document may be large, or damaged.
    `SELECT json_extract(song.value, '$.sha256') AS sha256, COUNT(DISTINCT shows.id) AS shows
      FROM shows, json_each(shows.summary, '$.songs') AS song WHERE shows.deleted_at IS NULL GROUP BY 1`,
    { type: QueryTypes.SELECT },
  );
  return new Map(rows.map(({ sha256, shows }) => [sha256, shows]));
}

function toLibrarySong(row: MediaRow, notes: SongNotesRow | undefined, showCount: number): LibrarySong {
  const facts = mediaFactsSchema.parse(JSON.parse(row.facts));
  if (facts.kind !== "song") throw new Error(`Media ${row.sha256} is no song`);
  return {
    sha256: facts.sha256,
    fileName: facts.fileName,
    title: notes?.title ?? facts.fileName.replace(/\.\w{1,5}$/, ""),
    durationSeconds: facts.durationSeconds,
    steady: facts.steady,
    tempoBpm: facts.tempoBpm,
    tags: notes ? (JSON.parse(notes.tags) as string[]) : [],
    isFavourite: notes?.isFavourite ?? false,
    showCount,
  };
}
