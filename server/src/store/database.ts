import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  Sequelize,
  Transaction,
} from "sequelize";
import { checkDatabase, checkDatabaseFile } from "./database-check.ts";
import { migrate } from "./migrate.ts";

export class ShowRow extends Model<InferAttributes<ShowRow>, InferCreationAttributes<ShowRow>> {
  declare id: string;
  declare revision: number;
  declare document: string;
  /** StoredSummary as JSON; null: not summed up yet. */
  declare summary: string | null;
  /** Of CheckedDocument; null where the document cannot be read. */
  declare filmKey: string | null;
  /** How long the film of `filmRevision` is; null: it has none. */
  declare filmSeconds: number | null;
  declare filmRevision: number | null;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
  declare archivedAt: Date | null;
  declare deletedAt: Date | null;
}

export class RevisionRow extends Model<InferAttributes<RevisionRow>, InferCreationAttributes<RevisionRow>> {
  declare showId: string;
  declare revision: number;
  /** The document's JSON, deflated: every revision is kept, so they are packed. */
  declare document: Buffer;
  declare createdAt: CreationOptional<Date>;
}

export class TemplateRow extends Model<InferAttributes<TemplateRow>, InferCreationAttributes<TemplateRow>> {
  declare id: string;
  declare name: string;
  declare template: string;
  declare createdAt: CreationOptional<Date>;
}

/** A file that was announced for a show: what came of it. */
export class IntakeRow extends Model<InferAttributes<IntakeRow>, InferCreationAttributes<IntakeRow>> {
  declare id: string;
  declare showId: string;
  declare path: string;
  declare bytes: number;
  declare modifiedMs: number;
  declare state: string;
  declare sha256: string | null;
  declare message: string | null;
  declare createdAt: CreationOptional<Date>;
}

/** The playable copy of a clip. */
export class ProxyRow extends Model<InferAttributes<ProxyRow>, InferCreationAttributes<ProxyRow>> {
  declare sha256: string;
  declare state: string;
  declare error: string | null;
  /** How often making it was begun and not ended. */
  declare tries: CreationOptional<number>;
  declare createdAt: CreationOptional<Date>;
}

export class MediaRow extends Model<InferAttributes<MediaRow>, InferCreationAttributes<MediaRow>> {
  declare sha256: string;
  /** MediaFacts as JSON. */
  declare facts: string;
  declare createdAt: CreationOptional<Date>;
}

/** What a person noted about a song of the library. */
export class SongNotesRow extends Model<InferAttributes<SongNotesRow>, InferCreationAttributes<SongNotesRow>> {
  declare sha256: string;
  declare title: string;
  /** A JSON list of words. */
  declare tags: string;
  declare isFavourite: boolean;
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
  declare output: string | null;
  declare copiedTo: string | null;
  declare filmKey: string | null;
  declare fileName: string | null;
  declare createdAt: CreationOptional<Date>;
}

/** The page on which a client sees a show's film. */
export class ClientPageRow extends Model<InferAttributes<ClientPageRow>, InferCreationAttributes<ClientPageRow>> {
  declare showId: string;
  declare token: string;
  /** Salt and hash (share/secrets.ts); null: none is wanted. */
  declare pin: string | null;
  /** Sessions that were given before it changed are none any more. */
  declare keyVersion: number;
  declare shown: boolean;
  declare expiresAt: Date | null;
  /** A JSON list. */
  declare embedOrigins: string;
  declare wrongTries: number;
  declare lockedUntil: Date | null;
  declare wrongAt: Date | null;
  declare createdAt: CreationOptional<Date>;
}

/** Whoever tried a PIN of a client page, by a hash of where they came from. */
export class ClientVisitorRow extends Model<
  InferAttributes<ClientVisitorRow>,
  InferCreationAttributes<ClientVisitorRow>
> {
  declare showId: string;
  declare visitor: string;
  declare wrongTries: number;
  declare lockedUntil: Date | null;
  declare wrongAt: Date | null;
  declare letIn: boolean;
  declare createdAt: CreationOptional<Date>;
}

/** A film that was published on a client page, with what was offered then. */
export class ClientVersionRow extends Model<
  InferAttributes<ClientVersionRow>,
  InferCreationAttributes<ClientVersionRow>
