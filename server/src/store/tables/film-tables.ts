import type { InferAttributes, InferCreationAttributes, Model, Sequelize } from "sequelize";
import { type JobFields, jobColumns, optionalInteger, optionalText, TABLE, text } from "./columns.ts";

export interface ExportRow extends JobFields, Model<InferAttributes<ExportRow>, InferCreationAttributes<ExportRow>> {
  showId: string;
  document: string;
  bytes: number | null;
  measurement: string | null;
  output: string | null;
  copiedTo: string | null;
  filmKey: string | null;
  fileName: string | null;
}

/** A film on its way to a video site or onto a disc. */
export interface DeliveryRow
  extends JobFields,
    Model<InferAttributes<DeliveryRow>, InferCreationAttributes<DeliveryRow>> {
  showId: string;
  exportId: string;
  /** DeliveryWish as JSON. */
  wish: string;
  remark: string | null;
  place: string | null;
  /** What it is called at the service; null until it is known there. */
  serviceId: string | null;
}

/** Films that were exported, and their deliveries. */
export const filmTables = (database: Sequelize) => ({
  exports: database.define<ExportRow>(
    "Export",
    {
      ...jobColumns(),
      showId: text(),
      document: text(),
      bytes: optionalInteger(),
      measurement: optionalText(),
      output: optionalText(),
      copiedTo: optionalText(),
      filmKey: optionalText(),
      fileName: optionalText(),
    },
    { ...TABLE, tableName: "exports", updatedAt: false },
  ),
  deliveries: database.define<DeliveryRow>(
    "Delivery",
    {
      ...jobColumns(),
      showId: text(),
      exportId: text(),
      wish: text(),
      remark: optionalText(),
      place: optionalText(),
      serviceId: optionalText(),
    },
    { ...TABLE, tableName: "deliveries", updatedAt: false },
  ),
});
