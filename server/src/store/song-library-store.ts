import { type LibrarySong, type LibrarySongNotes, mediaFactsSchema } from "@humming-tide/contract";
import { literal, QueryTypes } from "sequelize";
import { asStorageError } from "../storage-errors.ts";
import type { StudioDatabase } from "./database.ts";
import { storeError } from "./store-errors.ts";
import type { MediaRow, SongNotesRow } from "./tables/media-tables.ts";

/** Every song that was ever brought in, across shows, with what a person noted about it. */
export class SongLibraryStore {
  readonly #database: StudioDatabase;

  constructor(database: StudioDatabase) {
    this.#database = database;
  }

  /** Favourites first, then by title. */
  async list(): Promise<LibrarySong[]> {
    const songs = await this.#database.media.findAll({ where: literal("json_extract(facts, '$.kind') = 'song'") });
    const notes = new Map((await this.#database.songNotes.findAll()).map((row) => [row.sha256, row]));
    const shows = await this.#showCounts();
    const listed = songs.map((row) => toLibrarySong(row, notes.get(row.sha256), shows.get(row.sha256) ?? 0));
    return listed.sort((a, b) => Number(b.isFavourite) - Number(a.isFavourite) || a.title.localeCompare(b.title, "en"));
  }

  /** Throws `song-missing`. */
  async note(sha256: string, { title, tags, isFavourite }: LibrarySongNotes): Promise<LibrarySong> {
    const song = await this.#database.media.findByPk(sha256);
    if (!song || mediaFactsSchema.parse(JSON.parse(song.facts)).kind !== "song") throw storeError("song-unknown");
    try {
      await this.#database.songNotes.upsert({ sha256, title, tags: JSON.stringify([...new Set(tags)]), isFavourite });
    } catch (error) {
      throw asStorageError(error, "what you noted about the song could not be saved");
    }
    const row = await this.#database.songNotes.findByPk(sha256);
    return toLibrarySong(song, row ?? undefined, (await this.#showCounts()).get(sha256) ?? 0);
  }

  async #showCounts(): Promise<Map<string, number>> {
    const rows = await this.#database.sequelize.query<{ sha256: string; shows: number }>(
      // From summaries: a document may be large, or damaged.
      `SELECT json_extract(song.value, '$.sha256') AS sha256, COUNT(DISTINCT shows.id) AS shows
      FROM shows, json_each(shows.summary, '$.songs') AS song WHERE shows.deleted_at IS NULL GROUP BY 1`,
      { type: QueryTypes.SELECT },
    );
    return new Map(rows.map(({ sha256, shows }) => [sha256, shows]));
  }
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