> {
  declare showId: string;
  declare number: number;
  declare note: string;
  /** ClientOffer as JSON. */
  declare offer: string;
  declare pageExportId: string;
  declare downloadExportId: string | null;
  declare createdAt: CreationOptional<Date>;
}

export class ClientCommentRow extends Model<
  InferAttributes<ClientCommentRow>,
  InferCreationAttributes<ClientCommentRow>
> {
  declare id: string;
  declare showId: string;
  declare threadId: string | null;
  declare author: string;
  declare name: string;
  declare text: string;
  declare version: number;
  declare seconds: number;
  declare slideId: string;
  declare round: number;
  declare done: boolean;
  declare createdAt: CreationOptional<Date>;
}

export class ClientPaymentRow extends Model<
  InferAttributes<ClientPaymentRow>,
  InferCreationAttributes<ClientPaymentRow>
> {
  declare id: string;
  declare showId: string;
  declare requestKey: string;
  declare state: string;
  declare minorUnits: number;
  declare currency: string;
  /** What the payment is called where it is made; null until it is known there. */
  declare serviceId: string | null;
  declare checkoutUrl: string | null;
  declare createdAt: CreationOptional<Date>;
}

/** A film on its way to a video site or onto a disc. */
export class DeliveryRow extends Model<InferAttributes<DeliveryRow>, InferCreationAttributes<DeliveryRow>> {
  declare id: string;
  declare showId: string;
  declare exportId: string;
  /** DeliveryWish as JSON. */
  declare wish: string;
  declare state: string;
  declare step: string;
  declare progress: number;
  declare error: string | null;
  declare remark: string | null;
  declare place: string | null;
  /** What it is called at the service; null until it is known there. */
  declare serviceId: string | null;
  declare createdAt: CreationOptional<Date>;
}

/** What a person chose for this machine, whatever the show. */
export class PreferenceRow extends Model<InferAttributes<PreferenceRow>, InferCreationAttributes<PreferenceRow>> {
  declare name: string;
  declare value: string;
}

/**
 * Opens the database, looks whether it is whole, brings it to the newest layout and switches to
 * write-ahead logging. The caller closes it. Throws `database-empty`, `database-damaged` and
 * `database-newer`, before anything is changed.
 */
