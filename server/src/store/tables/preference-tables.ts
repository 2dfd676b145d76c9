import type { InferAttributes, InferCreationAttributes, Model, Sequelize } from "sequelize";
import { TABLE, text } from "./columns.ts";

/** What a person chose for this machine, whatever the show. */
export interface PreferenceRow extends Model<InferAttributes<PreferenceRow>, InferCreationAttributes<PreferenceRow>> {
  name: string;
  value: string;
}

/** What a person chose for this machine. */
export const preferenceTables = (database: Sequelize) => ({
  preferences: database.define<PreferenceRow>(
    "Preference",
    { name: { ...text(), primaryKey: true }, value: text() },
    { ...TABLE, tableName: "preferences", timestamps: false },
  ),
});
