import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  Sequelize,
} from "sequelize";
import { SequelizeStorage, Umzug } from "umzug";
import { migrations } from "./migrations.ts";

export class ShowRow extends Model<InferAttributes<ShowRow>, InferCreationAttributes<ShowRow>> {
  declare id: string;
  declare revision: number;
  declare document: string;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}

export class RevisionRow extends Model<InferAttributes<RevisionRow>, InferCreationAttributes<RevisionRow>> {
  declare showId: string;
  declare revision: number;
  declare document: string;
  declare createdAt: CreationOptional<Date>;
}

export class MediaRow extends Model<InferAttributes<MediaRow>, InferCreationAttributes<MediaRow>> {
  declare sha256: string;
  /** MediaFacts as JSON. */
  declare facts: string;
  declare createdAt: CreationOptional<Date>;
}

export class ExportRow extends Model<InferAttributes<ExportRow>, InferCreationAttributes<ExportRow>> {
  declare id: string;
  declare showId: string;
  declare state: string;
  declare document: string;
  declare progress: number;
  declare step: string;
  declare error: string | null;
  declare restarts: number;
  declare bytes: number | null;
  declare measurement: string | null;
  declare createdAt: CreationOptional<Date>;
}

/** Opens the database, brings it to the newest layout and switches to write-ahead logging. The caller closes it. */
export async function openDatabase(path: string): Promise<Sequelize> {
  const database = new Sequelize({ dialect: "sqlite", storage: path, logging: false });
  // Made anew for each column: Sequelize writes the column's name into the object it is given.
  const text = () => ({ type: DataTypes.TEXT, allowNull: false });
  const optionalText = () => ({ type: DataTypes.TEXT, allowNull: true });
  const integer = () => ({ type: DataTypes.INTEGER, allowNull: false });
  const date = () => ({ type: DataTypes.DATE, allowNull: false });
  const options = { sequelize: database, underscored: true };
  ShowRow.init(
    {
      id: { ...text(), primaryKey: true },
      revision: integer(),
      document: text(),
      createdAt: date(),
      updatedAt: date(),
    },
    { ...options, tableName: "shows" },
  );
  RevisionRow.init(
    {
      showId: { ...text(), primaryKey: true },
      revision: { ...integer(), primaryKey: true },
      document: text(),
      createdAt: date(),
    },
    { ...options, tableName: "show_revisions", updatedAt: false },
  );
  MediaRow.init(
    { sha256: { ...text(), primaryKey: true }, facts: text(), createdAt: date() },
    { ...options, tableName: "media", updatedAt: false },
  );
  ExportRow.init(
    {
      id: { ...text(), primaryKey: true },
      showId: text(),
      state: text(),
      document: text(),
      progress: { type: DataTypes.DOUBLE, allowNull: false },
      step: text(),
      error: optionalText(),
      restarts: integer(),
      bytes: { type: DataTypes.INTEGER, allowNull: true },
      measurement: optionalText(),
      createdAt: date(),
    },
    { ...options, tableName: "exports", updatedAt: false },
  );
  await database.query("PRAGMA journal_mode = WAL");
  await new Umzug({
    migrations,
    context: database.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize: database }),
    logger: undefined,
  }).up();
  return database;
}