export async function openDatabase(path: string): Promise<Sequelize> {
  await checkDatabaseFile(path);
  const database = new Sequelize({
    dialect: "sqlite",
    storage: path,
    logging: false,
    // A transaction takes its place among writers when it begins. One that first reads and then wants to write could only fail.
    transactionType: Transaction.TYPES.IMMEDIATE,
    retry: { match: [/SQLITE_BUSY/], max: 12 },
  });
  // Made again for each column: Sequelize writes the column's name into the object it is given.
  const text = () => ({ type: DataTypes.TEXT, allowNull: false });
  const optionalText = () => ({ type: DataTypes.TEXT, allowNull: true });
  const integer = () => ({ type: DataTypes.INTEGER, allowNull: false });
  const truth = () => ({ type: DataTypes.BOOLEAN, allowNull: false });
  const double = () => ({ type: DataTypes.DOUBLE, allowNull: false });
  const date = () => ({ type: DataTypes.DATE, allowNull: false });
  const optionalDate = () => ({ type: DataTypes.DATE, allowNull: true });
  const options = { sequelize: database, underscored: true };
  ShowRow.init(
    {
      id: { ...text(), primaryKey: true },
      revision: integer(),
      document: text(),
      summary: optionalText(),
      filmKey: optionalText(),
      filmSeconds: { type: DataTypes.DOUBLE, allowNull: true },
      filmRevision: { type: DataTypes.INTEGER, allowNull: true },
      createdAt: date(),
      updatedAt: date(),
      archivedAt: optionalDate(),
      deletedAt: optionalDate(),
    },
    { ...options, tableName: "shows" },
  );
  RevisionRow.init(
    {
      showId: { ...text(), primaryKey: true },
      revision: { ...integer(), primaryKey: true },
      document: { type: DataTypes.BLOB, allowNull: false },
      createdAt: date(),
    },
    { ...options, tableName: "show_revisions", updatedAt: false },
  );
  MediaRow.init(
    { sha256: { ...text(), primaryKey: true }, facts: text(), createdAt: date() },
    { ...options, tableName: "media", updatedAt: false },
  );
  TemplateRow.init(
    { id: { ...text(), primaryKey: true }, name: text(), template: text(), createdAt: date() },
    { ...options, tableName: "templates", updatedAt: false },
  );
  IntakeRow.init(
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
    { ...options, tableName: "intake_files", updatedAt: false },
  );
  ProxyRow.init(
    {
      sha256: { ...text(), primaryKey: true },
      state: text(),
      error: optionalText(),
      tries: { ...integer(), defaultValue: 0 },
      createdAt: date(),
    },
    { ...options, tableName: "proxies", updatedAt: false },
  );
  SongNotesRow.init(
    {
      sha256: { ...text(), primaryKey: true },
      title: text(),
      tags: text(),
      isFavourite: truth(),
      createdAt: date(),
    },
    { ...options, tableName: "song_notes", updatedAt: false },
  );
  ExportRow.init(
    {
      id: { ...text(), primaryKey: true },
      showId: text(),
      state: text(),
      document: text(),
      progress: double(),
      step: text(),
      error: optionalText(),
      restarts: integer(),
      bytes: { type: DataTypes.INTEGER, allowNull: true },
      measurement: optionalText(),
      output: optionalText(),
      copiedTo: optionalText(),
      filmKey: optionalText(),
      fileName: optionalText(),
      createdAt: date(),
    },
    { ...options, tableName: "exports", updatedAt: false },
  );
  ClientPageRow.init(
    {
      showId: { ...text(), primaryKey: true },
      token: text(),
      pin: optionalText(),
      keyVersion: integer(),
      shown: truth(),
      expiresAt: optionalDate(),
      embedOrigins: text(),
      wrongTries: integer(),
      lockedUntil: optionalDate(),
      wrongAt: optionalDate(),
      createdAt: date(),
    },
    { ...options, tableName: "client_pages", updatedAt: false },
  );
  ClientVisitorRow.init(
    {
      showId: { ...text(), primaryKey: true },
      visitor: { ...text(), primaryKey: true },
      wrongTries: integer(),
      lockedUntil: optionalDate(),
      wrongAt: optionalDate(),
      letIn: truth(),
      createdAt: date(),
    },
    { ...options, tableName: "client_visitors", updatedAt: false },
  );
  ClientVersionRow.init(
    {
      showId: { ...text(), primaryKey: true },
      number: { ...integer(), primaryKey: true },
      note: text(),
      offer: text(),
      pageExportId: text(),
      downloadExportId: optionalText(),
      createdAt: date(),
    },
    { ...options, tableName: "client_versions", updatedAt: false },
  );
  ClientCommentRow.init(
    {
      id: { ...text(), primaryKey: true },
      showId: text(),
      threadId: optionalText(),
      author: text(),
      name: text(),
      text: text(),
      version: integer(),
      seconds: double(),
      slideId: text(),
      round: integer(),
      done: truth(),
      createdAt: date(),
    },
    { ...options, tableName: "client_comments", updatedAt: false },
  );
  ClientPaymentRow.init(
    {
      id: { ...text(), primaryKey: true },
      showId: text(),
      requestKey: text(),
      state: text(),
      minorUnits: integer(),
      currency: text(),
      serviceId: optionalText(),
      checkoutUrl: optionalText(),
      createdAt: date(),
    },
    { ...options, tableName: "client_payments", updatedAt: false },
  );
  DeliveryRow.init(
    {
      id: { ...text(), primaryKey: true },
      showId: text(),
      exportId: text(),
      wish: text(),
      state: text(),
      step: text(),
      progress: double(),
      error: optionalText(),
      remark: optionalText(),
      place: optionalText(),
      serviceId: optionalText(),
      createdAt: date(),
    },
    { ...options, tableName: "deliveries", updatedAt: false },
  );
  PreferenceRow.init(
    { name: { ...text(), primaryKey: true }, value: text() },
    { ...options, tableName: "preferences", timestamps: false },
  );
  try {
    await checkDatabase(database);
    await database.query("PRAGMA journal_mode = WAL");
    await migrate(database);
  } catch (error) {
    await database.close();
    throw error;
  }
  return database;
}
