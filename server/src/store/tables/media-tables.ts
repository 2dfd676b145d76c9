import type { CreationOptional, InferAttributes, InferCreationAttributes, Model, Sequelize } from "sequelize";
import { date, double, integer, type JobFields, jobColumns, optionalText, TABLE, text, truth } from "./columns.ts";

export interface MediaRow extends Model<InferAttributes<MediaRow>, InferCreationAttributes<MediaRow>> {
  sha256: string;
  /** MediaFacts as JSON. */
  facts: string;
  createdAt: CreationOptional<Date>;
}

/** A file that was announced for a show: what came of it. */
export interface IntakeRow extends Model<InferAttributes<IntakeRow>, InferCreationAttributes<IntakeRow>> {
  id: string;
  showId: string;
  path: string;
  bytes: number;
  modifiedMs: number;
  state: string;
  sha256: string | null;
  message: string | null;
  createdAt: CreationOptional<Date>;
}

/** The playable copy of a clip. */
export interface ProxyRow extends JobFields, Model<InferAttributes<ProxyRow>, InferCreationAttributes<ProxyRow>> {}

/** What a person noted about a song of the library. */
export interface SongNotesRow extends Model<InferAttributes<SongNotesRow>, InferCreationAttributes<SongNotesRow>> {
  sha256: string;
  title: string;
  /** A JSON list of words. */
  tags: string;
  isFavourite: boolean;
  createdAt: CreationOptional<Date>;
}

/**
 * Media: their facts, the files that were announced, playable copies, and what was noted about
 * songs.
 */
export const mediaTables = (database: Sequelize) => ({
  media: database.define<MediaRow>(
    "Media",
    { sha256: { ...text(), primaryKey: true }, facts: text(), createdAt: date() },
    { ...TABLE, tableName: "media", updatedAt: false },
  ),
  intakeFiles: database.define<IntakeRow>(
    "Intake",
    {
      id: { ...text(), primaryKey: true },
      showId: text(),
      path: text(),
      bytes: integer(),
      modifiedMs: double(),
      state: text(),
      sha256: optionalText(),
      message: optionalText(),
      createdAt: date(),
    },
    { ...TABLE, tableName: "intake_files", updatedAt: false },
  ),
  proxies: database.define<ProxyRow>("Proxy", jobColumns(), { ...TABLE, tableName: "proxies", updatedAt: false }),
  songNotes: database.define<SongNotesRow>(
    "SongNotes",
    {
      sha256: { ...text(), primaryKey: true },
      title: text(),
      tags: text(),
      isFavourite: truth(),
      createdAt: date(),
    },
    { ...TABLE, tableName: "song_notes", updatedAt: false },
  ),
});
