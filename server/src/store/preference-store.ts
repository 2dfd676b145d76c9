import { PreferenceRow } from "./database.ts";

/** What a person chose for this machine. */
export const preferenceStore = {
  /** The folder that films are put into when they are done; null where none was chosen. */
  async filmsFolder(): Promise<string | null> {
    return (await PreferenceRow.findByPk(FILMS_FOLDER))?.value ?? null;
  },

  async setFilmsFolder(folder: string | null): Promise<void> {
    if (folder === null) await PreferenceRow.destroy({ where: { name: FILMS_FOLDER } });
    else await PreferenceRow.upsert({ name: FILMS_FOLDER, value: folder });
  },

  /** What sessions of client pages are signed with; `make` gives one where there is none yet. */
  async clientKey(make: () => string): Promise<string> {
    await PreferenceRow.findOrCreate({ where: { name: CLIENT_KEY }, defaults: { name: CLIENT_KEY, value: make() } });
    return (await PreferenceRow.findByPk(CLIENT_KEY))!.value;
  },
};

const FILMS_FOLDER = "films-folder";
const CLIENT_KEY = "client-key";
