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
};

const FILMS_FOLDER = "films-folder";
