import type { CreationOptional, InferAttributes, InferCreationAttributes, Model, Sequelize } from "sequelize";
import {
  blob,
  date,
  integer,
  optionalDate,
  optionalDouble,
  optionalInteger,
  optionalText,
  TABLE,
  text,
} from "./columns.ts";

export interface ShowRow extends Model<InferAttributes<ShowRow>, InferCreationAttributes<ShowRow>> {
  id: string;
  revision: number;
  document: string;
  /** StoredSummary as JSON; null: not summed up yet. */
  summary: string | null;
  /** Of CheckedDocument; null where the document cannot be read. */
  filmKey: string | null;
  /** How long the film of `filmRevision` is; null: it has none. */
  filmSeconds: number | null;
  filmRevision: number | null;
  createdAt: CreationOptional<Date>;
  updatedAt: CreationOptional<Date>;
  archivedAt: Date | null;
  deletedAt: Date | null;
}

export interface RevisionRow extends Model<InferAttributes<RevisionRow>, InferCreationAttributes<RevisionRow>> {
  showId: string;
  revision: number;
  /** The document's JSON, deflated: every revision is kept, so they are packed. */
  document: Buffer;
  createdAt: CreationOptional<Date>;
}

/** A revision with a name. */
export interface VariantRow extends Model<InferAttributes<VariantRow>, InferCreationAttributes<VariantRow>> {
  id: string;
  showId: string;
  name: string;
  revision: number;
  createdAt: CreationOptional<Date>;
}

export interface TemplateRow extends Model<InferAttributes<TemplateRow>, InferCreationAttributes<TemplateRow>> {
  id: string;
  name: string;
  template: string;
  createdAt: CreationOptional<Date>;
}

/** Shows with their revisions and variants, and templates. */
export const showTables = (database: Sequelize) => ({
  shows: database.define<ShowRow>(
    "Show",
    {
      id: { ...text(), primaryKey: true },
      revision: integer(),
      document: text(),
      summary: optionalText(),
      filmKey: optionalText(),
      filmSeconds: optionalDouble(),
      filmRevision: optionalInteger(),
      createdAt: date(),
      updatedAt: date(),
      archivedAt: optionalDate(),
      deletedAt: optionalDate(),
    },
    { ...TABLE, tableName: "shows" },
  ),
  revisions: database.define<RevisionRow>(
    "Revision",
    {
      showId: { ...text(), primaryKey: true },
      revision: { ...integer(), primaryKey: true },
      document: blob(),
      createdAt: date(),
    },
    { ...TABLE, tableName: "show_revisions", updatedAt: false },
  ),
  variants: database.define<VariantRow>(
    "Variant",
    { id: { ...text(), primaryKey: true }, showId: text(), name: text(), revision: integer(), createdAt: date() },
    { ...TABLE, tableName: "show_variants", updatedAt: false },
  ),
  templates: database.define<TemplateRow>(
    "Template",
    { id: { ...text(), primaryKey: true }, name: text(), template: text(), createdAt: date() },
    { ...TABLE, tableName: "templates", updatedAt: false },
  ),
});
