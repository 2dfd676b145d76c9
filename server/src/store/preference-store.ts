import { present } from "@humming-tide/core/presence";
import type { StudioDatabase } from "./database.ts";

/** A password is never kept, only what the site gave for it. */
export interface VideoSession {
  readonly token: string;
  readonly account: string;
}

/** What a person chose for this machine. */
export class PreferenceStore {
  readonly #database: StudioDatabase;

  constructor(database: StudioDatabase) {
    this.#database = database;
  }

  /** The folder that films are put into when they are done; null where none was chosen. */
  async filmsFolder(): Promise<string | null> {
    return (await this.#database.preferences.findByPk(FILMS_FOLDER))?.value ?? null;
  }

  async setFilmsFolder(folder: string | null): Promise<void> {
    if (folder === null) await this.#database.preferences.destroy({ where: { name: FILMS_FOLDER } });
    else await this.#database.preferences.upsert({ name: FILMS_FOLDER, value: folder });
  }

  /** The session at the video site; null: nobody is signed in. */
  async videoSession(): Promise<VideoSession | null> {
    const row = await this.#database.preferences.findByPk(VIDEO_SESSION);
    return row ? (JSON.parse(row.value) as VideoSession) : null;
  }

  async setVideoSession(session: VideoSession | null): Promise<void> {
    if (session === null) await this.#database.preferences.destroy({ where: { name: VIDEO_SESSION } });
    else await this.#database.preferences.upsert({ name: VIDEO_SESSION, value: JSON.stringify(session) });
  }

  /** How the studio shows itself to clients, as text; null: nothing was said. */
  async studioIdentity(): Promise<string | null> {
    return (await this.#database.preferences.findByPk(STUDIO_IDENTITY))?.value ?? null;
  }

  async setStudioIdentity(value: string): Promise<void> {
    await this.#database.preferences.upsert({ name: STUDIO_IDENTITY, value });
  }

  /** What sessions of client pages are signed with; `make` gives one where there is none yet. */
  async clientKey(make: () => string): Promise<string> {
    await this.#database.preferences.findOrCreate({
      where: { name: CLIENT_KEY },
      defaults: { name: CLIENT_KEY, value: make() },
    });
    return present(await this.#database.preferences.findByPk(CLIENT_KEY)).value;
  }
}

const FILMS_FOLDER = "films-folder";
const VIDEO_SESSION = "video-session";
const CLIENT_KEY = "client-key";
const STUDIO_IDENTITY = "studio-identity";
