import type { CreationOptional, InferAttributes, InferCreationAttributes, Model, Sequelize } from "sequelize";
import { date, double, integer, optionalDate, optionalInteger, optionalText, TABLE, text, truth } from "./columns.ts";

/** The page on which a client sees a show's film. */
export interface ClientPageRow extends Model<InferAttributes<ClientPageRow>, InferCreationAttributes<ClientPageRow>> {
  showId: string;
  token: string;
  /** Salt and hash (share/secrets.ts); null: none is wanted. */
  pin: string | null;
  /** Sessions that were given before it changed are none any more. */
  keyVersion: number;
  shown: boolean;
  expiresAt: Date | null;
  /** A JSON list. */
  embedOrigins: string;
  wrongTries: number;
  lockedUntil: Date | null;
  wrongAt: Date | null;
  createdAt: CreationOptional<Date>;
}

/** Whoever tried a PIN of a client page, by a hash of where they came from. */
export interface ClientVisitorRow
  extends Model<InferAttributes<ClientVisitorRow>, InferCreationAttributes<ClientVisitorRow>> {
  showId: string;
  visitor: string;
  wrongTries: number;
  lockedUntil: Date | null;
  wrongAt: Date | null;
  letIn: boolean;
  createdAt: CreationOptional<Date>;
}

/** A film that was published on a client page, with what was offered then. */
export interface ClientVersionRow
  extends Model<InferAttributes<ClientVersionRow>, InferCreationAttributes<ClientVersionRow>> {
  showId: string;
  number: number;
  note: string;
  /** ClientOffer as JSON. */
  offer: string;
  pageExportId: string;
  downloadExportId: string | null;
  createdAt: CreationOptional<Date>;
}

export interface ClientCommentRow
  extends Model<InferAttributes<ClientCommentRow>, InferCreationAttributes<ClientCommentRow>> {
  id: string;
  showId: string;
  threadId: string | null;
  author: string;
  name: string;
  text: string;
  version: number;
  seconds: number;
  slideId: string;
  round: number;
  done: boolean;
  /** The revision of the show when it was marked as done; null while it is open. */
  doneRevision: number | null;
  createdAt: CreationOptional<Date>;
}

export interface ClientPaymentRow
  extends Model<InferAttributes<ClientPaymentRow>, InferCreationAttributes<ClientPaymentRow>> {
  id: string;
  showId: string;
  requestKey: string;
  state: string;
  minorUnits: number;
  currency: string;
  /** What the payment is called where it is made; null until it is known there. */
  serviceId: string | null;
  checkoutUrl: string | null;
  createdAt: CreationOptional<Date>;
}

/** Client pages: visitors, versions, comments and payments. */
export const clientTables = (database: Sequelize) => ({
  clientPages: database.define<ClientPageRow>(
    "ClientPage",
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
    { ...TABLE, tableName: "client_pages", updatedAt: false },
  ),
  clientVisitors: database.define<ClientVisitorRow>(
    "ClientVisitor",
    {
      showId: { ...text(), primaryKey: true },
      visitor: { ...text(), primaryKey: true },
      wrongTries: integer(),
      lockedUntil: optionalDate(),
      wrongAt: optionalDate(),
      letIn: truth(),
      createdAt: date(),
    },
    { ...TABLE, tableName: "client_visitors", updatedAt: false },
  ),
  clientVersions: database.define<ClientVersionRow>(
    "ClientVersion",
    {
      showId: { ...text(), primaryKey: true },
      number: { ...integer(), primaryKey: true },
      note: text(),
      offer: text(),
      pageExportId: text(),
      downloadExportId: optionalText(),
      createdAt: date(),
    },
    { ...TABLE, tableName: "client_versions", updatedAt: false },
  ),
  clientComments: database.define<ClientCommentRow>(
    "ClientComment",
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
      doneRevision: optionalInteger(),
      createdAt: date(),
    },
    { ...TABLE, tableName: "client_comments", updatedAt: false },
  ),
  clientPayments: database.define<ClientPaymentRow>(
    "ClientPayment",
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
    { ...TABLE, tableName: "client_payments", updatedAt: false },
  ),
});
